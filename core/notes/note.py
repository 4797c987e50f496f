"""One note of the equal-tempered scale, its name in either spelling, its frequency."""

import math
import re
from dataclasses import dataclass
from functools import total_ordering
from typing import Any

import numpy as np
from pydantic_core import CoreSchema, core_schema

from core.errors import NoteError, SoundError
from core.reference.values import CONCERT_A4, HIGHEST_NOTE, HIGHEST_PITCH, LOWEST_PITCH

_LETTERS = {"C": 0, "D": 2, "E": 4, "F": 5, "G": 7, "A": 9, "B": 11}
_ACCIDENTALS = {"": 0, "♯": 1, "#": 1, "♭": -1, "b": -1}
_NAMES = ("C", "C♯", "D", "E♭", "E", "F", "F♯", "G", "A♭", "A", "B♭", "B")
_PATTERN = re.compile(r"([A-Ga-g])([♯#♭b]?)(-?\d)")
_A4_NUMBER = 69


@total_ordering
@dataclass(frozen=True, slots=True)
class Note:
    """A semitone of the scale. `number`: semitones, 60 = C4 (middle C), 69 = A4."""

    number: int

    @classmethod
    def named(cls, name: str) -> "Note":
        """Read a name such as "B♭3", "Bb3", "c#4".

        Raises NoteError("note_unknown") for anything else and
        NoteError("note_out_of_limits") outside B1–C7 at A4 = 440 Hz.
        """
        match = _PATTERN.fullmatch(name.strip())
        if match is None:
            raise NoteError("note_unknown", name=name, example="B♭3")
        letter, accidental, octave = match.groups()
        number = 12 * (int(octave) + 1) + _LETTERS[letter.upper()] + _ACCIDENTALS[accidental]
        return cls.checked(number)

    @classmethod
    def checked(cls, number: int) -> "Note":
        """The note with that number; NoteError("note_out_of_limits") outside B1–C7."""
        note = cls(number)
        if not LOWEST_PITCH.number <= note.hz() <= HIGHEST_NOTE.number:
            raise NoteError("note_out_of_limits", name=note.name, low="B1", high="C7")
        return note

    @property
    def measurable(self) -> bool:
        """Whether its pitch can be measured: up to 1000 Hz, B5."""
        return self.hz() <= HIGHEST_PITCH.number

    @property
    def name(self) -> str:
        return f"{_NAMES[self.number % 12]}{self.number // 12 - 1}"

    def hz(self, a4_hz: float = CONCERT_A4.number) -> float:
        """Frequency in Hz for the given concert pitch (Hz)."""
        return float(a4_hz * 2.0 ** ((self.number - _A4_NUMBER) / 12))

    def up(self, semitones: int) -> "Note":
        """The note `semitones` above (negative: below), within B1–C7."""
        return Note.checked(self.number + semitones)

    def __lt__(self, other: "Note") -> bool:
        return self.number < other.number

    def __str__(self) -> str:
        return self.name

    @classmethod
    def __get_pydantic_core_schema__(cls, _source: Any, _handler: Any) -> CoreSchema:
        """In files a note is its name."""
        by_name = core_schema.no_info_after_validator_function(
            cls.named, core_schema.str_schema(min_length=2, max_length=4)
        )
        return core_schema.json_or_python_schema(
            json_schema=by_name,
            python_schema=core_schema.union_schema([core_schema.is_instance_schema(cls), by_name]),
            serialization=core_schema.to_string_ser_schema(),
        )


def nearest_note(hz: float, a4_hz: float = CONCERT_A4.number) -> tuple[Note, float]:
    """The nearest note to a frequency (Hz) and the distance from it in cents (sharp is positive).

    Raises NoteError("frequency_out_of_limits") outside 60–1000 Hz.
    """
    if not (math.isfinite(hz) and LOWEST_PITCH.number <= hz <= HIGHEST_PITCH.number):
        raise NoteError(
            "frequency_out_of_limits",
            hz=hz,
            low=LOWEST_PITCH.number,
            high=HIGHEST_PITCH.number,
        )
    exact = semitone_of(hz, a4_hz)
    note = Note(round(exact))
    return note, 100 * (exact - note.number)


def semitone_of(hz: float, a4_hz: float = CONCERT_A4.number) -> float:
    """The number of a pitch (Hz, above 0) among the notes with its fraction; 69 = A4."""
    return _A4_NUMBER + 12 * math.log2(hz / a4_hz)


def semitones_between(low_hz: float, high_hz: float) -> float:
    """Interval from the first to the second frequency (Hz) in semitones, upward positive."""
    if not (low_hz > 0 and high_hz > 0):
        raise NoteError("frequency_not_positive", low_hz=low_hz, high_hz=high_hz)
    return 12 * math.log2(high_hz / low_hz)


def cents_from(f0_hz: np.ndarray, reference_hz: float) -> np.ndarray:
    """Distance of each frame from a reference pitch, in cents.

    f0_hz: Hz, shape (n_frames,), positive; NaN = unvoiced and stays NaN.
    Raises SoundError("frequency_not_positive") for anything else.
    """
    if not reference_hz > 0 or np.any(f0_hz <= 0):
        raise SoundError("frequency_not_positive", reference_hz=reference_hz)
    return 1200 * np.log2(f0_hz / reference_hz)
