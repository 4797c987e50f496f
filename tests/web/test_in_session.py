"""What each step of the last home session came to, on the Client page."""

from datetime import timedelta

import pytest
from django.urls import reverse

from core.program.program import Chosen
from lab.demo.save_session import WholeAttempt, save_session
from tests.conftest import NOW, activate_program
from tests.factories.practice import ready, session_on
from web.clients.signals import record_changed

pytestmark = pytest.mark.django_db
TODAY = NOW.date() + timedelta(days=1)


def page_of(signed_in, person):
    record_changed.send(None, client_id=person.pk)  # as the use-case of every entry does
    page = signed_in.get(reverse("review:client", args=[person.pk])).content.decode()
    return page.replace("\u00a0", " ")


def test_holds_are_told_note_by_note_against_what_was_asked(signed_in, person, version):
    first = version.program.steps[3].holds
    session_on(person, version, 13, seconds=first[0].seconds, level_db=-30.0, sd=0.3)
    page = page_of(signed_in, person)
    assert "What it came to" in page
    for hold in first:
        assert f"{hold.note.name} best 6.5 s, mean 6.5 s, 100 % of the target" in page
    assert "pitch SD 0.30 st" in page
    assert "trail-off −1.0 dB" in page
    # the soft reference is this very session's own level
    assert "+0.0 dB over the reference" in page


def test_what_was_timed_by_the_clock_says_why_nothing_more_is_known(signed_in, person, version):
    step = version.program.steps[3]
    save_session(
        person,
        version,
        access=None,
        started_at=NOW.replace(day=13),
        attempts=[
            WholeAttempt(step=step, place=0, repetition=1, figures=None, seconds=5.0, after_s=3)
        ],
        strain=1,
        input_name="stopwatch",
        measured_by="test",
    )
    page = page_of(signed_in, person)
    assert "best 5.0 s" in page
    assert "timed by the stopwatch: no sound was measured" in page
    assert "lags" not in page
    assert "gaps" not in page


def test_steps_that_are_counted_or_timed_say_how_much_was_done(signed_in, person, clinician):
    version = activate_program(person, clinician, schools=(Chosen(school="release"),))
    clock, sigh = version.program.steps[0], version.program.steps[-1]
    asked = sigh.target.count
    save_session(
        person,
        version,
        access=None,
        started_at=NOW.replace(day=13),
        attempts=[
            WholeAttempt(step=clock, place=0, repetition=1, figures=None, seconds=61.0, after_s=3),
            WholeAttempt(
                step=sigh,
                place=0,
                repetition=1,
                figures=None,
                seconds=9.0,
                count=asked // 2,
                after_s=90,
            ),
        ],
        strain=1,
        input_name="stopwatch",
        measured_by="test",
    )
    page = page_of(signed_in, person)
    assert "61.0 s done" in page
    assert f"{100 * (asked // 2) / asked:.0f} % done" in page


def test_whether_it_changes_is_told_from_the_eighth_session_on(signed_in, person, version):
    for day in range(1, 8):
        session_on(person, version, day, seconds=7.0 + 0.1 * (day % 2))
    ready(person)
    assert "told after 1 more home session." in page_of(signed_in, person)
    session_on(person, version, 8, seconds=7.0)
    ready(person)
    assert "within the usual day-to-day spread." in page_of(signed_in, person)
    # half a second more each day: 3.5 s a week
    for day in range(9, 16):
        session_on(person, version, day, seconds=7.0 + 0.5 * (day - 8))
    ready(person)
    assert "more than the usual day-to-day spread." in page_of(signed_in, person)
