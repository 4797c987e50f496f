"""Done a number of times."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Annotated, ClassVar, Literal, Self

from pydantic import Field

from core.catalogue.words import Growth
from core.notes.note import Note
from core.plans.targets.common import Asked, Asks, Tempo, checked, seconds_of
from core.reason import Because, Reason

_FEWEST = 3


@dataclass(frozen=True, slots=True, kw_only=True)
class Counted(Asks):
    """Done a number of times, each of about `seconds_each`; near `note` where one is aimed at;
    tempo in beats/min where it is done to a beat."""

    kind: Literal["counted"] = "counted"
    count: Annotated[int, Field(ge=1, le=60)]
    unit: str
    seconds_each: Annotated[float, Field(ge=0.5, le=60)]
    note: Note | None = None
    tempo_bpm: Tempo | None = None
    because: Because
    partly_voiced: ClassVar[bool] = True

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

    def pitches(self) -> Iterator[tuple[Note, Note, float]]:
        if self.note:
            yield (self.note, self.note, self.seconds / 2)

    @property
    def beat_s(self) -> float | None:
        return seconds_of(1, self.tempo_bpm) if self.tempo_bpm else None

    def asked(self, place: int) -> Asked:
        return Asked(seconds=self.seconds, note=self.note, count=self.count)

    def said(self, sound: str) -> str:
        near = f" near {self.note}" if self.note else ""
        beat = f", {self.tempo_bpm:g} beats/min" if self.tempo_bpm else ""
        return f"{self.count} {self.unit}{near}{beat}"

    def climbed(self, growth: Growth, value: float, because: Reason) -> Self | None:
        if growth is Growth.TEMPO:
            return replace(self, tempo_bpm=value, because=because)
        if growth is Growth.COUNT:
            return replace(self, count=int(value), because=because)
        return None

    def shorter(self, less_s: float, *, graded: bool, rungs_are_targets: bool) -> Self | None:
        count = int(self.count - less_s / self.seconds_each)
        if rungs_are_targets or count < _FEWEST:
            return None
        return replace(self, count=count)
