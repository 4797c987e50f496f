"""What is left out of figures, trends and climbs; what counts all the same; undone the same way."""

import json
from datetime import date

import pytest
from django.urls import reverse

from core.grading.need import Need
from tests.conftest import record_of
from tests.factories.deciding import page_of
from tests.factories.practice import practice, ready, session_on
from web.practice.models import Attempt, HomeSession, Remark
from web.practice.sessions.levels import level_references
from web.review.caseload.rounds import rounds
from web.review.models import SessionResult

pytestmark = pytest.mark.django_db
WHY = "The television was on."


@pytest.fixture
def climbing(person, version):
    """The goal met in each of the last five home sessions."""
    practice(person, version, 11, 12, 13, 14)
    ready(person)
    return person


def last():
    return HomeSession.objects.order_by("-started_at").first()


def say(browser, target, kind="leave_out", words=WHY):
    name = "remark_session" if isinstance(target, HomeSession) else "remark_attempt"
    where = reverse(f"review:{name}", args=[target.client_id, target.pk])
    return browser.post(where, {"kind": kind, "words": words})


def need(person):
    (line,) = rounds(person.clinic, clinician=None, today=date(2026, 6, 15)).lines
    return line.need


def leave_out_all_but_three(browser):
    for session in HomeSession.objects.order_by("-started_at")[3:]:
        say(browser, session)


def test_a_session_left_out_climbs_nothing_and_counts_again(signed_in, climbing):
    assert need(climbing) is Need.READY_TO_CLIMB
    leave_out_all_but_three(signed_in)
    assert need(climbing) is not Need.READY_TO_CLIMB
    page = page_of(signed_in, climbing)
    assert "Climb one rung" not in page
    assert "3 of 5 measurable home sessions" in page
    for session in HomeSession.objects.order_by("-started_at")[3:]:
        say(signed_in, session, "count_again", "It was off.")
    assert need(climbing) is Need.READY_TO_CLIMB


def test_practice_kept_and_strain_count_all_the_same(signed_in, climbing):
    def kept():
        (line,) = rounds(climbing.clinic, clinician=None, today=date(2026, 6, 15)).lines
        return line.kept

    before = kept()
    leave_out_all_but_three(signed_in)
    assert kept() == before
    result = SessionResult.objects.order_by("home_session__started_at").first()
    assert (result.steps, result.whole) == ([], True)


def test_a_stop_sign_of_a_session_left_out_still_stands(signed_in, climbing):
    session = last()
    HomeSession.objects.filter(pk=session.pk).update(outcome="stopped", stop_sign="pain")
    say(signed_in, session)
    assert need(climbing) is Need.STOP_SIGN


def test_one_attempt_left_out_is_not_the_best_any_more(signed_in, person, version):
    session_on(person, version, 14, seconds=6.5)
    ready(person)
    power = version.program.main_step
    first = Attempt.objects.filter(step_id=power.step_id, place=0).order_by("pk").first()
    assert f"{first.note} best 6.5 s" in page_of(signed_in, person).replace("\u00a0", " ")
    for attempt in Attempt.objects.filter(step_id=power.step_id, place=0):
        say(signed_in, attempt)
    page = page_of(signed_in, person).replace("\u00a0", " ")
    assert f"{first.note} best" not in page
    assert "left out" in page
    opened = signed_in.get(reverse("review:attempt", args=[person.pk, first.pk])).content.decode()
    assert WHY in opened
    assert "Count again" in opened


def test_a_level_reference_does_not_rest_on_what_is_left_out(signed_in, person, version):
    session_on(person, version, 12, level_db=-20.0)
    session_on(person, version, 13, level_db=-30.0)
    ready(person)
    (device,) = level_references(person.pk)
    assert level_references(person.pk) == {device: -20.0}
    say(signed_in, HomeSession.objects.order_by("started_at").first())
    assert level_references(person.pk) == {device: -30.0}
    # and what the other session came to is worked out against it: it was 10 dB under, now 0
    result = SessionResult.objects.get(home_session=last())
    overs = [t["figures"].get("over_db") for step in result.steps for t in step["trials"]]
    assert {over for over in overs if over is not None} == {0.0}


def test_a_remark_stands_with_its_author_and_changes_nothing(signed_in, climbing, clinician):
    say(signed_in, last(), "note", "She had a cold coming.")
    page = signed_in.get(
        reverse("review:home_session", args=[climbing.pk, last().pk])
    ).content.decode()
    assert "She had a cold coming." in page
    assert clinician.name in page
    assert need(climbing) is Need.READY_TO_CLIMB
    assert "She had a cold coming." in json.dumps(record_of(climbing))


@pytest.mark.parametrize(
    ("kind", "words"), [("leave_out", "   "), ("erase", WHY), ("", WHY), ("note", "x" * 301)]
)
def test_what_cannot_be_said_is_refused(signed_in, climbing, kind, words):
    for target in (last(), Attempt.objects.first()):
        answer = say(signed_in, target, kind, words)
        assert answer.status_code == 422
        assert "nothing was changed" in answer.content.decode()
    assert Remark.objects.count() == 0


def test_the_same_twice_is_one(signed_in, climbing):
    say(signed_in, last())
    say(signed_in, last())
    assert Remark.objects.count() == 1


def test_leaving_out_everything_leaves_a_page_that_says_so(signed_in, climbing):
    for session in HomeSession.objects.all():
        say(signed_in, session)
    page = page_of(signed_in, climbing)
    assert "0 of 5 measurable home sessions" in page
    results = signed_in.get(reverse("review:results", args=[climbing.pk]))
    assert results.status_code == 200
