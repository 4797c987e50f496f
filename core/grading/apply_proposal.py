"""What a program becomes when a proposal is accepted."""

from collections.abc import Callable
from dataclasses import replace
from datetime import date, timedelta

from core.dose.calendar import stage_on
from core.editing.change_rung import on_rung
from core.errors import PlanError
from core.grading.act import Act, Dimension, Proposal
from core.grading.ease_dimension import lightened
from core.program.dosing import SUSTAINED_TAPER
from core.program.program import Program
from core.program.routine import Routine
from core.program.step import Step

CHANGES = frozenset({Act.CLIMB, Act.EASE, Act.RUNG_DOWN, Act.PROBE, Act.TAPER, Act.STAGE_BACK})
"""The acts that make another version of the program; the others are tasks or notes."""


def changes(proposal: Proposal) -> bool:
    """Whether accepting it changes the program: a rung that cannot go lower changes nothing."""
    if proposal.act in (Act.CLIMB, Act.EASE):
        return proposal.rung is not None or proposal.to is not None
    return proposal.act in CHANGES


def accepted(
    program: Program, proposal: Proposal, today: date, *, rung: int | None = None
) -> Program:
    """The program as the proposal makes it; rung: another than the proposed one.

    PlanError("rung_unknown") for a rung the step does not have, ("step_unknown") for a step that is
    no longer there, ("nothing_to_change") for an act that changes no program.
    """
    if not changes(proposal):
        raise PlanError("nothing_to_change", act=proposal.act.value)
    match proposal.act:
        case Act.EASE if proposal.to is not None and rung is None:
            return _lightened(program, proposal, proposal.to)
        case Act.CLIMB | Act.EASE:
            wanted = proposal.rung if rung is None else rung
            return on_rung(program, proposal.steps[0], wanted or 0)
        case Act.RUNG_DOWN:
            return _every_rung(program, lambda now: max(now - 1, 0))
        case Act.PROBE:
            return _every_rung(program, lambda _now: 0)
    routine = program.routine_of(proposal.steps[0])
    back = proposal.act is Act.STAGE_BACK
    return program.with_routine(_stage_back(routine, today) if back else _tapered(routine, today))


def _lightened(program: Program, proposal: Proposal, to: float) -> Program:
    """Every step it is about with less level, depth or resistance, each where it has that."""
    about = set(proposal.steps)

    def changed(step: Step) -> Step:
        has = step.level is not None if proposal.dimension is Dimension.LEVEL else step.tube
        return lightened(step, proposal.dimension, to) if step.step_id in about and has else step

    return program.each_step(changed)


def _every_rung(program: Program, moved: Callable[[int], int]) -> Program:
    """Every ladder on another rung, those of one key together."""
    for routine in program.routines:
        leads = {step.grade.key: step for step in routine.steps if step.grade}
        for step in leads.values():
            program = on_rung(program, step.step_id, moved(step.rung))
    return program


def _tapered(routine: Routine, today: date) -> Routine:
    """Its weeks end today, so that the taper begins; the usual one where it had none."""
    start = today - timedelta(weeks=routine.dose.weeks)
    stages = routine.dose.taper or SUSTAINED_TAPER
    return replace(routine, dose=replace(routine.dose, starts_on=start, taper=stages))


def _stage_back(routine: Routine, today: date) -> Routine:
    """The stage before begins today; before the first stage one more week of the whole dose."""
    dose = routine.dose
    stage = stage_on(dose, dose.starts_on, today) if dose.starts_on else None
    if stage is None:
        return routine
    place = dose.taper.index(stage)
    if place == 0:
        start = today - timedelta(weeks=dose.weeks - 1)
    else:
        before = sum(one.weeks for one in dose.taper[: place - 1])
        start = today - timedelta(weeks=dose.weeks + before)
    return replace(routine, dose=replace(dose, starts_on=start))
