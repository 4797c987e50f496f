"""Changes a clinician makes to a program by hand; each gives a new program."""

from dataclasses import replace

from core.errors import PlanError
from core.plans.program import Program
from core.plans.rungs import checked_hold

BY_HAND = "set by hand"


def move_hold(
    program: Program, step_id: str, place: int, *, semitones: int = 0, seconds: float = 0.0
) -> Program:
    """Move one hold of a step sideways (semitones) and up or down (seconds).

    The note may leave the comfortable range (`problems` says so); seconds outside 0.5–90 and
    notes outside 60–1000 Hz raise.
    """
    step = program.step(step_id)
    if not 0 <= place < len(step.holds):
        raise PlanError("hold_unknown", place=place, holds=len(step.holds))
    hold = step.holds[place]
    moved = replace(
        hold,
        note=hold.note.up(semitones),
        seconds=round(2 * checked_hold(hold.seconds + seconds)) / 2,
        because=BY_HAND,
    )
    holds = (*step.holds[:place], moved, *step.holds[place + 1 :])
    return program.with_step(step.with_holds(holds))


def with_repetitions(program: Program, step_id: str, repetitions: int) -> Program:
    """Another number of repetitions, 1–10."""
    return program.with_step(replace(program.step(step_id), repetitions=repetitions))


def with_rest(program: Program, step_id: str, rest_s: float) -> Program:
    """Another rest after each attempt, 0–300 s."""
    return program.with_step(replace(program.step(step_id), rest_s=rest_s))


def without_step(program: Program, step_id: str) -> Program:
    """The program less one step; the last one cannot go (PlanError "program_empty")."""
    program.step(step_id)
    return replace(program, steps=tuple(s for s in program.steps if s.step_id != step_id))


def with_dose(program: Program, *, sessions_a_day: int, days_a_week: int, weeks: int) -> Program:
    """Another number of home sessions a day, days a week and weeks; times and days away stay, named
    weekdays only while they are as many. PlanError("dose_out_of_limits")."""
    dose = program.dose
    weekdays = dose.weekdays if len(dose.weekdays) == days_a_week else ()
    changed = replace(
        dose,
        sessions_a_day=sessions_a_day,
        days_a_week=days_a_week,
        weeks=weeks,
        weekdays=weekdays,
    )
    return replace(program, dose=changed)
