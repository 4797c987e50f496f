"""What the rules say in full: act, steps, rung, reasons and what speaks against, with every number.

The program is the worked case's on its second rung: five notes of 7 s, a warm-up that climbs with them, two home
sessions a day; seven days of one session each are half of the practice.
"""

from dataclasses import replace

import pytest

from core.editing.change_rung import on_rung
from core.grading.history import Climbed, Trial
from core.safety.condition import Condition
from tests.core.fitted import proposed
from tests.core.histories import (
    ago,
    done,
    held,
    history,
    loud_program,
    sitting,
    soft,
)
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
    stages,
    stays,
    with_dose,
)


def met(count):
    return soft(POWER, count)


def spoilt(**figures):
    """Three notes with these figures, two as they should be."""
    return done(POWER, [{**held(), **figures}] * 3 + [held()] * 2, over_db=1.0)


TIMED = tuple(
    Trial(note=str(n), heard=False, figures={"share": 104.0, "best_s": 7.3}) for n in range(5)
)
UNKNOWN_LEVEL = {"share": 101.0, "pitch_sd": 0.3, "trail_off": -2.0}


@pytest.mark.parametrize(
    ("sittings", "expected"),
    [
        (fine(), ("climb", BOTH, 2, [MET], [])),
        (fine((2, 1)), stays(LITTLE, ("few_sessions", {"sessions": 2, "of": 5}))),
        (
            each(WEEK, (5, 5, 5, 3, 5, 3, 3), met),
            stays(("too_few_met", {"met": 2, "sessions": 5, "needed": 4}), missing("length")),
        ),
        (
            on(WEEK, done(POWER, [held()] * 3 + [UNKNOWN_LEVEL] * 2, strain=None)),
            stays(
                ("strain_unanswered", {"sessions": 5}),
                NONE_MET,
                ("unknown_reference", {"sessions": 5, "device": "this_microphone"}),
            ),
        ),
        (
            on((2, 2, 2, 1, 1), soft(POWER, 5)),
            stays(LITTLE, ("few_days", {"days": 2, "needed": 3})),
        ),
        (fine((9, 8, 5, 3, 2)), stays(LITTLE)),
        (on(WEEK, spoilt(pitch_sd=0.6)), stays(NONE_MET, missing("pitch SD"))),
        (on(WEEK, spoilt(trail_off=-5.0)), stays(NONE_MET, missing("trail-off"))),
        (
            on(WEEK, spoilt(over_db=2.5)),
            stays(NONE_MET, missing("level over the reference")),
        ),
        (
            # steadiness and fade in three notes a session, length in two
            on(
                WEEK,
                done(
                    POWER,
                    [{**held(), "pitch_sd": 0.6, "trail_off": -5.0}] * 3 + [held(share=90.0)] * 2,
                    over_db=1.0,
                ),
            ),
            stays(NONE_MET, ("held_back", {"figures": ("pitch SD", "trail-off", "length")})),
        ),
        (
            on(WEEK, done(POWER, TIMED)),
            stays(
                NONE_MET,
                ("ready_by_clock", {}),
            ),
        ),
    ],
)
def test_what_a_ladder_says(sittings, expected):
    assert said(history(COOK, sittings)) == [expected]


def test_a_week_lies_between_two_climbs():
    def climbed(days):
        return history(
            COOK,
            fine(),
            climbs=(Climbed(step_id=POWER.step_id, day=ago(days), rung=1, from_rung=0),),
        )

    lately = ("climbed_lately", {"days": 6, "needed": 7})
    assert said(climbed(6)) == [stays(lately)]
    assert said(climbed(7)) == [("climb", BOTH, 2, [MET], [])]


def test_strain_at_four_or_over_the_baseline_keeps_it_down():
    four = history(COOK, on(WEEK, soft(POWER, 5, strain=4.0)), strain=4.0)
    assert said(four) == [stays(("strain_high", {"strain": 4}))]
    # the baseline's 1 and one more are 2; 3 is over it
    over = history(COOK, on(WEEK, soft(POWER, 5, strain=3.0)), strain=1.0)
    # and two over the usual of before, which is the baseline's: the step it rose with is eased
    assert said(over) == [
        ("ease", BOTH, 0, [("strain_rose_with", {"step": "Power notes"})], []),
        stays(("strain_up", {"points": 2}), ("strain_high", {"strain": 3})),
    ]


def test_easing_goes_one_rung_down_with_its_figures():
    short = soft(POWER, 2, short=held(share=60.0))
    why = [("falls_short", {"sessions": 5, "looked": 5}), missing("length")]
    stay = stays(NONE_MET, missing("length"))
    assert said(history(COOK, on(WEEK, short))) == [("ease", BOTH, 0, why, []), stay]
    first = on_rung(COOK, POWER.step_id, 0)
    there = soft(first.step(POWER.step_id), 2, short=held(share=60.0))
    assert said(history(first, on(WEEK, there, program=first))) == [
        ("ease", BOTH, None, why, [("first_rung", {})]),
        stay,
    ]


def test_pressing_is_taught_again():
    pressed = done(POWER, [held(over=2.5)] * 5, over_db=2.5)
    assert said(history(COOK, on(WEEK, pressed))) == [
        ("teach", ("sustained_power",), None, [("pressed", {"sessions": 5, "looked": 5})], []),
        stays(NONE_MET, missing("level over the reference")),
    ]


LAST = on_rung(COOK, POWER.step_id, 9)
LAST_FINE = on(WEEK, soft(LAST.step(POWER.step_id), 5), program=LAST)
HELD = [("last_rung_held", {}), MET]


def test_after_the_last_rung_comes_the_taper_or_a_review():
    assert said(history(LAST, LAST_FINE)) == [("taper", BOTH, None, HELD, [])]
    assert said(history(with_dose(LAST, taper=()), LAST_FINE)) == [("taper", BOTH, None, HELD, [])]
    for_good = history(LAST, LAST_FINE, conditions=frozenset({Condition.PROGRESSIVE}))
    assert said(for_good) == [("review", BOTH, None, [("maintenance", {}), *HELD], [])]


def test_a_taper_that_runs_is_said_and_steps_back():
    tapering = with_dose(LAST, weeks=1, taper=stages(4, 4), starts_on=ago(15))
    back = ("stage_back", BOTH, None, [("stage_back", {"percent": 85, "days": 2})], [])
    # the best of 7 s is under 85 % of 17.6 s
    assert said(history(tapering, LAST_FINE, active_since=ago(15))) == [
        back,
        ("stay", BOTH, None, [("taper_runs", {}), *HELD], []),
    ]
    long = [replace(one, steps=(best(15.0),)) for one in LAST_FINE]
    long = [replace(one, steps=(replace(one.steps[0], rung=9),)) for one in long]
    assert said(history(tapering, long, active_since=ago(15))) == [
        ("stay", BOTH, None, [("taper_runs", {}), *HELD], [])
    ]


def test_a_ladder_that_ends_at_what_a_visit_showed_is_measured_again():
    program = loud_program()
    step = next(s for s in program.steps if s.kind == "level")
    last = on_rung(program, step.step_id, len(step.grade.rungs) - 1)
    top = last.step(step.step_id)
    good = done(top, strain=1.0, over_target=75.0)
    sittings = [sitting(last, ago(day), good) for day in WEEK]
    names = tuple(s.task for s in last.steps if s.grade and s.grade.key == top.grade.key)
    (found,) = [one for one in said(history(last, sittings)) if one[0] == "remeasure"]
    assert found == ("remeasure", names, None, HELD, [])


def test_what_holds_back_is_counted_over_the_sessions_looked_at():
    # six sessions: in the last five steadiness fails in one note of two, fade in two notes of three
    shaky = done(POWER, [{**held(), "pitch_sd": 0.6}] + [held()] * 4, over_db=1.0)
    fading = done(POWER, [{**held(), "trail_off": -5.0}] * 2 + [held()] * 3, over_db=1.0)
    short = done(POWER, [held(share=60.0)] * 5, over_db=1.0)
    days = [
        sitting(COOK, ago(day), one)
        for day, one in zip(
            (7, 6, 5, 4, 3, 2, 1), (short, short, shaky, shaky, fading, fading, fading), strict=True
        )
    ]
    (stay,) = [one for one in said(history(COOK, days)) if one[0] == "stay"]
    assert stay[4][-1] == ("held_back", {"figures": ("trail-off", "pitch SD")})


def test_ladders_to_be_taught_for_the_same_reasons_are_one_proposal():
    """Two ladders flat for as long and held back by the same: one visit teaches both."""
    program = proposed("range_full").program
    three, five = (step for step in program.steps if step.kind == "pattern")
    fails = [done(step, [{}], in_tune=50.0, broken_keys=0.0) for step in (three, five)]
    days = on(range(1, 30), *fails, program=program)
    found = [one for one in said(history(program, days, active_since=ago(30))) if one[0] == "teach"]
    why = [("flat", {"days": 30}), missing("notes in tune")]
    assert found == [("teach", ("pattern_three", "pattern_five"), None, why, [])]
    # what holds one back is not what holds the other: two
    broken = done(five, [{}], in_tune=95.0, broken_keys=15.0)
    other = on(range(1, 30), fails[0], broken, program=program)
    found = [
        one for one in said(history(program, other, active_since=ago(30))) if one[0] == "teach"
    ]
    assert [one[1] for one in found] == [("pattern_three",), ("pattern_five",)]
