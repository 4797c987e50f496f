"""The rungs of a step changed by hand: other numbers, rungs taken out and put back."""

import itertools
from collections.abc import Sequence
from dataclasses import replace

from core.catalogue.words import Growth
from core.editing.change_rung import on_rung
from core.editing.step_settings import BY_HAND
from core.errors import PlanError
from core.program.program import Program
from core.program.rung_words import beats_words, number_words
from core.program.settable import numbers_in
from core.program.step import Grade, Step
from core.program.targets import Counted, Pace


def typed(grade: Grade) -> bool:
    """Whether the rungs of a ladder are numbers that can be typed; else each is a target or a code."""
    return not grade.targets and not grade.codes


def ladder_text(grade: Grade) -> str:
    """The rungs as they are typed."""
    return " ".join(f"{value:g}" for value in grade.rungs)


def with_ladder(program: Program, step_id: str, text: str) -> Program:
    """Other rungs for a step, and for those that climb with it, as typed: `6.5 7 8 9`, rising.

    The step stays on the rung of its value, or goes to the highest under it, or the first: never higher.
    PlanError("step_not_graded"), ("ladder_of_targets"), ("setting_unreadable"), ("ladder_upside_down"),
    ("a_number_out_of_limits").
    """
    step, grade = _graded(program, step_id)
    if not typed(grade):
        raise PlanError("ladder_of_targets", step=step.name)
    rungs = numbers_in(text, "rungs")
    for before, after in itertools.pairwise(rungs):
        if after <= before:
            raise PlanError("ladder_upside_down", before=before, after=after)
    if grade.growth in (Growth.BEATS_OUT, Growth.COUNT) and any(not r.is_integer() for r in rungs):
        raise PlanError("setting_unreadable", which="rungs", came=text[:40])
    under = [place for place, value in enumerate(rungs) if value <= grade.value]
    changed = replace(
        grade,
        rungs=rungs,
        words=tuple(_said(step, grade.growth, value) for value in rungs),
        rung=under[-1] if under else 0,
        goal=rungs[-1] if grade.goal is not None else None,
        because=BY_HAND,
    )
    return _climbing_together(program, step_id, changed)


def without_rung(program: Program, step_id: str, place: int) -> Program:
    """The ladder less one rung; a step that stood on it goes one lower. PlanError("rung_unknown"),
    ("last_rung_stays")."""
    _step, grade = _graded(program, step_id)
    if not 0 <= place < len(grade.rungs):
        raise PlanError("rung_unknown", rung=place, rungs=len(grade.rungs))
    if len(grade.rungs) == 1:
        raise PlanError("last_rung_stays")
    kept = [at for at in range(len(grade.rungs)) if at != place]
    stands = grade.rung - 1 if grade.rung >= place else grade.rung
    return _climbing_together(program, step_id, _only(grade, kept, max(stands, 0)))


def with_rung_again(program: Program, proposed: Program, step_id: str, value: float) -> Program:
    """A rung that was proposed and taken out, back in its place, by its value; the step stays where it
    stands. PlanError("rung_not_in_ladder")."""
    _step, grade = _graded(program, step_id)
    whole = proposed.step(step_id).grade
    if whole is None or value not in whole.rungs or value in grade.rungs:
        raise PlanError("rung_not_in_ladder", came=f"{value:g}")
    at, source = sum(one < value for one in grade.rungs), whole.rungs.index(value)

    def inserted(own: Sequence, new: Sequence) -> tuple:
        return (*own[:at], new[source], *own[at:]) if new else tuple(own)

    changed = replace(
        grade,
        rungs=inserted(grade.rungs, whole.rungs),
        codes=inserted(grade.codes, whole.codes),
        words=inserted(grade.words, whole.words),
        targets=inserted(grade.targets, whole.targets),
        rung=grade.rung + (at <= grade.rung),
    )
    return _climbing_together(program, step_id, changed)


def _only(grade: Grade, kept: Sequence[int], stands: int) -> Grade:
    def of(own: Sequence) -> tuple:
        return tuple(own[at] for at in kept) if own else ()

    rungs = of(grade.rungs)
    return replace(
        grade,
        rungs=rungs,
        codes=of(grade.codes),
        words=of(grade.words),
        targets=of(grade.targets),
        rung=stands,
        goal=rungs[-1] if grade.goal is not None else None,
        because=BY_HAND,
    )


def _graded(program: Program, step_id: str) -> tuple[Step, Grade]:
    step = program.step(step_id)
    if step.grade is None:
        raise PlanError("step_not_graded", step=step.name)
    return step, step.grade


def _climbing_together(program: Program, step_id: str, changed: Grade) -> Program:
    """The grade in the step and in every other of its routine with the same rungs; where the present rung
    asks for something else now, the step asks for it."""
    step, grade = _graded(program, step_id)
    routine = program.routine_of(step_id)

    def own(one: Step) -> Step:
        if one.grade is None or one.grade.key != grade.key or one.grade.rungs != grade.rungs:
            return one
        if one.step_id != step_id and grade.targets:
            return one
        return replace(one, grade=replace(changed, shown=one.grade.shown))

    program = program.with_routine(replace(routine, steps=tuple(map(own, routine.steps))))
    same = changed.value == grade.value and changed.code == grade.code
    return program if same else on_rung(program, step.step_id, changed.rung)


def _said(step: Step, growth: Growth, value: float) -> str:
    target = step.target
    if growth is Growth.BEATS_OUT and isinstance(target, Pace):
        return beats_words(value, target.tempo_bpm)
    unit = target.unit if isinstance(target, Counted) else "times"
    return number_words(growth, value, unit=unit)
