"""An unanswered contact is reminded of every working day, once, until it is closed."""

from datetime import UTC, datetime

import pytest

from core.grading.act import Act
from tests.conftest import CLOSED, NOW, enrol, member
from tests.factories.stop_mail import stop
from web.clinic.models import Membership, OutboxMessage
from web.clinic.usecases import outbox
from web.practice.usecases.open_session import open_session
from web.review.models import Decision, DecisionVerdict
from web.review.usecases import remind_of_contacts as contact_reminders
from web.review.usecases.close_contact import close_contact
from web.review.usecases.remind_of_contacts import remind_of_contacts

pytestmark = pytest.mark.django_db
MONDAY, TUESDAY, SATURDAY = (datetime(2026, 6, day, 11, tzinfo=UTC) for day in (15, 16, 20))


@pytest.fixture
def at(monkeypatch):
    """The clock of the reminders and of the mails they write."""

    def set_to(moment):
        for module in (contact_reminders, outbox):
            monkeypatch.setattr(module.clock, "now", lambda: moment)

    return set_to


@pytest.fixture
def signed(version, access):
    """A stop sign said on Sunday 14 June; its own mails are sent."""
    import uuid

    stop(open_session(access, session_id=uuid.uuid4(), now=NOW))
    OutboxMessage.objects.all().delete()


def test_every_working_day_once_to_clinician_and_deputy(signed, at, clinic, clinician):
    deputy = member(clinic, "ines@harrow-quay.example")
    Membership.objects.filter(user=clinician).update(deputy=deputy)
    for moment, mails in ((MONDAY, 2), (MONDAY, 2), (TUESDAY, 4), (SATURDAY, 4)):
        at(moment)
        remind_of_contacts()
        assert OutboxMessage.objects.count() == mails, moment
    assert set(OutboxMessage.objects.values_list("to", flat=True)) == {
        clinician.email,
        deputy.email,
    }
    words = " ".join(f"{one.subject} {one.body}" for one in OutboxMessage.objects.all())
    assert "/rounds/" in words
    assert "Maren" not in words


def test_not_before_the_working_day_begins_nor_on_the_day_it_was_said(signed, at):
    at(datetime(2026, 6, 15, 7, 30, tzinfo=UTC))  # half past eight in Dublin
    assert remind_of_contacts() == 0
    at(NOW)
    assert remind_of_contacts() == 0


def test_a_closed_contact_is_not_reminded_of_and_an_unsent_reminder_is_withdrawn(
    signed, at, person, clinician
):
    at(MONDAY)
    assert remind_of_contacts() == 1
    close_contact(person, **CLOSED, by=clinician, now=MONDAY)
    assert OutboxMessage.objects.get().withdrawn_at is not None
    at(TUESDAY)
    assert remind_of_contacts() == 0


def test_a_call_that_was_decided_and_not_made_is_reminded_of_too(person, clinician, at):
    made = {"clinic_id": person.clinic_id, "client": person, "by": clinician, "at": NOW}
    Decision.objects.create(
        act=Act.CONTACT, verdict=DecisionVerdict.ACCEPTED, day=NOW.date(), due_on=NOW.date(), **made
    )
    enrol(person.clinic, clinician, name="Osric Fendt")  # has nothing to be called about
    at(MONDAY)
    assert remind_of_contacts() == 1


def test_where_the_clinician_has_left_the_leads_are_told(signed, at, clinician, clinic):
    Membership.objects.filter(user=clinician).update(active=False)
    at(MONDAY)
    remind_of_contacts()
    assert OutboxMessage.objects.get().to == "lead@quay.example"
