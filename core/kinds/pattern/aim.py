"""The notes of a pattern as a target: "C4 D4 E4"."""

from dataclasses import dataclass

from core.errors import SoundError
from core.notes.note import Note

LONGEST_PATTERN = 60


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


def read_aim(text: str) -> PatternTarget:
    """The notes of that text; the errors of notes and SoundError("pattern_out_of_limits")."""
    return PatternTarget(tuple(Note.named(name) for name in text.split()))
