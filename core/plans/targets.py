"""What one repetition of a step asks for: the nine kinds of target.

Every target tells `seconds` (how long one repetition lasts, without rests), `attempts` (how many
attempts that is) and `notes` (every note it asks for). Limits raise PlanError.
"""

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Annotated, ClassVar, Literal

from pydantic import ConfigDict, Field

from core.errors import PlanError
from core.notes.note import Note
from core.plans.rungs import checked_hold
from core.reference.values import HOLD_LONGEST, HOLD_SHORTEST

DEGREES = {1: 0, 2: 2, 3: 4, 4: 5, 5: 7, 6: 9, 7: 11, 8: 12, 9: 14}
"""Semitones of the degrees of the major scale above the start key."""


HoldSeconds = Annotated[float, Field(ge=HOLD_SHORTEST.number, le=HOLD_LONGEST.number)]
Tempo = Annotated[float, Field(ge=30, le=240)]


LONGEST_PIECE_S = 90.0
"""Longest piece of speech recorded in one attempt; a recording ends at 120 s."""


class Strict:
    """In files: no key that is not known, no number that is not finite."""

    __slots__ = ()
    __pydantic_config__: ClassVar[ConfigDict] = ConfigDict(extra="forbid", allow_inf_nan=False)


def checked(name: str, came: float, low: float, high: float) -> float:
    """A number within limits; PlanError("target_out_of_limits", which, came, low, high)."""
    if not (math.isfinite(came) and low <= came <= high):
        raise PlanError("target_out_of_limits", which=name, came=came, low=low, high=high)
    return came


class Plain(Strict):
    """What most targets are: one attempt, without a note."""

    __slots__ = ()

    @property
    def attempts(self) -> int:
        return 1

    @property
    def notes(self) -> tuple[Note, ...]:
        return ()


@dataclass(frozen=True, slots=True, kw_only=True)
class HoldTarget(Strict):
    """One note to hold for a number of seconds, and why, in words shown to the clinician."""

    note: Note
    seconds: HoldSeconds
    because: str

    def __post_init__(self) -> None:
        checked_hold(self.seconds)


@dataclass(frozen=True, slots=True, kw_only=True)
class Holds(Strict):
    """Notes held one after the other; `swell`: soft, louder, soft within each."""

    kind: Literal["holds"] = "holds"
    holds: tuple[HoldTarget, ...]
    swell: bool = False

    def __post_init__(self) -> None:
        if not 1 <= len(self.holds) <= 12:
            raise PlanError("step_without_target", notes=len(self.holds), low=1, high=12)

    @property
    def seconds(self) -> float:
        return sum(hold.seconds for hold in self.holds)

    @property
    def attempts(self) -> int:
        return len(self.holds)

    @property
    def notes(self) -> tuple[Note, ...]:
        return tuple(hold.note for hold in self.holds)


@dataclass(frozen=True, slots=True, kw_only=True)
class GlidePath(Plain):
    """A slide from one note to another in a number of seconds; `back`: and back again in the same
    breath, `times` rises in one breath."""

    kind: Literal["glide"] = "glide"
    start: Note
    end: Note
    seconds: HoldSeconds
    because: str
    back: bool = False
    times: int = 1

    def __post_init__(self) -> None:
        checked_hold(self.seconds)
        checked("times", self.times, 1, 5)
        if self.start == self.end:
            raise PlanError("glide_without_span", note=self.start.name)

    @property
    def notes(self) -> tuple[Note, ...]:
        return (self.start, self.end)


@dataclass(frozen=True, slots=True, kw_only=True)
class Blow(Plain):
    """Air without a note, for a number of seconds: a hiss, bubbles of air only."""

    kind: Literal["blow"] = "blow"
    seconds: HoldSeconds
    because: str
    swell: bool = False

    def __post_init__(self) -> None:
        checked_hold(self.seconds)


@dataclass(frozen=True, slots=True, kw_only=True)
class Join(Plain):
    """A hiss that turns into a buzz on a note, with no stop between."""

    kind: Literal["join"] = "join"
    hiss_s: HoldSeconds
    buzz_s: HoldSeconds
    note: Note
    because: str

    def __post_init__(self) -> None:
        checked_hold(self.hiss_s)
        checked_hold(self.buzz_s)

    @property
    def seconds(self) -> float:
        return self.hiss_s + self.buzz_s

    @property
    def notes(self) -> tuple[Note, ...]:
        return (self.note,)


@dataclass(frozen=True, slots=True, kw_only=True)
class Pattern(Plain):
    """A scale pattern sung from each key in turn; an attempt is one key.

    degrees: of the major scale, 1–9, 1 = the key; keys: start notes in order; tempo: beats/min,
    one note a beat; a breath of two beats follows each key.
    """

    kind: Literal["pattern"] = "pattern"
    degrees: tuple[int, ...]
    keys: tuple[Note, ...]
    tempo_bpm: Tempo
    because: str

    def __post_init__(self) -> None:
        checked("tempo_bpm", self.tempo_bpm, 30, 240)
        checked("notes of a pattern", len(self.degrees), 2, 20)
        checked("keys", len(self.keys), 1, 48)
        for degree in self.degrees:
            if degree not in DEGREES:
                raise PlanError("degree_unknown", degree=degree, known="1–9")

    def in_key(self, key: Note) -> tuple[Note, ...]:
        """The notes of the pattern from one start key."""
        return tuple(key.up(DEGREES[degree]) for degree in self.degrees)

    @property
    def sung_s(self) -> float:
        return len(self.keys) * len(self.degrees) * 60 / self.tempo_bpm

    @property
    def seconds(self) -> float:
        return self.sung_s + len(self.keys) * 2 * 60 / self.tempo_bpm

    @property
    def attempts(self) -> int:
        return len(self.keys)

    @property
    def notes(self) -> tuple[Note, ...]:
        return tuple(note for key in self.keys for note in self.in_key(key))


@dataclass(frozen=True, slots=True, kw_only=True)
class Pace(Plain):
    """Breathing in and out on counted beats, a number of times; tempo in beats/min."""

    kind: Literal["pace"] = "pace"
    beats_in: Annotated[int, Field(ge=1, le=20)]
    beats_out: Annotated[int, Field(ge=1, le=60)]
    tempo_bpm: Tempo
    breaths: Annotated[int, Field(ge=1, le=10)]
    last_puff: bool = False
    because: str

    def __post_init__(self) -> None:
        checked("tempo_bpm", self.tempo_bpm, 30, 240)
        checked("beats in", self.beats_in, 1, 20)
        checked("beats out", self.beats_out, 1, 60)
        checked("breaths", self.breaths, 1, 10)
        checked("seconds in", self.in_s, 0.5, 60)
        checked("seconds out", self.out_s, 0.5, 60)

    @property
    def in_s(self) -> float:
        return seconds_of(self.beats_in, self.tempo_bpm)

    @property
    def out_s(self) -> float:
        return seconds_of(self.beats_out, self.tempo_bpm)

    @property
    def seconds(self) -> float:
        return self.breaths * (self.in_s + self.out_s)

    @property
    def attempts(self) -> int:
        return self.breaths


@dataclass(frozen=True, slots=True, kw_only=True)
class Speech(Plain):
    """Speaking, counting or reading for about a number of seconds, in pieces of 90 s at most."""

    kind: Literal["speech"] = "speech"
    seconds: Annotated[float, Field(ge=5, le=600)]
    because: str

    def __post_init__(self) -> None:
        checked("seconds", self.seconds, 5, 600)

    @property
    def attempts(self) -> int:
        return math.ceil(self.seconds / LONGEST_PIECE_S)


@dataclass(frozen=True, slots=True, kw_only=True)
class Timed(Plain):
    """Done for a number of seconds by the clock; `sides`: on each side in turn."""

    kind: Literal["timed"] = "timed"
    seconds_a_side: Annotated[float, Field(ge=3, le=900)]
    sides: Annotated[int, Field(ge=1, le=2)] = 1
    because: str

    def __post_init__(self) -> None:
        checked("seconds", self.seconds_a_side, 3, 900)
        checked("sides", self.sides, 1, 2)

    @property
    def seconds(self) -> float:
        return self.seconds_a_side * self.sides


@dataclass(frozen=True, slots=True, kw_only=True)
class Counted(Plain):
    """Done a number of times, each of about `seconds_each`; near `note` where one is aimed at;
    tempo in beats/min where it is done to a beat."""

    kind: Literal["counted"] = "counted"
    count: Annotated[int, Field(ge=1, le=60)]
    unit: str
    seconds_each: Annotated[float, Field(ge=0.5, le=60)]
    note: Note | None = None
    tempo_bpm: Tempo | None = None
    because: str

    def __post_init__(self) -> None:
        checked("count", self.count, 1, 60)
        checked("seconds each", self.seconds_each, 0.5, 60)
        if self.tempo_bpm is not None:
            checked("tempo_bpm", self.tempo_bpm, 30, 240)

    @property
    def seconds(self) -> float:
        return self.count * self.seconds_each

    @property
    def notes(self) -> tuple[Note, ...]:
        return (self.note,) if self.note else ()


Target = Annotated[
    Holds | GlidePath | Blow | Join | Pattern | Pace | Speech | Timed | Counted,
    Field(discriminator="kind"),
]


def seconds_of(beats: float, tempo_bpm: float) -> float:
    """How long some beats last at a tempo: 4 beats at 100 beats/min = 2.4 s."""
    return beats * 60 / tempo_bpm


def reasons_of(target: Target) -> tuple[str, ...]:
    """Every reason of a target, without repeats, in order."""
    if isinstance(target, Holds):
        return tuple(dict.fromkeys(hold.because for hold in target.holds))
    return (target.because,)


def each_pitch(target: Target) -> Iterator[tuple[Note, Note, float]]:
    """Start note, end note and voiced seconds of every stretch with a named pitch."""
    if isinstance(target, Holds):
        yield from ((hold.note, hold.note, hold.seconds) for hold in target.holds)
    elif isinstance(target, GlidePath):
        yield (target.start, target.end, target.seconds)
    elif isinstance(target, Join):
        yield (target.note, target.note, target.buzz_s)
    elif isinstance(target, Pattern):
        beat = 60 / target.tempo_bpm
        yield from ((note, note, beat) for note in target.notes)
    elif isinstance(target, Counted) and target.note:
        yield (target.note, target.note, target.seconds / 2)


def lowest_and_highest(notes: Iterable[Note]) -> tuple[Note, Note] | None:
    """The ends of some notes, or None for none."""
    found = sorted(notes)
    return (found[0], found[-1]) if found else None
