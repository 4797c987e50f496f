"""A slide from note to note."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import ClassVar, Literal

from core.errors import PlanError
from core.notes.note import Note
from core.program import limits
from core.program.rungs import checked_hold
from core.program.settable import Settable, a_count, a_note, a_number, a_yes
from core.program.targets.common import Activity, Asked, Asks, HoldSeconds, Leg
from core.reason import Because, says

_GLIDE = says("asks_glide", "“{sound}” {start}→{end}, {seconds:g} s")
_AND_BACK = says("asks_glide_and_back", "“{sound}” {start}→{end} and back, {seconds:g} s")
_RISES = says("asks_rises", "{glide}, {times} rises in one breath")


@dataclass(frozen=True, slots=True, kw_only=True)
class GlidePath(Asks):
    """A slide from one note to another in a number of seconds; `back`: and back again in the same
    breath, `times` rises in one breath."""

    kind: Literal["glide"] = "glide"
    start: Note
    end: Note
    seconds: HoldSeconds
    because: Because
    back: bool = False
    times: int = 1
    prepared: ClassVar[bool] = True
    settables: ClassVar[tuple[Settable, ...]] = (
        a_note("start", "From"),
        a_note("end", "To"),
        a_number("seconds", "Seconds", limits.HOLD_S, 0.5),
        a_count("times", "Rises in one breath", limits.RISES),
        a_yes("back", "And back"),
    )

    def __post_init__(self) -> None:
        checked_hold(self.seconds)
        limits.RISES.check("times", self.times)
        if self.start == self.end:
            raise PlanError("glide_without_span", note=self.start.name)

    @property
    def notes(self) -> tuple[Note, ...]:
        return (self.start, self.end)

    def pitches(self) -> Iterator[tuple[Note, Note, float]]:
        yield (self.start, self.end, self.seconds)

    def asked(self, place: int) -> Asked:
        return Asked(seconds=self.seconds, note=self.start, end=self.end)

    def legs(self, place: int) -> tuple[Leg, ...]:
        ways = (
            [(self.start, self.end), (self.end, self.start)]
            if self.back
            else [(self.start, self.end)]
        )
        each_s = self.seconds / (self.times * len(ways))
        return tuple(Leg(Activity.VOICE, each_s, a, b) for a, b in ways) * self.times

    def said(self, sound: str) -> str:
        way = _AND_BACK if self.back else _GLIDE
        glide = way(sound=sound, start=str(self.start), end=str(self.end), seconds=self.seconds)
        return str(_RISES(glide=glide, times=self.times) if self.times > 1 else glide)

    def voice_lengths_s(self, *, climbed: bool) -> tuple[float, ...]:
        return (self.seconds,)
