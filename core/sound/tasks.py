"""The measured tasks by name, what sound each listens for and what target it takes."""

import re
from dataclasses import dataclass
from enum import StrEnum
from typing import Protocol

from core.errors import SoundError
from core.notes.note import Note

LONGEST_PATTERN = 60
_NUMBER = r"([+-]?\d+(?:\.\d+)?)"
_LEVEL = re.compile(
    rf"(reference )?{_NUMBER} dB(?: *\+ *{_NUMBER} dB)?(?:, *(\d+) words)?|(\d+) words"
)
_PACE = re.compile(rf"in {_NUMBER} out {_NUMBER}")


class Measured(StrEnum):
    """How an attempt is measured.

    hold: one held note; glide: a slide; hiss: /s/; sz: /s/ turning into /z/; bubbles: voice through
    a tube in water; pattern: notes of a scale pattern; level: speech, counting, reading;
    breath: breathing in and out at a pace.
    """

    HOLD = "hold"
    GLIDE = "glide"
    HISS = "hiss"
    SZ = "sz"
    BUBBLES = "bubbles"
    PATTERN = "pattern"
    LEVEL = "level"
    BREATH = "breath"


HISSING = (Measured.HISS, Measured.SZ)


class Target(Protocol):
    """What an attempt aims at; `name` is its text, which `target_of` reads back."""

    @property
    def name(self) -> str: ...


@dataclass(frozen=True, slots=True)
class PatternTarget:
    """The notes of a pattern in order, 2 to 60."""

    notes: tuple[Note, ...]

    def __post_init__(self) -> None:
        if not 2 <= len(self.notes) <= LONGEST_PATTERN:
            raise SoundError(
                "pattern_out_of_limits", notes=len(self.notes), low=2, high=LONGEST_PATTERN
            )

    @property
    def name(self) -> str:
        return " ".join(note.name for note in self.notes)


@dataclass(frozen=True, slots=True, kw_only=True)
class LevelTarget:
    """Speech `over_db` above the client's own reference level, dBFS at the same device and
    distance; None = the level is compared, not aimed at. words: how many are read, for the rate."""

    reference_db: float | None = None
    over_db: float | None = None
    words: int | None = None

    @property
    def name(self) -> str:
        level = [] if self.reference_db is None else [f"{self.reference_db:g} dB"]
        if level and self.over_db is None:
            level = [f"reference {level[0]}"]
        elif level and self.over_db:
            level = [f"{level[0]} + {self.over_db:g} dB"]
        return ", ".join([*level, *([] if self.words is None else [f"{self.words} words"])])


@dataclass(frozen=True, slots=True, kw_only=True)
class PaceTarget:
    """A breath in of `in_s` and out of `out_s`, seconds, 0.5–60."""

    in_s: float
    out_s: float

    def __post_init__(self) -> None:
        for seconds in (self.in_s, self.out_s):
            if not 0.5 <= seconds <= 60:
                raise SoundError("pace_out_of_limits", seconds=seconds, low=0.5, high=60)

    @property
    def name(self) -> str:
        return f"in {self.in_s:g} out {self.out_s:g}"


def measured_task(name: str) -> Measured:
    """The task of that name; SoundError("task_unknown") otherwise."""
    try:
        return Measured(name)
    except ValueError as error:
        raise SoundError("task_unknown", task=name, known=[t.value for t in Measured]) from error


def target_of(task: Measured, text: str | None) -> Target | None:
    """The target of a task from its text; None for no text and for tasks without one.

    "B♭3" to hold, "C4 D4 E4" as pattern, "-30 dB + 4 dB, 120 words" or "reference -30 dB" for
    speech, "in 2.4 out 4.8" for breath.
    Raises SoundError("target_unreadable") and the errors of notes and targets.
    """
    if not text:
        return None
    if task is Measured.HOLD:
        return Note.named(text)
    if task is Measured.PATTERN:
        return PatternTarget(tuple(Note.named(name) for name in text.split()))
    if task is Measured.LEVEL and (found := _LEVEL.fullmatch(text.strip())):
        compared, level, over, words, only = found.groups()
        count = words or only
        return LevelTarget(
            reference_db=None if level is None else float(level),
            over_db=None if compared or level is None else float(over or 0),
            words=None if count is None else int(count),
        )
    if task is Measured.BREATH and (found := _PACE.fullmatch(text.strip())):
        return PaceTarget(in_s=float(found[1]), out_s=float(found[2]))
    if task in (Measured.LEVEL, Measured.BREATH):
        raise SoundError("target_unreadable", task=task.value, target=text)
    return None
