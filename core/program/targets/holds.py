"""Notes held one after the other."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any, ClassVar, Literal, Self

from core.catalogue.words import Growth
from core.errors import PlanError
from core.notes.note import Note
from core.program import limits
from core.program.rungs import checked_hold
from core.program.settable import Settable, SettingType, a_number
from core.program.targets.common import Activity, Asked, Asks, HoldSeconds, Leg, Strict
from core.reason import Because, Reason, says

_HOLDS = says("asks_holds", "“{sound}” {notes}, {seconds} s")
_WITH_SWELL = says("asks_with_swell", "{asked}, swell")


@dataclass(frozen=True, slots=True, kw_only=True)
class HoldTarget(Strict):
    """One note to hold for a number of seconds, and why."""

    note: Note
    seconds: HoldSeconds
    because: Because

    def __post_init__(self) -> None:
        checked_hold(self.seconds)


@dataclass(frozen=True, slots=True, kw_only=True)
class Holds(Asks):
    """Notes held one after the other; `swell`: soft, louder, soft within each."""

    kind: Literal["holds"] = "holds"
    holds: tuple[HoldTarget, ...]
    swell: bool = False
    prepared: ClassVar[bool] = True
    each_starts: ClassVar[bool] = True
    settables: ClassVar[tuple[Settable, ...]] = (
        Settable(key="notes", words="Notes, in order", sort=SettingType.NOTES),
        a_number(
            "seconds_each",
            "Seconds, each note",
            limits.HOLD_S,
            0.5,
        ),
    )

    def __post_init__(self) -> None:
        if not 1 <= len(self.holds) <= 12:
            raise PlanError("step_without_target", notes=len(self.holds), low=1, high=12)

    @property
    def form(self) -> str:
        return "swell" if self.swell else self.kind

    @property
    def seconds(self) -> float:
        return sum(hold.seconds for hold in self.holds)

    @property
    def attempts(self) -> int:
        return len(self.holds)

    @property
    def notes(self) -> tuple[Note, ...]:
        return tuple(hold.note for hold in self.holds)

    @property
    def reasons(self) -> tuple[Reason, ...]:
        return tuple(dict.fromkeys(hold.because for hold in self.holds))

    @property
    def one_easy_note(self) -> bool:
        return not self.swell

    def pitches(self) -> Iterator[tuple[Note, Note, float]]:
        return ((hold.note, hold.note, hold.seconds) for hold in self.holds)

    def asked(self, place: int) -> Asked:
        hold = self.holds[place]
        return Asked(seconds=hold.seconds, note=hold.note, aim=hold.note.name)

    @property
    def swells(self) -> bool:
        return self.swell

    def legs(self, place: int) -> tuple[Leg, ...]:
        hold = self.holds[place]
        return (Leg(Activity.VOICE, hold.seconds, hold.note, hold.note),)

    def said(self, sound: str) -> str:
        asked = _HOLDS(
            sound=sound,
            notes=" ".join(hold.note.name for hold in self.holds),
            seconds="/".join(dict.fromkeys(f"{hold.seconds:g}" for hold in self.holds)),
        )
        return str(_WITH_SWELL(asked=asked) if self.swell else asked)

    def setting(self, key: str) -> Any:
        """None for the seconds of notes that are held for different times."""
        if key == "notes":
            return self.notes
        each = {hold.seconds for hold in self.holds}
        return each.pop() if len(each) == 1 else None

    def with_setting(self, key: str, value: Any, because: Reason) -> Self:
        """Other notes are held as long as the ones they stand for, new ones as long as the last."""
        if key == "notes":
            last = len(self.holds) - 1
            pairs = [(note, self.holds[min(at, last)].seconds) for at, note in enumerate(value)]
        else:
            pairs = [(note, value) for note in self.notes]
        made = (HoldTarget(note=note, seconds=s, because=because) for note, s in pairs)
        return replace(self, holds=tuple(made))

    def voice_lengths_s(self, *, climbed: bool) -> tuple[float, ...]:
        return () if climbed else tuple(hold.seconds for hold in self.holds)

    def climbed(self, growth: Growth, value: float, because: Reason) -> Self | None:
        if growth is not Growth.SECONDS:
            return None
        holds = tuple(replace(hold, seconds=value, because=because) for hold in self.holds)
        return replace(self, holds=holds)
