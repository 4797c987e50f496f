"""What the rules say of the course as a whole, in full: signs, strain, mornings, days away, falls, weeks."""

from dataclasses import replace

import pytest

from core.dose.tide import Done, Stroke
from core.editing.change_rung import on_rung
from core.grading.act import Act
from core.grading.history import Decided, StrainAnswer, VisitHeld
from core.safety.condition import Condition
from core.safety.stop import OpenSign, StopSign
from tests.core.fitted import proposed
from tests.core.histories import TODAY, ago, done, history, sitting, soft, step_of
from tests.factories.decisions_said import (
    BOTH,
    COOK,
    LITTLE,
    MET,
    NONE_MET,
    POWER,
    WEEK,
    best,
    each,
    fine,
    missing,
    on,
    said,
    stays,
    strained,
)


def test_open_signs_come_first_and_wait_for_nothing():
    signs = (OpenSign(StopSign.PAIN, POWER.step_id), OpenSign(StopSign.BREATHING, None))
    breathing = ("stop_sign_open", {"sign": "sign_breathing"})
    assert said(history(COOK, fine(), open_signs=signs)) == [
        ("emergency", (), None, [breathing], []),
        ("contact", ("sustained_power",), None, [("stop_sign_open", {"sign": "sign_pain"})], []),
        stays(breathing, MET),
    ]


@pytest.mark.parametrize(
    ("with_step", "steps"), [(POWER.step_id, ("sustained_power",)), (None, ())]
)
def test_light_headed_twice_names_the_step_it_came_with(with_step, steps):
    dizzy = [
        sitting(COOK, ago(day), sign=StopSign.LIGHT_HEADED, sign_step=with_step) for day in (6, 1)
    ]
    why = [("light_headed_twice", {"times": 2, "days": 7})]
    assert said(history(COOK, dizzy)) == [
        ("contact", (), None, why, []),
        ("swap", steps, None, why, []),
        stays(LITTLE, ("few_sessions", {"sessions": 0, "of": 5})),
    ]


ROSE = ("ease", BOTH, 0, [("strain_rose_with", {"step": "Power notes"})], [])
UP = ("strain_up", {"points": 2})


def test_strain_that_rose_eases_the_step_it_came_with():
    rose = history(COOK, each(WEEK, (1, 1, 1, 1, 1, 3, 3), strained), strain=1.0)
    assert said(rose) == [ROSE, stays(UP, ("strain_high", {"strain": 3}))]


def test_strain_of_five_twice_calls_also_where_only_answered():
    call = ("contact", (), None, [("call_for_strain", {"strain": 5})], [])
    high = ("strain_high", {"strain": 5})
    answers = tuple(StrainAnswer(day=ago(day), step_id=POWER.step_id, strain=5.0) for day in (2, 1))
    assert said(history(COOK, fine(), strain=2.0, answers=answers)) == [call, ROSE, stays(UP, high)]
    in_sessions = history(COOK, each((5, 4, 3, 2, 1), (2, 2, 2, 5, 5), strained), strain=2.0)
    assert said(in_sessions) == [call, ROSE, stays(UP, high, LITTLE)]


def test_after_an_answer_five_sessions_at_the_usual_come_first():
    days = (9, 8, 7, 6, 5, 4, 3, 2, 1)

    def answered(changed_on, values):
        return history(COOK, each(days, values, strained), strain=1.0, changed_on=changed_on)

    was_up = ("strain_was_up", {"sessions": 5})
    assert said(answered(ago(4), (1, 1, 1, 3, 3, 1, 1, 1, 1))) == [stays(was_up)]
    # the fifth session at the usual is that of the day it was changed
    assert said(answered(ago(5), (1, 1, 3, 3, 1, 1, 1, 1, 1))) == [("climb", BOTH, 2, [MET], [])]


def test_mornings():
    today = sitting(COOK, TODAY, soft(POWER, 5), hoarser=True)
    once = ("hoarser_once", {})
    assert said(history(COOK, [*fine(), today])) == [
        ("stay", (), None, [once], []),
        stays(once, MET),
    ]
    twice = ("hoarser_twice", {"times": 2, "days": 7})
    before = sitting(COOK, ago(6), soft(POWER, 5), hoarser=True, number=1)
    assert said(history(COOK, [*fine(), before, today])) == [
        ("contact", (), None, [twice], []),
        stays(twice, MET),
    ]
    lost = ("soft_high_lost", {})
    gone = sitting(COOK, TODAY, soft(POWER, 5), soft_high_lost=True)
    assert said(history(COOK, [*fine(), gone])) == [
        ("examine", (), None, [lost], []),
        stays(lost, MET),
    ]


def away(last, expected):
    found = said(history(COOK, fine(tuple(last + n for n in (4, 3, 2, 1, 0)))))
    assert found[:-1] == expected
    assert found[-1][0] == "stay"


def test_days_away_by_their_number():
    # the last a week ago leaves six whole days; a day more and seven times two sessions are missed
    away(7, [])
    away(8, [("rung_down", (), None, [("away", {"days": 7, "missed": 14})], [])])
    away(14, [("rung_down", (), None, [("away", {"days": 13, "missed": 26})], [])])
    away(15, [("probe", (), None, [("away_long", {"days": 14})], [])])


def test_a_fall_by_its_seconds():
    before, after = (9, 9.2, 9.1, 8.9, 9), (7, 7.2, 7.1, 6.9, 7)
    # the bests fall from 9.04 to 7.04; 2√2 × 0.114 s, the SD of each five, is 0.322 s
    fell = ("fell", {"by": 2.0, "smallest": 0.322})
    assert said(history(COOK, each(range(10, 0, -1), (*before, *after), best))) == [
        ("contact", BOTH, None, [fell], []),
        ("examine", BOTH, None, [fell], []),
        stays(fell, MET),
    ]
    rose = said(history(COOK, each(range(10, 0, -1), (*after, *before), best)))
    assert rose == [("climb", BOTH, 2, [MET], [])]


def test_weeks_without_a_climb():
    three = on(range(1, 30), soft(POWER, 3))
    flat = [("flat", {"days": 30}), missing("length")]
    stay = stays(NONE_MET, missing("length"))
    assert said(history(COOK, three, active_since=ago(30))) == [
        ("teach", BOTH, None, flat, []),
        stay,
    ]
    long = on(range(1, 40), soft(POWER, 3))
    taught = (Decided(act=Act.TEACH, day=ago(21), step_id=POWER.step_id),)
    again = [("flat", {"days": 41}), missing("length"), ("taught_before", {"days": 21})]
    assert said(history(COOK, long, active_since=ago(41), decided=taught)) == [
        ("swap", BOTH, None, again, []),
        stay,
    ]
    swapped = (*taught, Decided(act=Act.SWAP, day=ago(20), step_id=POWER.step_id))
    assert said(history(COOK, long, active_since=ago(41), decided=swapped)) == [stay]
    elsewhere = (Decided(act=Act.SWAP, day=ago(20), step_id="another"),)
    assert said(history(COOK, long, active_since=ago(41), decided=elsewhere))[0][0] == "teach"


def test_too_little_practice_on_a_rung_is_not_flat():
    since = ago(30)
    five = on((25, 20, 15, 10, 5), soft(POWER, 3))
    assert "teach" in [one[0] for one in said(history(COOK, five, active_since=since))]
    assert "teach" not in [one[0] for one in said(history(COOK, five[1:], active_since=since))]


def test_six_weeks_without_a_climb_are_examined():
    twice = [
        sitting(COOK, ago(day), soft(POWER, 3), number=number)
        for day in range(1, 43)
        for number in (0, 1)
    ]
    found = said(history(COOK, twice, active_since=ago(42)))
    assert found[0] == ("examine", (), None, [("unchanged", {"days": 42, "kept": 100})], [])
    # six weeks are over and the taper runs: it is never flat
    assert "teach" not in [one[0] for one in found]


def test_visits_and_reminders():
    held_at = (
        VisitHeld(day=ago(20), goal_held=True),
        VisitHeld(day=ago(6), goal_held=True, corrects=True),
    )
    climb = ("climb", BOTH, 2, [MET], [])
    held_twice = [("goal_held", {"days": 14})]
    assert said(history(COOK, fine(), visits=held_at, gain_real=True)) == [
        ("discharge", (), None, held_twice, []),
        climb,
    ]
    for_good = frozenset({Condition.PROGRESSIVE})
    due = [
        (
            "progressive_review",
            {"having": "condition_progressive", "why": "progressive_review_why", "days": 91},
        )
    ]
    assert said(history(COOK, fine(), conditions=for_good, measured_on=ago(91))) == [
        ("review", (), None, due, []),
        climb,
    ]
    assert said(history(COOK, fine(), conditions=for_good, measured_on=ago(90))) == [climb]


def test_discomfort_that_rises_twice_eases_release():
    program = proposed("release").program

    def rated(*values):
        return history(
            program,
            [sitting(program, ago(10 - n), discomfort=value) for n, value in enumerate(values)],
        )

    steps = tuple(step.task for step in program.steps)
    why = [("discomfort_up", {"points": 1})]
    # the two before the last five are the usual: 1; two of the five are 2
    assert said(rated(1, 1, 1, 1, 2, 1, 2)) == [("ease", steps, None, why, [])]
    assert said(rated(1, 1, 1, 1, 2, 1, 1)) == []
    assert said(rated(1, 1, 1, 2, 2)) == []


def test_the_weeks_of_a_dose_and_what_no_rule_judges():
    program = proposed("breath_hiss").program
    hiss = step_of(program, "hiss")
    once = [sitting(program, ago(1), done(hiss, [{}], strain=None))]
    few = ("few_sessions", {"sessions": 1, "of": 5})
    none = ("few_sessions", {"sessions": 0, "of": 5})
    assert said(history(program, once, active_since=ago(42))) == [
        ("review", (), None, [("weeks_over", {"routine": "routine_breath", "weeks": 6})], []),
        stays(LITTLE, few, steps=("hiss",)),
        stays(LITTLE, none, steps=("hiss_swell",)),
    ]


def test_days_away_on_the_first_rung_lower_nothing():
    first = on_rung(COOK, POWER.step_id, 0)
    there = soft(first.step(POWER.step_id), 5)
    found = said(history(first, on((11, 10, 9, 8, 7), there, program=first)))
    assert [one[0] for one in found] == ["stay"]


def test_two_reasons_for_the_same_are_one_proposal():
    hoarse = [sitting(COOK, ago(d), soft(POWER, 5, strain=5.0), hoarser=True) for d in (2, 1)]
    calm = on((7, 6, 5, 4, 3), soft(POWER, 5, strain=2.0))
    lost = [replace(hoarse[0], soft_high_lost=True), hoarse[1]]
    found = said(history(COOK, [*calm, *lost], strain=2.0, fell=True))
    call, twice = ("call_for_strain", {"strain": 5}), ("hoarser_twice", {"times": 2, "days": 7})
    assert found[0] == ("contact", (), None, [call, twice], [])
    assert found[1] == (
        "examine",
        (),
        None,
        [("soft_high_lost", {}), ("fell_at_visit", {})],
        [],
    )


def test_a_fall_and_six_weeks_without_a_change_are_one_examination():
    program = [
        sitting(COOK, ago(day), soft(POWER, 3), number=number)
        for day in range(1, 43)
        for number in (0, 1)
    ]
    found = said(history(COOK, program, active_since=ago(42), fell=True))
    assert found[0][3] == [("fell_at_visit", {}), ("unchanged", {"days": 42, "kept": 100})]


def test_away_counts_whole_days_since_the_last_that_was_done():
    # a version for a bad day counts as practiced too
    short = [*fine((17, 16, 15, 14, 13)), sitting(COOK, ago(6), short=True)]
    assert "rung_down" not in [one[0] for one in said(history(COOK, short))]
    kept = (Done(ago(6), Stroke.KEPT, "ladder"),)
    assert "rung_down" not in [
        one[0] for one in said(history(COOK, fine((17, 16, 15, 14, 13)), kept_too=kept))
    ]
    # of a program that nobody began, from the day it became active: seven whole days
    begun = history(COOK, (), active_since=ago(7))
    assert said(begun)[0] == ("rung_down", (), None, [("away", {"days": 7, "missed": 14})], [])
    assert said(history(COOK, (), active_since=ago(6)))[0][0] == "stay"
