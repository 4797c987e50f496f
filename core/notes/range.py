"""The client's own comfortable range and the voice groups."""

from dataclasses import dataclass
from enum import StrEnum
from typing import ClassVar

from pydantic import ConfigDict

from core.errors import PlanError
from core.notes.note import Note
from core.reason import Reason, says

_ABOVE = says(
    "above_comfort", "{note} is {over} semitones above the highest comfortable note {highest}"
)
_BELOW = says(
    "below_comfort", "{note} is {under} semitones below the lowest comfortable note {lowest}"
)


class VoiceGroup(StrEnum):
    """Decides the octave of standard notes, nothing else."""

    WOMEN = "women"
    MEN = "men"
    CHILDREN = "children"

    @property
    def middle_c(self) -> Note:
        """The C on which the standard notes of the group are built."""
        return Note(48) if self is VoiceGroup.MEN else Note(60)


@dataclass(frozen=True, slots=True, kw_only=True)
class ComfortableRange:
    """Lowest to highest comfortable note, with transition and speaking note where known.

    Raises PlanError("range_upside_down") if lowest is not below highest, and
    PlanError("note_outside_range") for a transition or speaking note beyond the ends.
    """

    __pydantic_config__: ClassVar[ConfigDict] = ConfigDict(extra="forbid")

    lowest: Note
    highest: Note
    transition: Note | None = None
    speaking: Note | None = None

    def __post_init__(self) -> None:
        if not self.lowest < self.highest:
            raise PlanError("range_upside_down", lowest=self.lowest.name, highest=self.highest.name)
        for name, note in (("transition", self.transition), ("speaking", self.speaking)):
            if note is not None and not self.lowest <= note <= self.highest:
                raise PlanError(
                    "note_outside_range",
                    which=name,
                    note=note.name,
                    lowest=self.lowest.name,
                    highest=self.highest.name,
                )

    @property
    def semitones(self) -> int:
        return self.highest.number - self.lowest.number

    @property
    def assumed_speaking(self) -> Note:
        """The speaking note, or what stands for it: a quarter of the way up (clinical default)."""
        return self.speaking or self.lowest.up(max(round(self.semitones / 4), 1))

    def holds(self, note: Note, margin_semitones: int = 0) -> bool:
        """Whether a note lies inside with at least that margin to both ends."""
        low = self.lowest.number + margin_semitones
        return low <= note.number <= self.highest.number - margin_semitones

    def why_outside(self, note: Note) -> Reason | None:
        """Why the note lies outside, or None when it is inside."""
        if note > self.highest:
            over = note.number - self.highest.number
            return _ABOVE(note=note.name, over=over, highest=self.highest.name)
        if note < self.lowest:
            under = self.lowest.number - note.number
            return _BELOW(note=note.name, under=under, lowest=self.lowest.name)
        return None
