"""The gate of a whole program: screening, red flags, contraindications, precautions."""

from collections.abc import Mapping
from datetime import date

from core.catalogue.tasks import shipped_tasks
from core.catalogue.touches import Touch
from core.plans.program import Program
from core.safety.conditions import conditions_of, judged
from core.safety.gate import Gate, Screening, activation_gate


def touches_of(program: Program) -> dict[str, frozenset[Touch]]:
    """What each step of a program touches, by the step's name; tasks no longer shipped touch
    nothing that is known."""
    tasks = shipped_tasks()
    return {
        step.name: tasks[step.task].touches if step.task in tasks else frozenset()
        for step in program.steps
    }


def program_gate(
    screening: Screening | None, does: Mapping[str, frozenset[Touch]], today: date
) -> Gate:
    """Whether a program that does this may be or stay active today, with every reason in words."""
    gate = activation_gate(screening, today)
    if screening is None:
        return gate
    return judged(conditions_of(screening.conditions, screening.red_flags), does, gate)
