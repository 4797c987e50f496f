"""What every target of a step is asked for, with what most of them answer."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Annotated, Any, ClassVar, Self

from pydantic import ConfigDict

from core.catalogue.words import Growth
from core.notes.note import Note
from core.program import limits
from core.program.settable import Settable
from core.reason import Because, Reason

HoldSeconds = Annotated[float, limits.HOLD_S.field]
Tempo = Annotated[float, limits.TEMPO_BPM.field]


class Strict:
    """In files: no key that is not known, no number that is not finite."""

    __slots__ = ()
    __pydantic_config__: ClassVar[ConfigDict] = ConfigDict(extra="forbid", allow_inf_nan=False)


@dataclass(frozen=True, slots=True, kw_only=True)
class Asked:
    """One attempt: seconds, the note it begins on, where a glide ends, the measured target as text
    (`core.kinds.registry.target_of` reads it), how many are counted."""

    seconds: float
    note: Note | None = None
    end: Note | None = None
    aim: str = ""
    count: int | None = None

    @property
    def ends(self) -> tuple[int, ...]:
        """The semitone numbers a glide goes from and to; () for what is no glide."""
        return (self.note.number, self.end.number) if self.note and self.end else ()


class Activity(StrEnum):
    """What is done in one stretch of an attempt."""

    VOICE = "voice"
    AIR = "air"
    IN = "breath_in"
    OUT = "breath_out"
    MOVEMENT = "movement"
    COUNT = "count"


@dataclass(frozen=True, slots=True)
class Leg:
    """One stretch of an attempt, as it is drawn before and while it is done: seconds, the note it begins and
    ends on where it is voiced."""

    doing: Activity
    seconds: float
    start: Note | None = None
    end: Note | None = None


class Asks(Strict):
    """What one repetition of a step asks for, in `seconds` without rests.

    prepared: a reference tone and a breath come before each start; runs_on: its attempts follow
    without a rest; each_starts: every attempt is a start of its own; partly_voiced: only a share of
    it is voice; by_clock: done for some time, whatever is done in it; settables: what can be set by
    hand, each in the field of its key; air_share: of the longest /s/, how much its air may take.
    """

    __slots__ = ()
    kind: str
    because: Because
    prepared: ClassVar[bool] = False
    runs_on: ClassVar[bool] = False
    each_starts: ClassVar[bool] = False
    partly_voiced: ClassVar[bool] = False
    by_clock: ClassVar[bool] = False
    settables: ClassVar[tuple[Settable, ...]] = ()
    air_share: ClassVar[float] = 1.0

    @property
    def form(self) -> str:
        """Its form by name, as kinds of task list it (`Kind.forms`)."""
        return self.kind

    @property
    def attempts(self) -> int:
        """How many attempts one repetition is."""
        return 1

    @property
    def notes(self) -> tuple[Note, ...]:
        """Every note it asks for."""
        return ()

    @property
    def reasons(self) -> tuple[Reason, ...]:
        """Every reason of it, without repeats, in order."""
        return (self.because,)

    @property
    def air_only(self) -> bool:
        """Whether it asks for air alone."""
        return False

    @property
    def forceful(self) -> bool:
        """Whether it asks for a forceful puff."""
        return False

    @property
    def beat_s(self) -> float | None:
        """Seconds of one beat, where it is paced by beats; None elsewhere."""
        return None

    @property
    def swells(self) -> bool:
        """Whether it grows and fades again within each of its sounds."""
        return False

    @property
    def one_easy_note(self) -> bool:
        """Whether it is nothing but notes held evenly."""
        return False

    def pitches(self) -> Iterator[tuple[Note, Note, float]]:
        """Start note, end note and voiced seconds of every stretch with a named pitch."""
        return iter(())

    def asked(self, place: int) -> Asked:
        """The attempt at one of its places, from 0."""
        raise NotImplementedError

    def legs(self, place: int) -> tuple[Leg, ...]:
        """The stretches of the attempt at one of its places, in order; none where it has no course of its
        own (speech, what is counted)."""
        return ()

    def said(self, sound: str) -> str:
        """In one line, to the clinician; sound: what is voiced."""
        raise NotImplementedError

    def voice_lengths_s(self, *, climbed: bool) -> tuple[float, ...]:
        """How long the voice must last in one go, s, where it may not be longer than shown;
        climbed: whether it is on a rung above the first."""
        return ()

    def air_s(self, rung: float | None) -> float | None:
        """How long air must last in one go, s, now (None) or at a rung of that value; None where it has no time
        of its own."""
        return None

    def climbed(self, growth: Growth, value: float, because: Reason) -> Self | None:
        """On a rung of that value; None where it does not grow that way."""
        return None

    def setting(self, key: str) -> Any:
        """What stands in a setting now."""
        return getattr(self, key)

    def with_setting(self, key: str, value: Any, because: Reason) -> Self:
        """With another value in a setting, as `Settable.read` gives it; checked like any target."""
        return replace(self, **{key: value}, because=because)  # type: ignore[type-var]

    def shorter(self, less_s: float, *, graded: bool, rungs_are_targets: bool) -> Self | None:
        """About so much shorter, s; None where it cannot be made shorter."""
        return None


def seconds_of(beats: float, tempo_bpm: float) -> float:
    """How long some beats last at a tempo: 4 beats at 100 beats/min = 2.4 s."""
    return beats * 60 / tempo_bpm
