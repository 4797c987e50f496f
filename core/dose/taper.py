"""A program as a day of its taper asks for it."""

from dataclasses import replace
from datetime import date

from core.dose.calendar import stage_on
from core.plans.program import Program


def on_day(program: Program, day: date) -> Program:
    """The program with no more repetitions than the taper stage of that local date asks for; the
    program itself before the taper, and where no start is known."""
    dose = program.dose
    stage = stage_on(dose, dose.starts_on, day) if dose.starts_on else None
    if stage is None:
        return program
    steps = tuple(
        replace(step, repetitions=min(step.repetitions, stage.repetitions))
        for step in program.steps
    )
    return replace(program, steps=steps)
