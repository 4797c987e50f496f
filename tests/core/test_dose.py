"""Prescribed against kept: days, strokes, shares."""

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.dose.tide import Done, Prescribed, Stroke, adherence_of, tide_days
from core.errors import PlanError
from core.program.dosing import Dose
from lab.simulate.history import Profile, SimulatedCourse, hold_on, sessions_of

MONDAY = date(2026, 6, 1)
TWICE_DAILY = Prescribed(
    routine="practice", first=MONDAY, last=None, dose=Dose(sessions_a_day=2, days_a_week=7)
)


def days(done, *, stretches=(TWICE_DAILY,), back=7, today=MONDAY + timedelta(days=6)):
    first = today - timedelta(days=back - 1)
    done = [Done(on, stroke, "practice") for on, stroke in done]
    return tide_days(stretches, done, first=first, last=today, today=today)


def day(number):
    return MONDAY + timedelta(days=number)


def test_what_is_not_done_before_today_is_missed_and_today_is_still_ahead():
    table = days([(day(0), Stroke.KEPT), (day(0), Stroke.KEPT), (day(1), Stroke.SHORT)])
    assert table[0].strokes == (Stroke.KEPT, Stroke.KEPT)
    assert table[1].strokes == (Stroke.SHORT, Stroke.MISSED)
    assert table[2].strokes == (Stroke.MISSED, Stroke.MISSED)
    assert table[6].strokes == (Stroke.AHEAD, Stroke.AHEAD)


def test_more_than_prescribed_is_added_and_never_makes_up_for_a_missed_day():
    table = days([(day(1), Stroke.KEPT)] * 4)
    assert table[1].strokes == (Stroke.KEPT, Stroke.KEPT, Stroke.ADDED, Stroke.ADDED)
    kept = adherence_of(table)
    assert (kept.kept, kept.prescribed, kept.added) == (2, 12, 2)
    assert kept.share == pytest.approx(2 / 12)


def test_a_stopped_session_stays_visible_even_beyond_the_dose():
    table = days([(day(0), Stroke.KEPT)] * 2 + [(day(0), Stroke.STOPPED)])
    assert table[0].strokes == (Stroke.KEPT, Stroke.KEPT, Stroke.STOPPED)


def test_nothing_is_asked_before_the_program_and_on_rest_days():
    five_days = Prescribed(
        routine="practice", first=MONDAY, last=None, dose=Dose(sessions_a_day=1, days_a_week=5)
    )
    asked = [five_days.on(day(number)) for number in range(-2, 9)]
    assert asked == [0, 0, 1, 1, 1, 1, 1, 0, 0, 1, 1]
    table = days([], stretches=[five_days])
    assert table[5].strokes == ()
    assert adherence_of([]).share is None


def test_a_new_version_takes_over_on_its_day():
    once = Prescribed(routine="practice", first=MONDAY, last=day(2), dose=Dose(sessions_a_day=1))
    thrice = Prescribed(routine="practice", first=day(3), last=None, dose=Dose(sessions_a_day=3))
    table = days([], stretches=[once, thrice])
    assert [len(d.strokes) for d in table] == [1, 1, 1, 3, 3, 3, 3]


def test_a_calendar_upside_down_is_refused():
    with pytest.raises(PlanError) as refused:
        tide_days([], [], first=day(3), last=day(2), today=day(3))
    assert refused.value.code == "calendar_upside_down"


strokes = st.lists(
    st.tuples(st.integers(0, 6).map(day), st.sampled_from([Stroke.KEPT, Stroke.SHORT])), max_size=30
)


@given(strokes, st.integers(1, 6), st.integers(1, 7))
def test_every_session_done_shows_once_and_kept_never_passes_prescribed(done, a_day, a_week):
    dose = Dose(sessions_a_day=a_day, days_a_week=a_week)
    stretch = Prescribed(routine="practice", first=MONDAY, last=None, dose=dose)
    table = days(done, stretches=[stretch])
    shown = [s for d in table for s in d.strokes if s not in (Stroke.MISSED, Stroke.AHEAD)]
    assert len(shown) == len(done)
    kept = adherence_of(table)
    assert 0 <= kept.kept <= kept.prescribed + a_day
    assert kept.kept + kept.added == len(done)


def profile(course, **changes):
    usual = {"start_s": 7.0, "gain_s_a_week": 1.0, "keeps": 0.9, "strain": 2.0, "seed": 5}
    return Profile(course=course, **usual | changes)


def test_histories_are_the_same_for_the_same_seed_and_lie_in_their_days():
    one = sessions_of(profile(SimulatedCourse.IMPROVING), first=MONDAY, days=14)
    assert one == sessions_of(profile(SimulatedCourse.IMPROVING), first=MONDAY, days=14)
    assert one != sessions_of(profile(SimulatedCourse.IMPROVING, seed=6), first=MONDAY, days=14)
    assert all(MONDAY <= played.day < day(14) for played in one)
    assert 20 <= len(one) <= 28


def test_a_lapsed_client_is_quiet_at_the_end_and_a_keen_one_does_too_much():
    lapsed = sessions_of(profile(SimulatedCourse.LAPSED), first=MONDAY, days=21)
    assert max(played.day for played in lapsed) < day(13)
    keen = sessions_of(profile(SimulatedCourse.OVER_KEEN), first=MONDAY, days=14)
    assert len(keen) > 40
    stopped = sessions_of(profile(SimulatedCourse.STOPPED), first=MONDAY, days=14)
    assert [played.stopped for played in stopped].count(True) == 1
    assert stopped[-1].stopped


@pytest.mark.parametrize("course", [SimulatedCourse.IMPROVING, SimulatedCourse.PLATEAUED])
def test_holds_follow_the_course(course):
    def mean_hold(weeks):
        holds = [
            hold_on(profile(course), session_seed=s, place=0, weeks_in=weeks, target_s=8.0).seconds
            for s in range(60)
        ]
        return sum(holds) / len(holds)

    gain = mean_hold(3.0) - mean_hold(0.0)
    assert gain > 1.5 if course is SimulatedCourse.IMPROVING else gain < 1.2
