"""A step, or all steps that climb together, on another rung."""

from dataclasses import replace

from core.catalogue.words import Growth, TaskKind
from core.errors import PlanError
from core.plans.fitted import AIR_ONLY, TOLD_IN_WORDS, kind_of
from core.plans.program import Program
from core.plans.step import Grade, Step
from core.plans.targets import Blow, Counted, Holds, Pace, Timed


def on_rung(program: Program, step_id: str, rung: int) -> Program:
    """The program with that step, and every step of the same grade, on another rung (index).

    Raises PlanError("step_unknown"), ("step_not_graded"), ("rung_unknown").
    """
    grade = program.step(step_id).grade
    if grade is None:
        raise PlanError("step_not_graded", step=step_id)
    steps = tuple(
        step_on_rung(step, rung) if step.grade and step.grade.key == grade.key else step
        for step in program.steps
    )
    return replace(program, steps=steps)


def step_on_rung(step: Step, rung: int) -> Step:
    """The step on another of its rungs, its reason said."""
    if step.grade is None:
        raise PlanError("step_not_graded", step=step.step_id)
    grade = replace(step.grade, rung=rung)
    because = f"rung {rung + 1} of {len(grade.rungs)}: {grade.words[rung]}"
    moved = replace(step, grade=grade)
    if grade.targets:
        target = grade.targets[rung]
        if grade.growth is not Growth.FORM:
            return replace(moved, target=target)
        form = grade.words[rung]
        kind = kind_of(_own_kind(step), target)
        return replace(moved, target=target, kind=kind, cue=form, voiced=form != AIR_ONLY)
    return _changed(moved, grade, because)


def _own_kind(step: Step) -> TaskKind:
    """Bubbles stay bubbles; every other semi-occluded task is measured by its target."""
    return TaskKind.BUBBLES if step.tube and step.tube.depth_cm else TaskKind.HOLD


def _changed(step: Step, grade: Grade, because: str) -> Step:
    value, target = grade.value, step.target
    if grade.growth is Growth.SECONDS and isinstance(target, Holds):
        holds = tuple(replace(h, seconds=value, because=because) for h in target.holds)
        return step.with_holds(holds)
    if grade.growth is Growth.SECONDS and isinstance(target, Blow):
        return replace(step, target=replace(target, seconds=value, because=because))
    if grade.growth is Growth.SECONDS and isinstance(target, Timed):
        return replace(step, target=replace(target, seconds_a_side=value, because=because))
    if grade.growth is Growth.BEATS_OUT and isinstance(target, Pace):
        return replace(
            step,
            target=replace(target, beats_out=int(value), because=because),
            cue=grade.words[grade.rung],
        )
    if grade.growth is Growth.TEMPO and isinstance(target, Counted):
        return replace(
            step,
            target=replace(target, tempo_bpm=value, because=because),
            cue=grade.words[grade.rung],
        )
    if grade.growth is Growth.COUNT and isinstance(target, Counted):
        return replace(step, target=replace(target, count=int(value), because=because))
    if grade.growth is Growth.DECIBELS and step.level is not None:
        return replace(step, level=replace(step.level, over_db=value, because=because))
    if grade.growth in TOLD_IN_WORDS:
        return replace(step, cue=grade.words[grade.rung])
    raise PlanError("grade_broken", growth=grade.growth.value, rungs=len(grade.rungs))
