"""Changes a clinician makes to a program by hand; each gives a new program."""

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from core.errors import PlanError
from core.plans.back_pressure import back_pressure
from core.plans.dosing import When
from core.plans.presentation import Feedback, Stress
from core.plans.program import Program
from core.plans.rungs import checked_hold
from core.plans.targets import checked
from core.reason import says

_PRESENTED: dict[str, Callable[[str], Any]] = {
    "material": str,
    "stress": Stress,
    "feedback": Feedback,
}
BY_HAND = says("by_hand", "set by hand")()
_BY_HAND_RESISTS = says(
    "by_hand_resists", "set by hand; resists {cmh2o:.1f} cmH₂O at {flow_ml_s:.0f} mL/s"
)


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


def with_depth(program: Program, step_id: str, depth_cm: float) -> Program:
    """Another depth of a tube in water, cm, with what it resists; `problems` says where it is deeper
    than home allows. PlanError("no_tube_in_water")."""
    step = program.step(step_id)
    tube = step.tube
    if tube is None or not tube.deepest_cm:
        raise PlanError("no_tube_in_water", step=step.name)
    found = back_pressure(
        bore_mm=tube.bore_mm,
        length_cm=tube.length_cm,
        depth_cm=checked("depth", depth_cm, 0.5, 15),
        flow_ml_s=tube.flow_ml_s,
    )
    changed = replace(
        tube,
        depth_cm=depth_cm,
        back_pressure_cmh2o=round(found.total, 1),
        because=_BY_HAND_RESISTS(cmh2o=found.total, flow_ml_s=tube.flow_ml_s),
    )
    return program.with_step(replace(step, tube=changed))


def with_level(program: Program, step_id: str, over_db: float) -> Program:
    """Another level over the own conversation, dB. PlanError("step_without_level")."""
    step = program.step(step_id)
    if step.level is None or step.level.over_db is None:
        raise PlanError("step_without_level", step=step.name)
    level = replace(step.level, over_db=over_db, because=BY_HAND)
    return program.with_step(replace(step, level=level))


def with_seconds(program: Program, step_id: str, seconds: float) -> Program:
    """Another time for a glide, a stream of air, a task by the clock or speech, s; for a glide
    `problems` says where it is longer than the voice shown. PlanError("step_without_seconds")."""
    step = program.step(step_id)
    target = step.target.lasting(seconds, BY_HAND)
    if target is None:
        raise PlanError("step_without_seconds", step=step.name)
    return program.with_step(replace(step, target=target))


def presented(program: Program, step_id: str, which: str, value: str) -> Program:
    """One setting of how a step is presented at home (material, stress, feedback), by its code.
    PlanError("presentation_unknown"), ("material_unknown")."""
    step = program.step(step_id)
    try:
        told = _PRESENTED[which](value)
    except (KeyError, ValueError) as error:
        raise PlanError("presentation_unknown", which=which, came=value) from error
    return program.with_step(replace(step, presented=replace(step.presented, **{which: told})))


def without_step(program: Program, step_id: str) -> Program:
    """The program less one step, and less its routine where that was its last; the last of the
    program cannot go (PlanError "program_empty")."""
    program.step(step_id)
    routine = program.routine_of(step_id)
    steps = tuple(step for step in routine.steps if step.step_id != step_id)
    if steps:
        return program.with_routine(replace(routine, steps=steps))
    return replace(program, routines=tuple(one for one in program.routines if one != routine))


def with_dose(
    program: Program,
    key: str,
    *,
    sessions_a_day: int,
    days_a_week: int,
    weeks: int,
    when: When | None = None,
) -> Program:
    """Another number of sittings a day, days a week and weeks of one routine, and another part of the
    day (None = as it is); times and days away stay, named weekdays only while they are as many.
    PlanError("dose_out_of_limits"), ("routine_unknown")."""
    routine = program.routine(key)
    dose = routine.dose
    weekdays = dose.weekdays if len(dose.weekdays) == days_a_week else ()
    changed = replace(
        dose,
        sessions_a_day=sessions_a_day,
        days_a_week=days_a_week,
        weeks=weeks,
        weekdays=weekdays,
        when=when or dose.when,
    )
    return program.with_routine(replace(routine, dose=changed))
