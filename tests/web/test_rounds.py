"""Rounds: order of need, windows, filters, putting off, handing over; visits."""

import threading
import uuid
from datetime import UTC, date, datetime, timedelta

import pytest
from django.core.management import call_command
from django.db import OperationalError
from django.test import Client as Browser
from django.urls import reverse

from core.grading.need import Need
from tests.conftest import NOW, activate_program, enrol, member, red_flag
from tests.factories.deciding import send
from tests.factories.practice import practice, ready, session_on
from web.clients.models import Visit
from web.clinic.background import run_periodically
from web.measuring.sinks import AttemptOffer, AttemptTaken
from web.practice.models import HomeSession
from web.practice.usecases.save_attempt import PracticeSink
from web.practice.usecases.save_entry import SentEntry, save_entry
from web.programs.models import ProgramVersion
from web.review.caseload.rounds import WINDOW, rounds
from web.review.models import CaseloadRow, ComingNeed, HandOver, Snooze
from web.review.usecases.refresh_row import rebuilt, rows_worked_out_once, work_out_stale

pytestmark = pytest.mark.django_db
TODAY = date(2026, 6, 15)


def day(n):
    return TODAY + timedelta(days=n)


def lines(clinic, today=TODAY, **asked):
    return rounds(clinic, clinician=None, today=today, **asked).lines


def needs(clinic, today=TODAY, **asked):
    return [(line.client.name, line.need) for line in lines(clinic, today, **asked)]


def put_off(browser, person, until, reason="On holiday."):
    where = reverse("review:put_off", args=[person.pk])
    return browser.post(where, {"until": until.isoformat() if until else "", "reason": reason})


@pytest.fixture
def climbing(person, version):
    practice(person, version, 11, 12, 13, 14)
    ready(person)
    return person


def test_the_day_alone_turns_a_need_without_any_run(clinic, climbing):
    assert needs(clinic) == [(climbing.name, Need.READY_TO_CLIMB)]
    # the last home session is of 14 June: seven whole days without one lie before the 22nd
    assert needs(clinic, day(6)) == [(climbing.name, Need.ON_COURSE)]
    assert needs(clinic, day(7)) == [(climbing.name, Need.LAPSED)]
    assert needs(clinic, day(300)) == [(climbing.name, Need.LAPSED)]
    # where the clinic is it may be yesterday still
    assert needs(clinic, day(-1)) == [(climbing.name, Need.READY_TO_CLIMB)]
    assert "290 days" in lines(clinic, day(289))[0].reason


def test_exactly_one_need_holds_on_any_day(clinic, climbing):
    for ahead in range(70):
        assert len(lines(clinic, day(ahead))) == 1


def test_what_was_proposed_is_told_with_its_reasons(clinic, climbing):
    (line,) = lines(clinic)
    assert line.reason.startswith("Climb one rung (Warm-up hold, Power notes): ")
    assert "home sessions meet the goal" in line.reason
    assert line.course is not None


def test_a_decision_takes_the_need_away_and_a_task_brings_it_back(
    signed_in, clinic, person, version
):
    session_on(person, version, 10)
    session_on(person, version, 14)
    HomeSession.objects.filter(practice_day=date(2026, 6, 14)).update(soft_high_lost=True)
    ready(person)
    assert needs(clinic) == [(person.name, Need.EXAMINATION)]
    send(signed_in, person, "examine", due_on="2026-06-18")
    assert lines(clinic)[0].need is not Need.EXAMINATION
    (due,) = lines(clinic, day(3))
    assert due.need is Need.TASK_DUE
    assert due.reason == "Examine again was due on Jun 18."
    assert lines(clinic, day(2))[0].need is not Need.TASK_DUE


def test_most_urgent_first_then_the_longest_waiting_then_by_name(clinic, clinician, person):
    for name in ("Zea Brack", "Ada Berth", "Moll Heron"):
        enrol(clinic, clinician, name=name)
    early, late = (
        enrol(clinic, clinician, name="Early Reed"),
        enrol(clinic, clinician, name="Late Sedge"),
    )
    activate_program(late, clinician, now=NOW - timedelta(days=8))
    activate_program(early, clinician, now=NOW - timedelta(days=20))
    for one in (early, late):
        ready(one)
    found = needs(clinic)
    assert [name for name, _need in found[:2]] == ["Early Reed", "Late Sedge"]
    baselines = [name for name, need in found if need is Need.BASELINE]
    assert baselines == sorted(baselines)


def test_windows_of_the_caseload(signed_in, clinic, clinician):
    for number in range(WINDOW + 2):
        enrol(clinic, clinician, name=f"Client {number:03}")
    first = signed_in.get(reverse("review:rounds")).content.decode()
    assert "Client 000" in first
    assert f"Client {WINDOW:03}" not in first
    assert f"Page 1 of 2, {WINDOW + 2} clients" in first
    second = signed_in.get(reverse("review:rounds"), {"page": "2"}).content.decode()
    assert f"Client {WINDOW:03}" in second
    assert "Client 000" not in second
    for odd in ("0", "-3", "99", "x", "1e9", "٣", ""):
        assert signed_in.get(reverse("review:rounds"), {"page": odd}).status_code == 200
    for odd in ("77", "x", "-1", "\x00"):
        assert signed_in.get(reverse("review:rounds"), {"need": odd}).status_code == 200
    assert signed_in.get(reverse("review:rounds"), {"find": "a\x00b"}).status_code == 200


def test_only_one_need_is_shown(signed_in, clinic, clinician, climbing):
    enrol(clinic, clinician, name="Ada Berth")
    asked = {"need": str(int(Need.BASELINE))}
    page = signed_in.get(reverse("review:rounds"), asked).content.decode()
    assert "Ada Berth" in page
    assert climbing.name not in page


def test_put_off_until_its_day_unless_something_more_urgent_comes(signed_in, clinic, climbing):
    assert put_off(signed_in, climbing, day(4)).status_code == 302
    assert needs(clinic) == []
    assert needs(clinic, put_off=True) == [(climbing.name, Need.READY_TO_CLIMB)]
    assert needs(clinic, day(3)) == []
    assert len(needs(clinic, day(4))) == 1
    page = signed_in.get(reverse("review:rounds")).content.decode()
    assert "Put off 1" in page
    # a stop sign does not wait
    HomeSession.objects.filter(practice_day=date(2026, 6, 14)).update(
        outcome="stopped", stop_sign="pain"
    )
    ready(climbing)
    assert needs(clinic) == [(climbing.name, Need.STOP_SIGN)]


def test_being_away_is_more_urgent_than_what_was_put_off(signed_in, clinic, climbing):
    put_off(signed_in, climbing, day(30))
    assert needs(clinic, day(6)) == []
    assert needs(clinic, day(7)) == [(climbing.name, Need.LAPSED)]


def test_in_rounds_again(signed_in, clinic, climbing):
    put_off(signed_in, climbing, day(4))
    put_off(signed_in, climbing, None)
    assert len(needs(clinic)) == 1


@pytest.mark.parametrize("until", [TODAY, day(-1), day(61)])
def test_putting_off_has_its_limits(signed_in, climbing, until):
    answer = put_off(signed_in, climbing, until)
    assert answer.status_code == 422
    assert "within the next 60 days" in answer.content.decode()
    assert Snooze.objects.count() == 0


def test_what_must_not_wait_cannot_be_put_off(signed_in, climbing):
    HomeSession.objects.filter(practice_day=date(2026, 6, 14)).update(
        outcome="stopped", stop_sign="pain"
    )
    ready(climbing)
    answer = put_off(signed_in, climbing, day(4))
    assert answer.status_code == 422
    assert "must not wait" in answer.content.decode()


def hand(browser, person, to, note="Prefers mornings."):
    return browser.post(
        reverse("review:hand_over", args=[person.pk]), {"to": str(to.pk), "note": note}
    )


def test_handed_over_with_a_note_until_it_is_read(signed_in, clinic, climbing, mailoutbox):
    colleague = member(clinic, "ines@harrow-quay.example")
    assert hand(signed_in, climbing, colleague).status_code == 302
    climbing.refresh_from_db()
    assert climbing.clinician == colleague
    (mail,) = mailoutbox
    assert mail.to == [colleague.email]
    assert climbing.name not in mail.subject + mail.body
    assert "mornings" not in mail.body
    theirs = Browser()
    theirs.force_login(colleague)
    assert "Prefers mornings." in theirs.get(reverse("review:rounds")).content.decode()
    assert climbing.name not in signed_in.get(reverse("review:rounds")).content.decode()
    # only who it was handed to says that it is read
    signed_in.post(reverse("review:read_note", args=[climbing.pk]))
    assert "Prefers mornings." in theirs.get(reverse("review:rounds")).content.decode()
    for _twice in "ab":
        theirs.post(reverse("review:read_note", args=[climbing.pk]))
    assert "Prefers mornings." not in theirs.get(reverse("review:rounds")).content.decode()


def test_handing_over_to_nobody_changes_nothing(
    signed_in, clinic, other_clinic, climbing, clinician
):
    stranger = member(other_clinic, "far@tarn-mouth.example")
    for to, note in ((stranger, "Take her."), (clinician, "To myself.")):
        assert hand(signed_in, climbing, to, note).status_code == 422
    colleague = member(clinic, "ines@harrow-quay.example")
    assert hand(signed_in, climbing, colleague, "   ").status_code == 422
    climbing.refresh_from_db()
    assert climbing.clinician == clinician
    assert HandOver.objects.count() == 0


def visit(browser, person, **values):
    return browser.post(reverse("review:visit", args=[person.pk]), values)


def test_a_visit_is_kept_and_the_next_is_shown(signed_in, person):
    answer = visit(
        signed_in, person, day="2026-06-12", next_on="2026-06-26", goal_held="yes", note="Calm."
    )
    assert answer.status_code == 302
    page = signed_in.get(reverse("review:client", args=[person.pk])).content.decode()
    assert "Friday 26 June" in page
    assert "Calm." in page
    kept = Visit.objects.get()
    assert (kept.day, kept.next_on, kept.goal_held, kept.corrects) == (
        date(2026, 6, 12),
        date(2026, 6, 26),
        True,
        None,
    )


@pytest.mark.parametrize(
    ("values", "words"),
    [
        ({"day": ""}, "year-month-day"),
        ({"day": "12 June"}, "year-month-day"),
        ({"day": "2026-06-16"}, "within a year"),
        ({"day": "2025-06-13"}, "within a year"),
        ({"day": "2026-06-12", "next_on": "2026-06-14"}, "from today on"),
        ({"day": "2026-06-12", "next_on": "2027-06-17"}, "within a year"),
        ({"day": "2026-06-15", "next_on": "2026-06-15"}, "after this one"),
        ({"day": "2026-06-12", "goal_held": "perhaps"}, "year-month-day"),
    ],
)
def test_a_visit_that_cannot_be_is_said(signed_in, person, values, words):
    answer = visit(signed_in, person, **values)
    assert answer.status_code == 422
    assert words in answer.content.decode()
    assert Visit.objects.count() == 0


def test_rebuilding_makes_the_same_needs(clinic, climbing):
    def stored():
        names = ("client_id", "from_day", "until_day", "need", "since", "act", "about", "words")
        return list(ComingNeed.objects.order_by("from_day").values(*names))

    before = stored()
    assert len(before) > 2
    ComingNeed.objects.all().delete()
    call_command("rebuild_rows")
    assert stored() == before


def test_practicing_again_is_seen_with_the_first_attempt(clinic, person, home, version):
    """A page that is closed before the end must not leave the client among those who are away."""
    ready(person)
    assert needs(clinic) == [(person.name, Need.LAPSED)]
    _session, ticket = home
    end, step = PracticeSink(), version.program.main_step
    offer = AttemptOffer(attempt_id=str(uuid.uuid4()), step_id=step.step_id, elapsed_ms=9_000)
    caught = AttemptTaken(taken="stopwatch", sha256="0" * 64, seconds=6.0)
    assert end.keep(ticket, offer, end.permit(ticket, offer), caught, NOW).status == "kept"
    assert work_out_stale() == 1
    (line,) = lines(clinic)
    assert line.need is not Need.LAPSED
    assert line.since_days == 1
    assert work_out_stale() == 0


def test_four_weeks_at_a_glance_stand_on_the_client_page(signed_in, climbing):
    page = signed_in.get(reverse("review:client", args=[climbing.pk])).content.decode()
    assert "Four weeks: Power notes" in page
    # held 7 s on each of the last three days, the rung asks for 6.5 s
    assert "7.0\u00a0s, target 6.5\u00a0s" in page


def test_after_an_update_nobody_is_missing_from_rounds(clinic, climbing):
    """Rows that a former version never wrote are worked out by the migration."""
    ComingNeed.objects.all().delete()
    assert needs(clinic) == []
    call_command("migrate", verbosity=0)
    assert needs(clinic) == [(climbing.name, Need.READY_TO_CLIMB)]


def screening_in_row(client):
    return CaseloadRow.objects.get(client=client).screening


def test_many_changes_are_worked_out_once_at_their_end(person, clinician):
    before = screening_in_row(person)
    with rows_worked_out_once():
        red_flag(person, clinician)
        assert screening_in_row(person) == before
    after = screening_in_row(person)
    assert "blood" in str(after)
    assert rebuilt(person).screening == after


def test_changes_that_broke_off_put_nothing_off_afterwards(person, clinician):
    with pytest.raises(ValueError, match="broke off"), rows_worked_out_once():
        raise ValueError("broke off")
    red_flag(person, clinician)
    assert "blood" in str(screening_in_row(person))


def test_a_strain_of_four_in_an_open_session_is_worked_in_at_once(clinic, person, home, version):
    """Less waits for the work beside the server; four may ask for a call."""
    _session, ticket = home
    step = version.program.main_step.step_id

    def answer(value):
        said = SentEntry(entry_id=str(uuid.uuid4()), kind="strain", step_id=step, value=value)
        save_entry(ticket, said, now=NOW)
        return CaseloadRow.objects.get(client=person).stale_since

    ready(person)
    assert answer(3) is not None
    assert answer(4) is None


@pytest.mark.parametrize("failure", [OperationalError("gone for a moment"), ValueError("odd")])
def test_work_beside_the_server_goes_on_whatever_one_job_failed_at(failure):
    asked, again, other = [], threading.Event(), threading.Event()

    def job():
        asked.append(1)
        if len(asked) == 1:
            raise failure
        again.set()

    ended = run_periodically([job, other.set], every_s=0.01)
    try:
        assert again.wait(20)
        assert other.is_set()
    finally:
        ended.set()


def test_a_row_that_cannot_be_worked_out_keeps_no_other_waiting(clinic, clinician, person, home):
    """Its contents are broken: the newest version of the program cannot be read."""
    second = enrol(clinic, clinician, name="Osric Fendt")
    broken = CaseloadRow.objects.get(client=person)
    ready(second)
    early = datetime(2026, 6, 14, tzinfo=UTC)
    CaseloadRow.objects.filter(client=person).update(stale_since=early)
    CaseloadRow.objects.filter(client=second).update(stale_since=early + timedelta(hours=1))
    ProgramVersion.objects.filter(client=person).update(content={"format": 99})
    assert work_out_stale(most=2) == 2
    assert CaseloadRow.objects.get(client=second).stale_since is None
    broken.refresh_from_db()
    # it says so, and is not tried again and again
    assert str(ProgramVersion.objects.get(client=person).pk) in broken.unreadable
    assert broken.stale_since is None
