"""The limits of every clinical number of a program, in one place: name → lowest, highest, unit.

Types of targets, steps, grades and doses check against it when they are made, whoever makes them:
a fitter, the Bench, a file, a stored version.
"""

import math

from core.catalogue.words import Growth
from core.errors import PlanError
from core.reference.values import HOLD_LONGEST, HOLD_SHORTEST

RUNGS: dict[Growth, tuple[float, float, str]] = {
    Growth.SECONDS: (HOLD_SHORTEST.number, HOLD_LONGEST.number, "s"),
    Growth.BEATS_OUT: (1, 60, "beats"),
    Growth.FORM: (0, 40, "place in the list of forms"),
    Growth.DECIBELS: (0, 20, "dB over the own conversation"),
    Growth.SEMITONES: (35, 96, "number of the note, B1–C7"),
    Growth.COUNT: (1, 60, "times"),
    Growth.WIDTH: (0, 40, "place in the list of widths"),
    Growth.CUE: (0, 40, "place in the list of cues"),
    Growth.TEMPO: (30, 240, "beats/min"),
    Growth.PLACE: (0, 40, "place in the list of places"),
}
"""Values of the rungs, and of the goal, of a grade."""

SHOWN: dict[Growth, tuple[float, float]] = {
    Growth.SECONDS: (0, 120),
    Growth.BEATS_OUT: (0, 480),
    Growth.DECIBELS: (-10, 40),
}
"""What a client can have shown in that unit."""

MOST_RUNGS = 60
NUMBERS: dict[str, tuple[float, float, str]] = {
    "margin_semitones": (0, 12, "semitones"),
    "shown_s": (0.1, 120, "s"),
    "deepest_cm": (0, 15, "cm"),
    "back_pressure_cmh2o": (0, 500, "cmH₂O"),
    "times": (1, 5, "rises in one breath"),
}


def within(name: str, came: float) -> float:
    """A number of `NUMBERS` within its limits; PlanError("a_number_out_of_limits")."""
    low, high, unit = NUMBERS[name]
    return _within(f"{name}, {unit}", came, low, high)


def rung_within(growth: Growth, came: float) -> float:
    """A rung or goal within the limits of its dimension."""
    low, high, unit = RUNGS[growth]
    return _within(f"a rung, {unit}", came, low, high)


def shown_within(growth: Growth, came: float) -> float:
    """What was shown within the limits of its dimension."""
    low, high = SHOWN.get(growth, RUNGS[growth][:2])
    return _within("what was shown", came, low, high)


def _within(which: str, came: float, low: float, high: float) -> float:
    if not (math.isfinite(came) and low <= came <= high):
        raise PlanError("a_number_out_of_limits", which=which, came=came, low=low, high=high)
    return came
