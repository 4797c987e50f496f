"""A routine: steps that are done in one sitting, with a dose of their own."""

import re
from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum

from core.errors import PlanError
from core.program.dosing import Dose
from core.program.step import Step
from core.program.targets import Strict

MOST_STEPS = 40
_KEY = re.compile(r"[a-z][a-z_]{0,29}(_[2-9])?")


class RoutineKind(StrEnum):
    """What a routine is for, in the order of a day; the words stand where it is shown.

    practice: whatever has no other name, and the only routine of programs of formats 1 and 2.
    """

    WARM_UP = "warm_up"
    RELEASE = "release"
    BREATH = "breath"
    SEMI_OCCLUDED = "semi_occluded"
    PRACTICE = "practice"
    LADDER = "ladder"
    LOUDNESS = "loudness"
    RANGE = "range"
    RESONANCE = "resonance"
    PITCH = "pitch"
    CLEAR_SPEECH = "clear_speech"
    CARRY_OVER = "carry_over"
    RESET = "reset"
    COOL_DOWN = "cool_down"


_IN_A_DAY = tuple(RoutineKind)


def in_day_order(routines: Iterable["Routine"]) -> list["Routine"]:
    """Routines in the order in which a day asks for them."""
    return sorted(routines, key=lambda one: _IN_A_DAY.index(one.kind))


@dataclass(frozen=True, slots=True, kw_only=True)
class Routine(Strict):
    """Steps in the order of one sitting, how often and when.

    key: lasts from version to version and is unique in a program; short_day: the step that stands
    for the sitting on a bad day.
    """

    key: str
    kind: RoutineKind
    steps: tuple[Step, ...]
    short_day: Step | None = None
    dose: Dose

    def __post_init__(self) -> None:
        if not _KEY.fullmatch(self.key):
            raise PlanError("routine_key_odd", came=self.key, example="ladder")
        if not self.steps:
            raise PlanError("program_empty")
        if len(self.steps) > MOST_STEPS:
            raise PlanError("too_many_steps", came=len(self.steps), high=MOST_STEPS)

    @property
    def number(self) -> str:
        """Its number among the routines of its kind; "" for the first."""
        number = self.key.rpartition("_")[2]
        return number if number.isdigit() else ""

    def called(self, words: str) -> str:
        """Words with the number of the routine, where it is not the first of its kind."""
        return f"{words} {self.number}".strip()

    @property
    def all_steps(self) -> tuple[Step, ...]:
        """The steps of a sitting, and the one for a bad day."""
        return (*self.steps, self.short_day) if self.short_day else self.steps
