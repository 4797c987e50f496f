"""What fitting does at its edges: cuts by the clock, starts, changes of every step, what is proven."""

from dataclasses import replace
from datetime import date, timedelta

import pytest

from core.errors import PlanError
from core.fitting.baseline_arithmetic import LungSex, vital_capacity_ml
from core.fitting.known import Limits
from core.program.dosing import Dose
from core.program.targets import Counted, Speech, Timed
from core.proposing.doses import on_fewer_days, started_on
from core.proposing.trim import Weighed, minutes_that_count, shortened, trimmed
from core.reason import written
from tests.core.fitted import proposed, said, step

MONDAY = date(2026, 6, 1)
WHY = written("for a test")


def doing(task, target, **changes):
    """A step of the release school that asks for something else."""
    any_step = proposed("release").program.steps[0]
    kind = target.form
    usual = {"task": task, "name": task, "kind": kind, "target": target, "grade": None}
    usual |= {"repetitions": 1, "rest_s": 0.0, "step_id": task, "voiced": False}
    return replace(any_step, **usual | changes)


def everything(_step):
    return True


def test_what_is_done_by_the_clock_is_shortened_to_the_minutes():
    # 120 s on each of two sides are 4 minutes, one too many: 30 s less a side
    rolls = doing("rolls", Timed(seconds_a_side=120, sides=2, because=WHY))
    (left,), cut = shortened([Weighed(rolls, True)], 3.0, counts=everything)
    assert left.step.target.seconds_a_side == 90
    assert minutes_that_count([left], everything) == pytest.approx(3.0)
    assert [(one.code, one.params["step"]) for one in cut] == [("cut_shorter", "rolls")]
    assert left.essential is True


def test_over_several_repetitions_each_gives_its_part():
    rolls = doing("rolls", Timed(seconds_a_side=60, because=WHY), repetitions=2)
    (left,), _cut = shortened([Weighed(rolls, False)], 1.0, counts=everything)
    # 2 minutes to 1: each of the two gives 30 s
    assert left.step.target.seconds_a_side == 30
    assert left.step.repetitions == 2


def test_what_fits_what_does_not_count_and_what_cannot_be_shorter_stay_as_they_are():
    rolls = doing("rolls", Timed(seconds_a_side=60, because=WHY))
    graded = proposed("carry_over").program.steps[0]
    assert graded.grade is not None
    for one, most, counts in (
        (rolls, 1.0, everything),
        (rolls, 0.5, lambda _step: False),
        (doing("short", Timed(seconds_a_side=16, because=WHY)), 0.01, everything),
    ):
        (left,), cut = shortened([Weighed(one, True)], most, counts=counts)
        assert (left.step, cut) == (one, [])


@pytest.mark.parametrize(
    ("target", "less_s", "left"),
    [
        # at least 20 s of speech, 15 s by the clock, 3 of what is counted
        (Speech(seconds=60, because=WHY), 40, 20),
        (Speech(seconds=60, because=WHY), 41, None),
        (Timed(seconds_a_side=30, because=WHY), 15, 15),
        (Timed(seconds_a_side=30, because=WHY), 16, None),
        (Timed(seconds_a_side=30, sides=2, because=WHY), 30, 15),
        (Counted(count=10, unit="sighs", seconds_each=5, because=WHY), 35, 3),
        (Counted(count=10, unit="sighs", seconds_each=5, because=WHY), 36, None),
    ],
)
def test_nothing_is_made_shorter_than_makes_sense(target, less_s, left):
    found = target.shorter(less_s, graded=False, rungs_are_targets=False)
    amount = (
        None
        if found is None
        else getattr(found, "count", None)
        or getattr(found, "seconds_a_side", None)
        or found.seconds
    )
    assert amount == left


def test_a_rung_is_not_made_shorter():
    timed = Timed(seconds_a_side=60, because=WHY)
    assert timed.shorter(10, graded=True, rungs_are_targets=False) is None
    counted = Counted(count=10, unit="sighs", seconds_each=5, because=WHY)
    assert counted.shorter(10, graded=True, rungs_are_targets=True) is None
    assert counted.shorter(10, graded=True, rungs_are_targets=False).count == 8


def test_cuts_come_in_order_and_each_is_said_once():
    """A minute each: repetitions of the inessential, then it goes, then those of the essential."""
    first = doing("first", Timed(seconds_a_side=60, because=WHY), repetitions=2)
    second = doing("second", Timed(seconds_a_side=60, because=WHY), repetitions=2)
    weighed = [Weighed(first, True), Weighed(second, False)]
    for most, left, codes in (
        (4.0, [("first", 2), ("second", 2)], []),
        (3.0, [("first", 2), ("second", 1)], ["cut_repetitions"]),
        (2.0, [("first", 2)], ["cut_repetitions", "cut_step"]),
        (1.0, [("first", 1)], ["cut_repetitions", "cut_step", "cut_repetitions"]),
        (0.1, [("first", 1)], ["cut_repetitions", "cut_step", "cut_repetitions"]),
    ):
        found, cut = trimmed(weighed, most)
        assert [(one.step.name, one.step.repetitions) for one in found] == left, most
        assert [one.code for one in cut] == codes, most
    both = [Weighed(first, True), Weighed(second, True)]
    kept, cut = trimmed(both, 0.1)
    assert [one.step.name for one in kept] == ["first"]
    assert said(cut, "cut_step").params["step"] == "second"


def test_only_what_a_limit_is_about_is_cut():
    first = doing("first", Timed(seconds_a_side=60, because=WHY), repetitions=2)
    second = doing("second", Timed(seconds_a_side=60, because=WHY), repetitions=2)
    weighed = [Weighed(first, False), Weighed(second, False)]
    found, _cut = trimmed(weighed, 1.0, counts=lambda one: one.name == "first")
    assert [(one.step.name, one.step.repetitions) for one in found] == [("first", 1), ("second", 2)]


def test_a_program_starts_on_the_day_it_becomes_active_unless_it_has_a_day():
    program = proposed("sustained", "release").program
    own = replace(program.routines[1], dose=replace(program.routines[1].dose, starts_on=MONDAY))
    started = started_on(program.with_routine(own), MONDAY + timedelta(days=9))
    days = [one.dose.starts_on for one in started.routines]
    assert days == [MONDAY + timedelta(days=9), MONDAY]
    assert [one.steps for one in started.routines] == [one.steps for one in program.routines]


def test_fewer_days_are_spread_over_those_there_were():
    named = Dose(days_a_week=5, weekdays=(1, 2, 3, 5, 7))
    fewer = on_fewer_days(named, 3)
    # the first, the middle, the last of five
    assert (fewer.days_a_week, fewer.weekdays) == (3, (1, 3, 7))
    assert on_fewer_days(Dose(days_a_week=7), 4).weekdays == ()
    assert on_fewer_days(Dose(days_a_week=7), 4).days_a_week == 4
    assert on_fewer_days(named, 1).weekdays == (1,)


def test_every_step_is_changed_those_for_a_bad_day_too():
    known = {"speaking": "A3", "strong_s": (9.0,)}
    program = proposed("loudness_vowels", known=known).program
    changed = program.each_step(lambda one: replace(one, rest_s=7.0))
    assert program.routines[0].short_day is not None
    assert {one.rest_s for one in changed.all_steps} == {7.0}
    assert len(changed.all_steps) == len(program.all_steps)
    without = proposed("release").program.each_step(lambda one: replace(one, rest_s=7.0))
    assert without.routines[0].short_day is None


def test_the_lungs_of_men_and_women_at_the_edges_of_the_equation():
    # (27.63 − 0.112 · 18) · 120 = 3073.7; (21.78 − 0.101 · 90) · 220 = 2791.8
    assert vital_capacity_ml(LungSex.MALE, 18, 120.0) == pytest.approx(3073.7, abs=0.1)
    assert vital_capacity_ml(LungSex.FEMALE, 90, 220.0) == pytest.approx(2791.8, abs=0.1)
    for age, height in ((17, 170.0), (40, 119.9), (40, 220.1)):
        with pytest.raises(PlanError):
            vital_capacity_ml(LungSex.MALE, age, height)


def test_minutes_of_a_week_cut_sittings_then_days_then_the_sitting():
    # twice a day every day at 7.2 min is 100.6 min a week
    whole = proposed("sustained", limits=Limits(minutes_a_week=101))
    assert (whole.program.routines[0].dose.sessions_a_day, whole.load.week_min) == (
        2,
        pytest.approx(431 / 60 * 14),
    )
    once = proposed("sustained", limits=Limits(minutes_a_week=60))
    assert once.program.routines[0].dose.sessions_a_day == 1
    assert once.program.routines[0].dose.days_a_week == 7
    fewer = said(once.program.reasons, "less_often").params
    assert (fewer["a_day"], fewer["days"]) == (1, 7)
    assert (fewer["asked_a_day"], fewer["asked_days"]) == (2, 7)
    assert said(once.program.reasons, "week_at_most").params["most"] == 60
    days = proposed("sustained", limits=Limits(minutes_a_week=40))
    # 40 ÷ 7.18 = 5.6: five days
    assert days.program.routines[0].dose.days_a_week == 5
    short = proposed("sustained", limits=Limits(minutes_a_week=15))
    # never under three days: the sitting is cut, to 5 min
    assert short.program.routines[0].dose.days_a_week == 3
    assert short.load.week_min <= 15
    assert step(short, "sustained_power")
