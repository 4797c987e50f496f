"""Proposals on the Client page: accepted, altered, refused, and what becomes of them."""

from datetime import date, timedelta

import pytest
from django.urls import reverse

from core.editing.step_targets import with_repetitions
from core.grading.need import Need
from tests.conftest import CLOSED, NOW, enrol, member
from tests.factories.deciding import climb_key, page_of, send
from tests.factories.practice import practice, ready, session_on
from web.practice.models import HomeSession
from web.programs.models import Draft, ProgramVersion
from web.programs.queries import active_version
from web.programs.usecases.drafts import edit_draft
from web.review.caseload.rounds import rounds
from web.review.models import Decision, DecisionDone

pytestmark = pytest.mark.django_db


@pytest.fixture
def climbing(person, version):
    """A client whose ladder may climb."""
    practice(person, version, 11, 12, 13, 14)
    ready(person)
    return person


def test_accepting_a_climb_makes_the_version_that_is_practiced_next(
    signed_in, climbing, version, clinician
):
    page = page_of(signed_in, climbing)
    assert "To decide" in page
    assert "Climb one rung" in page
    answer = send(signed_in, climbing, climb_key(version))
    assert answer.status_code == 302
    assert "Version 2 is active" in signed_in.get(answer.url).content.decode()
    now = active_version(climbing.pk)
    assert now.number == 2
    # rung 6.5 s → 7 s, the warm-up with it
    assert {hold.seconds for step in now.program.steps for hold in step.holds} == {7.0}
    decision = Decision.objects.get()
    assert (decision.act, decision.verdict, decision.version) == ("climb", "accepted", now)
    assert decision.evidence["reasons"][0]["code"] == "meets_goal"
    assert Draft.objects.get(client=climbing).content == now.content
    assert "Climb one rung" not in page_of(signed_in, climbing)


def test_the_same_decision_sent_twice_climbs_once(signed_in, climbing, version):
    send(signed_in, climbing, climb_key(version))
    again = send(signed_in, climbing, climb_key(version))
    assert again.status_code == 422
    assert ProgramVersion.objects.count() == 2
    assert Decision.objects.count() == 1


def test_the_second_of_two_clinicians_is_told_who_came_first(
    client, signed_in, climbing, version, clinic
):
    send(signed_in, climbing, climb_key(version))
    other = member(clinic, "ole@quay.example")
    client.force_login(other)
    told = send(client, climbing, climb_key(version))
    assert told.status_code == 422
    assert "una made version 2 meanwhile" in told.content.decode()


def test_another_rung_asks_for_a_reason(signed_in, climbing, version):
    bare = send(signed_in, climbing, climb_key(version), rung=2)
    assert bare.status_code == 422
    assert "Say why" in bare.content.decode()
    assert not Decision.objects.exists()
    send(signed_in, climbing, climb_key(version), rung=2, reason="held 9 s in the visit")
    decision = Decision.objects.get()
    assert (decision.verdict, decision.rung, decision.reason) == (
        "altered",
        2,
        "held 9 s in the visit",
    )
    assert active_version(climbing.pk).program.soft_holds.grade.value == 8.0


def test_a_refusal_asks_for_a_reason_and_is_not_asked_again_without_anything_new(
    signed_in, climbing, version
):
    bare = send(signed_in, climbing, climb_key(version), accept="no")
    assert bare.status_code == 422
    send(signed_in, climbing, climb_key(version), accept="no", reason="a cold")
    assert Decision.objects.get().verdict == "refused"
    assert ProgramVersion.objects.count() == 1
    assert "Climb one rung" not in page_of(signed_in, climbing)
    Decision.objects.update(day=date(2026, 6, 14))
    session_on(climbing, version, 15)
    ready(climbing)
    assert "Climb one rung" in page_of(signed_in, climbing)


def test_what_was_typed_is_kept_when_a_decision_cannot_be(signed_in, climbing, version):
    told = send(signed_in, climbing, climb_key(version), after=7, reason="ten words")
    assert told.status_code == 422
    assert 'value="ten words"' in told.content.decode()


@pytest.mark.parametrize(
    "odd",
    [
        {"after": "x"},
        {"accept": "perhaps"},
        {"rung": "-1"},
        {"rung": "61"},
        {"due_on": "soon"},
        {"key": ""},
        {"key": "climb|nothing"},
        {"rung": "40", "reason": "far"},
        {"reason": "\x00"},
    ],
)
def test_a_decision_that_cannot_be_changes_nothing(signed_in, climbing, version, odd):
    answer = send(signed_in, climbing, **{"key": climb_key(version)} | odd)
    assert answer.status_code == 422
    assert not Decision.objects.exists()
    assert ProgramVersion.objects.count() == 1


def test_nobody_decides_for_a_client_of_another_clinic(client, climbing, version, other_clinic):
    client.force_login(member(other_clinic, "far@shore.example"))
    assert send(client, climbing, climb_key(version)).status_code == 404
    assert not Decision.objects.exists()


def test_the_gate_stands_before_a_climb_too(signed_in, climbing, version, clinician):
    from web.clients.usecases.enrol import record_screening

    record_screening(
        climbing,
        by=clinician,
        now=NOW,
        voice="troubled",
        airway="larynx",
        asked_on=NOW.date(),
        larynx_examined_on=NOW.date() - timedelta(days=20),
        red_flags=["neck_lump"],
    )
    answer = send(signed_in, climbing, climb_key(version))
    assert answer.status_code == 422
    assert ProgramVersion.objects.count() == 1
    assert not Decision.objects.exists()


def test_a_draft_with_changes_of_its_own_is_left_as_it_is(signed_in, climbing, version, clinician):
    step = version.program.soft_holds
    edit_draft(
        climbing,
        revision=Draft.objects.get(client=climbing).revision,
        change=lambda p: with_repetitions(p, step.step_id, 3),
        by=clinician,
        now=NOW,
    )
    before = Draft.objects.get(client=climbing).content
    send(signed_in, climbing, climb_key(version))
    assert active_version(climbing.pk).number == 2
    assert Draft.objects.get(client=climbing).content == before


def test_a_call_becomes_a_task_with_a_date_until_it_is_done(signed_in, person, version, clinician):
    session_on(person, version, 13, strain=6)
    session_on(person, version, 14, strain=6)
    ready(person)
    assert "Call the client" in page_of(signed_in, person)
    send(signed_in, person, "contact", due_on="2026-06-17")
    task = Decision.objects.get()
    assert (task.act, task.due_on, task.version) == ("contact", date(2026, 6, 17), None)
    page = page_of(signed_in, person)
    assert "due 17 June" in page
    # a contact is not ticked off: what was said and decided closes it
    signed_in.post(reverse("review:done", args=[person.pk, task.pk]))
    assert not DecisionDone.objects.exists()
    signed_in.post(reverse("review:clear_stop", args=[person.pk]), CLOSED)
    done = DecisionDone.objects.get()
    assert (done.by, done.said, done.then) == (clinician, CLOSED["said"], "reopen")
    assert "due 17 June" not in page_of(signed_in, person)


def test_days_away_begin_one_rung_lower(signed_in, climbing, version):
    send(signed_in, climbing, climb_key(version))
    HomeSession.objects.update(practice_day=date(2026, 6, 7))
    ProgramVersion.objects.all()
    ready(climbing)
    page = page_of(signed_in, climbing)
    assert "Begin again one rung lower" in page
    send(signed_in, climbing, "rung_down", after=2)
    assert active_version(climbing.pk).program.soft_holds.grade.value == 6.5


def test_a_client_without_a_program_has_nothing_to_decide(signed_in, clinic, clinician):
    someone = enrol(clinic, clinician, name="Ada Berth")
    page = page_of(signed_in, someone)
    assert "To decide" not in page
    assert send(signed_in, someone, "climb").status_code == 422
    (line,) = rounds(clinic, clinician=None, today=date(2026, 6, 15)).lines
    assert line.need is Need.BASELINE
