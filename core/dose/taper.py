"""A program as a day of its tapers asks for it."""

from dataclasses import replace
from datetime import date

from core.dose.calendar import stage_on
from core.program.program import Program
from core.program.routine import Routine


def on_day(program: Program, day: date) -> Program:
    """The program with no more repetitions than the taper stage of each routine asks for on that
    local date; as it is before a taper, and where no start is known."""
    return replace(program, routines=tuple(_on_day(one, day) for one in program.routines))


def _on_day(routine: Routine, day: date) -> Routine:
    dose = routine.dose
    stage = stage_on(dose, dose.starts_on, day) if dose.starts_on else None
    if stage is None:
        return routine
    steps = tuple(
        replace(step, repetitions=min(step.repetitions, stage.repetitions))
        for step in routine.steps
    )
    return replace(routine, steps=steps)
