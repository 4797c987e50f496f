"""A hiss that turns into a buzz."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import ClassVar, Literal

from core.notes.note import Note
from core.program import limits
from core.program.rungs import checked_hold
from core.program.settable import Settable, a_note, a_number
from core.program.targets.common import Activity, Asked, Asks, HoldSeconds, Leg
from core.reason import Because, says

_JOIN = says("asks_join", "hiss {hiss_s:g} s, buzz {buzz_s:g} s on {note}")


@dataclass(frozen=True, slots=True, kw_only=True)
class Join(Asks):
    """A hiss that turns into a buzz on a note, with no stop between."""

    kind: Literal["join"] = "join"
    hiss_s: HoldSeconds
    buzz_s: HoldSeconds
    note: Note
    because: Because
    prepared: ClassVar[bool] = True
    settables: ClassVar[tuple[Settable, ...]] = (
        a_number("hiss_s", "Hiss", limits.HOLD_S, 0.5),
        a_number("buzz_s", "Buzz", limits.HOLD_S, 0.5),
        a_note("note", "On"),
    )

    def __post_init__(self) -> None:
        checked_hold(self.hiss_s)
        checked_hold(self.buzz_s)

    @property
    def seconds(self) -> float:
        return self.hiss_s + self.buzz_s

    @property
    def notes(self) -> tuple[Note, ...]:
        return (self.note,)

    def pitches(self) -> Iterator[tuple[Note, Note, float]]:
        yield (self.note, self.note, self.buzz_s)

    def asked(self, place: int) -> Asked:
        return Asked(seconds=self.seconds, note=self.note)

    def legs(self, place: int) -> tuple[Leg, ...]:
        return (
            Leg(Activity.AIR, self.hiss_s),
            Leg(Activity.VOICE, self.buzz_s, self.note, self.note),
        )

    def air_s(self, rung: float | None) -> float | None:
        return self.hiss_s

    def said(self, sound: str) -> str:
        return str(_JOIN(hiss_s=self.hiss_s, buzz_s=self.buzz_s, note=str(self.note)))
