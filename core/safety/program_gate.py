"""The gate of a whole program: screening, red flags, contraindications, precautions, limits."""

from collections.abc import Mapping
from datetime import date

from core.catalogue.tasks import shipped_tasks
from core.catalogue.touches import Touch
from core.dose.minutes import length_of
from core.plans.program import Program
from core.plans.step import Step
from core.reference.values import DEEP_WATER
from core.safety.condition import Condition
from core.safety.conditions import Doing, conditions_of, judged
from core.safety.gate import Gate, Screening, activation_gate


def touches_of(step: Step) -> frozenset[Touch]:
    """What a step touches: what was copied into it, what its task touches today, deep water by
    the depth of its tube."""
    task = shipped_tasks().get(step.task)
    touches = frozenset(step.touches) | (task.touches if task else frozenset())
    if step.tube is not None and step.tube.depth_cm >= DEEP_WATER.number:
        touches |= {Touch.DEEP_WATER}
    return touches


def doings_of(program: Program) -> dict[str, Doing]:
    """What each step of a program does, by the step's name; the minutes add up to the session's."""
    doings: dict[str, Doing] = {}
    for step in program.steps:
        length_s = length_of((step,)).total_s + (0 if step is program.steps[-1] else step.rest_s)
        before = doings.get(step.name, Doing(frozenset()))
        doings[step.name] = Doing(before.touches | touches_of(step), before.minutes + length_s / 60)
    if program.short_day is not None:
        doings.setdefault(program.short_day.name, Doing(touches_of(program.short_day)))
    return doings


def known_conditions(screening: Screening) -> frozenset[Condition]:
    """The conditions of a screening, with what red flags stand for and what the age says."""
    found = conditions_of(screening.conditions, screening.red_flags)
    return found | {Condition.MINOR} if screening.minor else found


def program_gate(screening: Screening | None, does: Mapping[str, Doing], today: date) -> Gate:
    """Whether a program that does this may be or stay active today, with every reason in words."""
    gate = activation_gate(screening, today)
    if screening is None:
        return gate
    return judged(known_conditions(screening), does, gate)
