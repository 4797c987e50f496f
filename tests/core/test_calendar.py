"""Days, times, tapers, days away, right across both clock changes; load and cycle dose."""

import itertools
from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.dose.calendar import (
    asked_on,
    existing,
    last_day,
    planned_sessions,
    refused_times,
    times_of_day,
    zone_of,
)
from core.dose.load import Load, load_notices, mean_hz
from core.dose.minutes import length_of
from core.dose.taper import on_day
from core.errors import PlanError
from core.fitting.known import Limits
from core.program.dosing import SUSTAINED_TAPER, Away, Dose, TaperStage, When
from core.proposing.request import Wishes
from tests.core.fitted import proposed, said

MONDAY = date(2026, 6, 1)


def days(dose, count, start=MONDAY):
    return [asked_on(dose, start, start + timedelta(days=n)) for n in range(count)]


def test_named_weekdays_and_visit_days():
    dose = Dose(sessions_a_day=2, days_a_week=3, weekdays=(1, 3, 5), visit_weekdays=(3,))
    assert days(dose, 7) == [2, 0, 1, 0, 2, 0, 0]


def test_days_away_ask_for_nothing_and_are_not_made_up():
    away = Away(first=MONDAY + timedelta(days=2), last=MONDAY + timedelta(days=4))
    assert days(Dose(sessions_a_day=2, away=(away,)), 7) == [2, 2, 0, 0, 0, 2, 2]
    with pytest.raises(PlanError):
        Away(first=MONDAY, last=MONDAY - timedelta(days=1))


def test_the_taper_follows_the_weeks_stage_by_stage():
    dose = Dose(sessions_a_day=2, weeks=1, taper=SUSTAINED_TAPER)
    # a week twice a day; both attempts once a day; one attempt; every other day; weekly, for good
    assert days(dose, 28) == [2] * 7 + [1] * 7 + [1] * 7 + [1, 0, 1, 0, 1, 0, 1]
    assert days(dose, 70)[28:] == ([1] + [0] * 6) * 6
    assert last_day(dose, MONDAY) == MONDAY + timedelta(weeks=1 + 1 + 1 + 1 + 4, days=-1)


def test_a_taper_asks_for_fewer_attempts_on_its_days():
    program = proposed("sustained", wishes=Wishes(starts_on=MONDAY)).program
    weeks = program.routines[0].dose.weeks

    def attempts(week):
        return sum(s.attempts for s in on_day(program, MONDAY + timedelta(weeks=week)).steps)

    # both attempts through the weeks and the first stage, then one
    assert [attempts(week) for week in (0, weeks - 1, weeks, weeks + 1, weeks + 20)] == [
        16,
        16,
        16,
        8,
        8,
    ]
    unknown = proposed("sustained").program
    assert on_day(unknown, MONDAY) == unknown


def test_without_a_taper_the_dose_goes_on_until_somebody_decides():
    assert days(Dose(sessions_a_day=1, weeks=1), 10) == [1] * 10


def test_times_keep_their_spacing_outside_the_quiet_hours():
    dose = Dose(spacing_h=4, times=(time(8), time(9), time(20)))
    # 9:00 is too near to 8:00
    assert times_of_day(dose, 2) == (time(8), time(20))
    quiet = Dose(spacing_h=1, times=(time(22), time(6, 59)))
    assert refused_times(quiet) == (time(22), time(6, 59))
    assert all(time(7) <= at < time(21) for at in times_of_day(quiet, 3))
    noon = Dose(quiet_from=time(12), quiet_to=time(14), spacing_h=1)
    assert all(not time(12) <= at < time(14) for at in times_of_day(noon, 6))


def test_more_than_fits_is_refused_with_what_fits():
    with pytest.raises(PlanError) as refused:
        times_of_day(Dose(spacing_h=5), 6)
    assert refused.value.params["fit"] == 3  # 7, 12, 17 o'clock
    fewer = proposed("semi_reset", wishes=Wishes(work_from=time(9), work_to=time(11)))
    assert fewer.program.routines[0].dose.sessions_a_day == 2  # 9:00 and 10:30
    assert said(fewer.program.reasons, "day_too_short").params["a_day"] == 2


ZONES = ("Europe/Dublin", "America/St_Johns", "Australia/Lord_Howe", "America/Santiago", "UTC")


@pytest.mark.parametrize("name", ZONES)
def test_a_whole_year_across_both_clock_changes_has_every_session_once_in_order(name):
    zone = zone_of(name)
    dose = Dose(sessions_a_day=3, spacing_h=3, quiet_from=time(23), quiet_to=time(0), weeks=26)
    found = planned_sessions(
        dose, zone=zone, first=date(2026, 1, 1), last=date(2026, 12, 31), start=date(2026, 1, 1)
    )
    assert len(found) == 3 * 365
    assert all(a.utc < b.utc for a, b in itertools.pairwise(found))
    assert all(one.local.date() == one.day for one in found)
    assert all(one.utc.astimezone(zone) == one.local for one in found)


def test_a_skipped_time_moves_forward_and_a_double_one_is_the_first():
    dublin = zone_of("Europe/Dublin")
    # 29 March 2026: 1:00 → 2:00; 1:30 is not there
    assert existing(date(2026, 3, 29), time(1, 30), dublin).time() == time(2, 30)
    # 25 October 2026: 2:00 → 1:00; 1:30 comes twice, the first is 0:30 UTC
    assert existing(date(2026, 10, 25), time(1, 30), dublin).astimezone(UTC) == datetime(
        2026, 10, 25, 0, 30, tzinfo=UTC
    )
    # Lord Howe moves by half an hour: 4 October 2026, 2:00 → 2:30
    howe = zone_of("Australia/Lord_Howe")
    assert existing(date(2026, 10, 4), time(2, 15), howe).time() == time(2, 45)


@pytest.mark.parametrize("name", ["Harrow/Quay", "", "../etc/passwd"])
def test_unknown_zones_are_refused(name):
    with pytest.raises(PlanError) as refused:
        zone_of(name)
    assert refused.value.code == "zone_unknown"


@pytest.mark.parametrize(
    "odd",
    [
        {"weekdays": (1, 1), "days_a_week": 2},
        {"weekdays": (0,), "days_a_week": 1},
        {"weekdays": (1, 2), "days_a_week": 3},
        {"visit_weekdays": (8,)},
        {"spacing_h": 0},
        {"work_from": time(9)},
        {"work_from": time(9), "work_to": time(8)},
        {"short_day_min": 90},
        {"weeks": 0},
    ],
)
def test_impossible_doses_are_refused(odd):
    with pytest.raises(PlanError):
        Dose(**odd)


def test_a_stage_has_limits():
    with pytest.raises(PlanError):
        TaperStage(words="w", sessions_a_day=0, every_days=1, repetitions=1, weeks=1)


def test_few_free_days_make_few_practice_days():
    three = proposed("sustained", wishes=Wishes(free_weekdays=(2, 4, 6)))
    assert three.program.routines[0].dose.weekdays == (2, 4, 6)
    assert said(three.program.reasons, "fewer_days").params == {"days": 3, "asked": 7}
    spread = proposed("range_full", wishes=Wishes(free_weekdays=(1, 2, 3, 4, 5, 6, 7)))
    # five of seven: places 0, 1.5, 3, 4.5, 6 of the week, rounded
    assert spread.program.routines[0].dose.weekdays == (1, 3, 4, 5, 7)


def test_the_cycle_dose_of_the_worked_case():
    load = proposed("sustained").load
    # warm-up E♭4 311.1 Hz × 2·6.5 s; glides G3–G4 (392 − 196)/ln 2 = 282.8 Hz × 4·8 s;
    # B♭3 C4 D4 E♭4 F4 = 233.1 + 261.6 + 293.7 + 311.1 + 349.2 = 1448.7 Hz × 2·6.5 s
    expected = 311.13 * 13 + 282.77 * 32 + 1448.7 * 13
    assert load.routines[0].cycles == pytest.approx(expected, rel=1e-3)
    # 431 s and 110 voiced seconds, 14 times a week
    assert load.week_min == pytest.approx(431 / 60 * 14)
    assert load.voiced_week_min == pytest.approx(110 / 60 * 14)


@given(st.floats(60, 1000), st.floats(60, 1000))
def test_the_mean_of_a_glide_lies_between_its_ends(low, high):
    mean = mean_hz(low, high)
    assert min(low, high) - 1e-6 <= mean <= max(low, high) + 1e-6
    assert mean == pytest.approx(mean_hz(high, low))


def test_a_load_over_the_limits_is_said():
    load = proposed("sustained").load
    assert load_notices(load, Limits()) == ()
    found = load_notices(load, Limits(minutes_a_session=5, minutes_a_week=60))
    session = said(found, "session_over").params
    assert (session["minutes"], session["most"]) == (pytest.approx(431 / 60), 5)
    assert said(found, "week_over").params["most"] == 60
    many = Load((replace(load.routines[0], sessions_a_week=60),))
    assert said(load_notices(many, Limits(minutes_a_week=900)), "voiced_week_over")


@pytest.mark.parametrize(
    ("when", "allowed"), [(When.MORNING, (7, 12)), (When.EVENING, (17, 21)), (When.ANY, (7, 21))]
)
def test_times_lie_in_the_part_of_the_day_that_was_asked_for(when, allowed):
    times = times_of_day(Dose(when=when, sessions_a_day=2, spacing_h=1.0), 2)
    assert len(times) == 2
    assert all(time(allowed[0]) <= at < time(allowed[1]) for at in times)
    assert refused_times(Dose(when=when, times=(time(14),))) == (
        () if when is When.ANY else (time(14),)
    )


def test_nothing_takes_no_time():
    assert length_of(()).total_s == 0


def test_every_home_session_of_some_days_has_its_day_its_local_time_and_its_utc():
    zone = zone_of("Europe/Dublin")
    dose = Dose(sessions_a_day=2, days_a_week=2, times=(time(8), time(19)))
    found = planned_sessions(
        dose, zone=zone, first=MONDAY, last=MONDAY + timedelta(days=2), start=MONDAY
    )
    # Monday and Tuesday, the first two days of the week; summer time is an hour ahead of UTC
    assert [(one.day, f"{one.local:%d %H:%M %z}", f"{one.utc:%d %H:%M %z}") for one in found] == [
        (MONDAY, "01 08:00 +0100", "01 07:00 +0000"),
        (MONDAY, "01 19:00 +0100", "01 18:00 +0000"),
        (MONDAY + timedelta(days=1), "02 08:00 +0100", "02 07:00 +0000"),
        (MONDAY + timedelta(days=1), "02 19:00 +0100", "02 18:00 +0000"),
    ]
    one_day = planned_sessions(dose, zone=zone, first=MONDAY, last=MONDAY, start=MONDAY)
    assert [one.local.hour for one in one_day] == [8, 19]
    assert not planned_sessions(
        dose, zone=zone, first=MONDAY, last=MONDAY, start=MONDAY + timedelta(days=1)
    )


def test_a_time_the_clocks_skip_moves_on_and_of_one_that_comes_twice_the_first_is_taken():
    zone = zone_of("Europe/Dublin")
    skipped = existing(date(2026, 3, 29), time(1, 30), zone)
    assert f"{skipped:%H:%M %z}" == "02:30 +0100"
    twice = existing(date(2026, 10, 25), time(1, 30), zone)
    assert f"{twice.astimezone(UTC):%H:%M}" == "00:30"


@pytest.mark.parametrize(
    ("dose", "count", "times"),
    [
        # evenly from 9:00 to 18:00
        ({}, 1, ["09:00"]),
        ({}, 2, ["09:00", "18:00"]),
        ({}, 3, ["09:00", "13:30", "18:00"]),
        ({}, 4, ["09:00", "12:00", "15:00", "18:00"]),
        # at the spacing itself, from the first free quarter of an hour
        ({"spacing_h": 5}, 3, ["09:00", "14:00", "19:00"]),
        ({"times": (time(8), time(11))}, 2, ["08:00", "11:00"]),
        # the others as far from a preferred time as can be
        ({"times": (time(8),)}, 3, ["08:00", "13:30", "18:00"]),
        ({"times": (time(17),)}, 2, ["09:00", "17:00"]),
        ({"times": (time(8, 30),)}, 1, ["08:30"]),
        # preferred times that leave no room are given up
        ({"times": (time(11),), "spacing_h": 5}, 3, ["07:00", "12:00", "17:00"]),
        # the edges belong to the day
        ({"times": (time(7),)}, 1, ["07:00"]),
        ({"times": (time(21),)}, 1, ["09:00"]),
        ({"when": When.EVENING}, 1, ["17:00"]),
        ({"work_from": time(10), "work_to": time(12)}, 1, ["10:00"]),
        ({"quiet_from": time(0), "quiet_to": time(0)}, 1, ["09:00"]),
    ],
)
def test_the_times_of_a_day(dose, count, times):
    assert [f"{at:%H:%M}" for at in times_of_day(Dose(**dose), count)] == times
