"""Phrases spoken near a note."""

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Annotated, ClassVar, Literal, Self

from core.notes.note import Note
from core.program import limits
from core.program.settable import Settable, a_count, a_note, a_number
from core.program.targets.common import Asked, Asks
from core.reason import Because, says

IN_A_PIECE = 5
"""So many phrases are one attempt: the tone is heard again before each five."""
_FEWEST = 5


_PHRASES = says("asks_phrases", "{count} phrases near {note}")


@dataclass(frozen=True, slots=True, kw_only=True)
class Phrases(Asks):
    """Phrases that come home to a note, five an attempt, each of about `seconds_each`."""

    kind: Literal["phrases"] = "phrases"
    note: Note
    count: Annotated[int, limits.COUNT.field]
    seconds_each: Annotated[float, limits.PHRASE_S.field] = 5.0
    because: Because
    prepared: ClassVar[bool] = True
    each_starts: ClassVar[bool] = True
    partly_voiced: ClassVar[bool] = True
    settables: ClassVar[tuple[Settable, ...]] = (
        a_note("note", "Near"),
        a_count("count", "Phrases", limits.COUNT, unit="phrases"),
        a_number("seconds_each", "Seconds, each", limits.PHRASE_S, 0.5),
    )

    def __post_init__(self) -> None:
        limits.COUNT.check("phrases", self.count)
        limits.PHRASE_S.check("seconds each", self.seconds_each)

    @property
    def seconds(self) -> float:
        return self.count * self.seconds_each

    @property
    def attempts(self) -> int:
        return math.ceil(self.count / IN_A_PIECE)

    @property
    def notes(self) -> tuple[Note, ...]:
        return (self.note,)

    def pitches(self) -> Iterator[tuple[Note, Note, float]]:
        yield (self.note, self.note, self.seconds / 2)

    def asked(self, place: int) -> Asked:
        count = min(self.count - place * IN_A_PIECE, IN_A_PIECE)
        return Asked(
            seconds=count * self.seconds_each, note=self.note, aim=f"{self.note}, {count} phrases"
        )

    def said(self, sound: str) -> str:
        return str(_PHRASES(count=self.count, note=str(self.note)))

    def shorter(self, less_s: float, *, graded: bool, rungs_are_targets: bool) -> Self | None:
        count = int(self.count - less_s / self.seconds_each)
        if rungs_are_targets or count < _FEWEST:
            return None
        return replace(self, count=count)
