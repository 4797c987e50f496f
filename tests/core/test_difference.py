"""What is other between two versions of a program: nothing that is prescribed differs without a line."""

from dataclasses import fields, replace
from datetime import date, time

import pytest

from core.editing.change_rung import on_rung
from core.editing.step_order import without_step
from core.editing.step_targets import move_hold, with_repetitions, with_rest
from core.program.difference import DOSE, EXPLAINS, PROGRAM, STEP, differences
from core.program.dosing import Away, Dose
from core.program.presentation import Feedback, Presentation
from core.program.program import Advice, Program
from core.program.step import Step
from tests.core.fitted import proposed


@pytest.fixture(scope="module")
def program():
    return proposed("sustained").program


def only(before, after):
    """The one line that tells the two apart."""
    (line,) = differences(before, after)
    return line.where, str(line.what), line.before, line.after


def test_every_setting_has_words_or_only_explains():
    for of, words in ((Step, STEP), (Dose, DOSE), (Program, PROGRAM)):
        named = {one.name for one in fields(of)}
        assert named - set(words) - EXPLAINS - {"step_id", "routines"} == set(), of
        assert set(words) <= named, of


def test_a_program_does_not_differ_from_itself(program):
    assert differences(program, program) == []


def test_a_hold_that_was_moved_tells_both_notes(program):
    step = next(step for step in program.steps if step.holds)
    longer = move_hold(program, step.step_id, 0, semitones=0, seconds=-0.5)
    where, what, before, after = only(program, longer)
    assert (where, what) == (step.name, "asks for")
    assert f"{step.holds[0].seconds:g} s" in before
    assert f"{step.holds[0].seconds - 0.5:g} s" in after


def test_repetitions_rest_and_rung(program):
    step = next(s for s in program.steps if s.grade and len(s.grade.rungs) > s.rung + 1)
    assert only(program, with_repetitions(program, step.step_id, 7))[1:] == (
        "times", f"{step.repetitions}", "7"
    )  # fmt: skip
    assert only(program, with_rest(program, step.step_id, 41.0))[1:] == (
        "rest", f"{step.rest_s:g} s", "41 s"
    )  # fmt: skip
    climbed = differences(program, on_rung(program, step.step_id, step.rung + 1))
    ((_name, _what, before, after),) = {
        (one.where, one.what, one.before, one.after)
        for one in climbed
        if str(one.what) == "rung" and one.where == step.name
    }
    assert (before, after) == (step.grade.words[step.rung], step.grade.words[step.rung + 1])


def test_a_ladder_that_ends_elsewhere(program):
    step = next(s for s in program.steps if s.grade and s.grade.goal is not None)
    grade = replace(step.grade, goal=step.grade.goal + 1)
    routine = program.routine_of(step.step_id)
    changed = replace(
        routine,
        steps=tuple(
            replace(s, grade=grade) if s.step_id == step.step_id else s for s in routine.steps
        ),
    )
    where, what, before, after = only(program, program.with_routine(changed))
    assert (where, what) == (step.name, "ladder")
    assert before.endswith(f"goal {step.grade.goal:g}")
    assert after.endswith(f"goal {step.grade.goal + 1:g}")


def test_a_step_taken_out_and_one_put_in(program):
    step = program.routines[0].steps[0]
    without = without_step(program, step.step_id)
    where, what, before, after = only(program, without)
    assert (where, what, after) == (step.name, "step", "")
    assert f"{step.repetitions} ×" in before
    assert only(without, program) == (where, what, "", before)


def test_the_order_of_a_sitting(program):
    first, second, *others = program.routines[0].steps
    turned = replace(program.routines[0], steps=(second, first, *others))
    where_what = only(program, program.with_routine(turned))
    assert where_what[1] == "order"
    assert where_what[3].startswith(f"{second.name} → {first.name}")


DOSES = {
    "sessions_a_day": (3, "2", "3"),
    "days_a_week": (5, "7", "5"),
    "weeks": (4, "6", "4"),
    "quiet_from": (time(20, 30), "9:00 PM", "8:30 PM"),
    "away": (
        (Away(first=date(2026, 7, 1), last=date(2026, 7, 9)),),
        "none",
        "July 1, 2026 to July 9, 2026",
    ),
    "times": ((time(8, 0), time(18, 0)), "any time", "8:00 AM, 6:00 PM"),
}


@pytest.mark.parametrize("setting", DOSES)
def test_how_often_and_when(program, setting):
    value, before, after = DOSES[setting]
    plain = replace(
        program.routines[0], dose=Dose(weeks=6, sessions_a_day=2, days_a_week=7, taper=())
    )
    was = program.with_routine(plain)
    now = was.with_routine(replace(plain, dose=replace(plain.dose, **{setting: value})))
    assert only(was, now)[2:] == (before, after)


def test_a_whole_routine_and_what_holds_for_the_whole_program(program):
    routine = replace(program.routines[0], key="reset")
    more = replace(
        program,
        routines=(
            *program.routines,
            replace(
                routine,
                steps=tuple(replace(s, step_id=f"{n}") for n, s in enumerate(routine.steps)),
                short_day=None,
            ),
        ),
    )
    assert only(program, more)[1:3] == ("routine", "")
    assert only(program, replace(program, a4_hz=442.0)) == (
        "", "concert pitch", "440 Hz", "442 Hz"
    )  # fmt: skip
    told = only(program, replace(program, advice=(Advice(task="water", words="Sip often."),)))
    assert told[1] == "care"
    assert told[3] == "Sip often."


def test_how_a_step_is_presented_and_what_cannot_be_seen_in_its_line(program):
    step = program.steps[0]
    seen = replace(step, presented=Presentation(feedback=Feedback.OFF))
    other = replace(step, phase=step.phase, caution="Only sitting.")
    for changed, what in ((seen, "at home"), (other, "caution")):
        routine = replace(
            program.routines[0],
            steps=tuple(
                changed if s.step_id == step.step_id else s for s in program.routines[0].steps
            ),
        )
        assert only(program, program.with_routine(routine))[1] == what


def test_reasons_alone_are_no_difference(program):
    step = program.steps[0]
    bare = replace(step, because=None)
    routine = replace(
        program.routines[0],
        steps=tuple(bare if s.step_id == step.step_id else s for s in program.routines[0].steps),
    )
    assert differences(program, replace(program.with_routine(routine), reasons=())) == []
