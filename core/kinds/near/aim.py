"""The note phrases come home to, and how many they are: "D4, 5 phrases"."""

import re
from dataclasses import dataclass

from core.errors import SoundError
from core.kinds.aim import unreadable
from core.notes.note import Note

MOST_PHRASES = 60
_NEAR = re.compile(r"(\S+), *(\d{1,3}) phrases")


@dataclass(frozen=True, slots=True)
class NearTarget:
    """Phrases near a note, 1 to 60."""

    note: Note
    phrases: int

    def __post_init__(self) -> None:
        if not 1 <= self.phrases <= MOST_PHRASES:
            raise SoundError("target_unreadable", task="near", target=str(self.phrases))

    @property
    def name(self) -> str:
        return f"{self.note}, {self.phrases} phrases"


def read_aim(text: str) -> NearTarget:
    """The note and number of that text; the errors of notes and SoundError("target_unreadable")."""
    found = _NEAR.fullmatch(text.strip())
    if found is None:
        raise unreadable("near", text)
    return NearTarget(Note.named(found[1]), int(found[2]))
