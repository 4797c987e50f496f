"""A step, or all steps that climb together, on another rung."""

from dataclasses import replace

from core.catalogue.doing import done_as
from core.catalogue.words import TOLD_IN_WORDS, Growth
from core.errors import PlanError
from core.program.program import Program
from core.program.step import Grade, Step
from core.reason import Reason, says

_ON_RUNG = says("on_rung", "rung {rung} of {rungs}: {asked}")


def on_rung(program: Program, step_id: str, rung: int) -> Program:
    """The program with that step, and every step of the same grade in its routine, on another rung
    (index).

    Raises PlanError("step_unknown"), ("step_not_graded"), ("rung_unknown").
    """
    grade = program.step(step_id).grade
    if grade is None:
        raise PlanError("step_not_graded", step=step_id)
    routine = program.routine_of(step_id)
    steps = tuple(
        step_on_rung(step, rung) if step.grade and step.grade.key == grade.key else step
        for step in routine.steps
    )
    return program.with_routine(replace(routine, steps=steps))


def step_on_rung(step: Step, rung: int) -> Step:
    """The step on another of its rungs, its reason said."""
    if step.grade is None:
        raise PlanError("step_not_graded", step=step.step_id)
    grade = replace(step.grade, rung=rung)
    because = _ON_RUNG(rung=rung + 1, rungs=len(grade.rungs), asked=grade.words[rung])
    moved = replace(step, grade=grade)
    if grade.targets:
        target = grade.targets[rung]
        if grade.growth is not Growth.FORM:
            return replace(moved, target=target)
        kind = done_as(_own_kind(step), target.form)
        return replace(moved, target=target, kind=kind, voiced=not target.air_only)
    return _changed(moved, grade, because)


def _own_kind(step: Step) -> str:
    """Bubbles stay bubbles; every other semi-occluded task is measured by its target."""
    return "bubbles" if step.tube and step.tube.depth_cm else "hold"


def _changed(step: Step, grade: Grade, because: Reason) -> Step:
    if grade.growth is Growth.DECIBELS and step.level is not None:
        return replace(step, level=replace(step.level, over_db=grade.value, because=because))
    if grade.growth in TOLD_IN_WORDS:
        return step
    target = step.target.climbed(grade.growth, grade.value, because)
    if target is None:
        raise PlanError("grade_broken", growth=grade.growth.value, rungs=len(grade.rungs))
    return replace(step, target=target)
