"""A stop sign mails who treats the client and the deputy at once, the cover after a working day."""

import uuid
from datetime import UTC, datetime

import pytest
from django.test import Client as Browser
from django.urls import reverse

from tests.conftest import CLOSED, NOW, member
from tests.factories.stop_mail import stop
from web.clinic import clock
from web.clinic.models import Membership, OutboxMessage
from web.clinic.usecases import outbox
from web.practice.models import HomeSession
from web.practice.usecases.open_session import open_session

pytestmark = pytest.mark.django_db
LATE = datetime(2026, 6, 30, tzinfo=UTC)


@pytest.fixture
def deputy(clinic, clinician):
    other = member(clinic, "ines@harrow-quay.example")
    Membership.objects.filter(user=clinician).update(deputy=other)
    return other


@pytest.fixture
def cover(clinic):
    other = member(clinic, "cover@harrow-quay.example")
    clinic.cover = other
    clinic.save()
    return other


@pytest.fixture
def session(version, access):
    return open_session(access, session_id=uuid.uuid4(), now=NOW)


def mails():
    return {row.to: row for row in OutboxMessage.objects.all()}


def test_clinician_and_deputy_at_once_without_a_word_about_the_client(
    session, person, clinician, deputy
):
    stop(session)
    written = mails()
    assert set(written) == {clinician.email, deputy.email}
    for mail in written.values():
        assert mail.not_before is None
        words = f"{mail.subject} {mail.body}"
        assert "/rounds/" in words
        for secret in (person.name, person.name.split()[0], "pain", str(person.pk)):
            assert secret not in words


def test_the_cover_after_a_working_day_and_not_once_it_is_cleared(
    signed_in, session, person, clinician, cover, monkeypatch
):
    stop(session)
    waiting = mails()[cover.email]
    # 14 June 2026 is a Sunday: from Monday nine o'clock in Dublin (8 UTC) a whole working day
    assert NOW.date().weekday() == 6
    assert waiting.not_before == datetime(2026, 6, 16, 8, 0, tzinfo=UTC)
    outbox.deliver()
    assert OutboxMessage.objects.get(pk=waiting.pk).sent_at is None
    signed_in.post(reverse("review:clear_stop", args=[person.pk]), CLOSED)
    monkeypatch.setattr(clock, "now", lambda: LATE)
    outbox.deliver()
    waiting.refresh_from_db()
    assert (waiting.sent_at, waiting.withdrawn_at is not None) == (None, True)


def test_the_cover_is_told_where_nobody_answered(session, cover, monkeypatch):
    stop(session)
    monkeypatch.setattr(clock, "now", lambda: LATE)
    outbox.deliver()
    assert mails()[cover.email].sent_at is not None


def test_the_same_sign_sent_twice_mails_once(session, clinician):
    entry = str(uuid.uuid4())
    stop(session, entry_id=entry)
    stop(session, entry_id=entry)
    assert OutboxMessage.objects.count() == 1


def test_who_no_longer_works_here_gets_no_mail(session, clinician, deputy, cover):
    Membership.objects.filter(user__in=[deputy, cover]).update(active=False)
    stop(session)
    assert set(mails()) == {clinician.email}


def test_a_sign_without_anybody_to_tell_is_kept_all_the_same(session, clinician):
    Membership.objects.filter(user=clinician).update(active=False)
    assert stop(session).status == "kept"
    assert HomeSession.objects.get().stop_sign == "pain"
    assert not OutboxMessage.objects.exists()


def test_the_lead_says_who_stands_in_for_whom(clinic, other_clinic, clinician):
    lead = Browser()
    lead.force_login(member(clinic, "head@harrow-quay.example", role="lead"))
    other = member(clinic, "ines@harrow-quay.example")
    stranger = member(other_clinic, "far@tarn-mouth.example")
    own = clinician.membership
    where = reverse("clinic:set_deputy", args=[own.pk])

    def kept():
        return Membership.objects.get(pk=own.pk).deputy

    lead.post(where, {"deputy": str(other.pk)})
    assert kept() == other
    for wrong in (stranger.pk, clinician.pk, "x"):
        lead.post(where, {"deputy": str(wrong)})
        assert kept() == other
    lead.post(where, {"deputy": ""})
    assert kept() is None
    theirs = reverse("clinic:set_deputy", args=[stranger.membership.pk])
    assert lead.post(theirs, {"deputy": ""}).status_code == 404


def test_the_cover_is_chosen_on_the_clinic_page(clinic, other_clinic, cover):
    lead = Browser()
    lead.force_login(member(clinic, "head@harrow-quay.example", role="lead"))
    page = lead.get(reverse("clinic:clinic")).content.decode()
    assert "told of a stop sign nobody answered" in page
