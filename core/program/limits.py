"""Limits of every clinical number in a program.

Types of targets, steps, grades and doses check against them when they are made, whoever makes them: a fitter, the
page of a program, a file, a stored version. What is set by hand says them at its field.
"""

from core.catalogue.words import Growth
from core.reference.limits import Limit
from core.reference.values import HOLD_LONGEST, HOLD_SHORTEST

HOLD_S = Limit(HOLD_SHORTEST.number, HOLD_LONGEST.number, "s")
TIMED_S = Limit(3, 900, "s")
SPEECH_S = Limit(5, 600, "s")
COUNTED_EACH_S = Limit(0.5, 60, "s")
PHRASE_S = Limit(1, 15, "s")
PACE_S = Limit(0.5, 60, "s")
REST_S = Limit(0, 300, "s")
REPETITIONS = Limit(1, 10, "times")
COUNT = Limit(1, 60, "times")
SIDES = Limit(1, 2, "sides")
RISES = Limit(1, 5, "times")
TEMPO_BPM = Limit(30, 240, "beats/min")
BEATS_IN = Limit(1, 20, "beats")
BEATS_OUT = Limit(1, 60, "beats")
BREATHS = Limit(1, 10, "breaths")
PATTERN_NOTES = Limit(2, 20, "notes")
PATTERN_KEYS = Limit(1, 48, "keys")
LEVEL_OVER_DB = Limit(0, 20, "dB")
EFFORT = Limit(0, 9, "of 10")
BORE_MM = Limit(2, 15, "mm")
TUBE_LENGTH_CM = Limit(3, 60, "cm")
DEPTH_CM = Limit(0, 15, "cm")
FLOW_ML_S = Limit(20, 1000, "mL/s")
SESSIONS_A_DAY = Limit(1, 6, "a day")
DAYS_A_WEEK = Limit(1, 7, "days")
EVERY_DAYS = Limit(1, 7, "days")
WEEKS = Limit(1, 26, "weeks")
SPACING_H = Limit(0.25, 12, "h")
SHORT_DAY_MIN = Limit(1, 10, "min")

RUNGS: dict[Growth, Limit] = {
    Growth.SECONDS: HOLD_S,
    Growth.BEATS_OUT: BEATS_OUT,
    Growth.FORM: Limit(0, 40, "place in the list of forms"),
    Growth.DECIBELS: Limit(0, 20, "dB over the own conversation"),
    Growth.SEMITONES: Limit(35, 96, "number of the note, B1–C7"),
    Growth.COUNT: COUNT,
    Growth.WIDTH: Limit(0, 40, "place in the list of widths"),
    Growth.CUE: Limit(0, 40, "place in the list of cues"),
    Growth.TEMPO: TEMPO_BPM,
    Growth.PLACE: Limit(0, 40, "place in the list of places"),
}
"""Values of the rungs, and of the goal, of a grade."""

SHOWN: dict[Growth, Limit] = {
    Growth.SECONDS: Limit(0, 120, "s"),
    Growth.BEATS_OUT: Limit(0, 480, "beats"),
    Growth.DECIBELS: Limit(-10, 40, "dB"),
}
"""What a client can have shown in that unit."""

MOST_RUNGS = 60
NUMBERS: dict[str, Limit] = {
    "margin_semitones": Limit(0, 12, "semitones"),
    "shown_s": Limit(0.1, 120, "s"),
    "deepest_cm": Limit(0, 15, "cm"),
    "back_pressure_cmh2o": Limit(0, 500, "cmH₂O"),
    "times": RISES,
}


def within(name: str, came: float) -> float:
    """A number of `NUMBERS` within its limits; PlanError("a_number_out_of_limits")."""
    return _within(f"{name}, {NUMBERS[name].unit}", came, NUMBERS[name])


def rung_within(growth: Growth, came: float) -> float:
    """A rung or goal within the limits of its dimension."""
    return _within(f"a rung, {RUNGS[growth].unit}", came, RUNGS[growth])


def shown_within(growth: Growth, came: float) -> float:
    """What was shown within the limits of its dimension."""
    return _within("what was shown", came, SHOWN.get(growth, RUNGS[growth]))


def _within(which: str, came: float, limit: Limit) -> float:
    return limit.check(which, came, code="a_number_out_of_limits")
