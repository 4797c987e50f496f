"""Figures of phrases spoken near a note."""

from dataclasses import dataclass
from typing import Any, ClassVar, Self

from core.reference.values import PHRASE_NEAR
from core.sound.task_figures import rounded


@dataclass(frozen=True, slots=True, kw_only=True)
class PitchedPhrase:
    """One phrase: from when to when (s), its commonest pitch (Hz), how far that is from the note
    (semitones, None without one)."""

    start_s: float
    end_s: float
    pitch_hz: float
    off_semitones: float | None

    @property
    def near(self) -> bool:
        """Whether it comes home to the note."""
        return self.off_semitones is not None and abs(self.off_semitones) <= PHRASE_NEAR.number

    def as_data(self) -> dict[str, Any]:
        return {
            "start_s": round(self.start_s, 3),
            "end_s": round(self.end_s, 3),
            "pitch_hz": round(self.pitch_hz, 1),
            "off_semitones": rounded(self.off_semitones, 2),
        }


@dataclass(frozen=True, slots=True, kw_only=True)
class NearPhrases:
    """Phrases in order; asked: how many were asked for, None without a target; voiced_s: voiced time."""

    key: ClassVar[str] = "near"
    phrases: tuple[PitchedPhrase, ...]
    voiced_s: float
    asked: int | None = None

    @property
    def near_count(self) -> int:
        return sum(phrase.near for phrase in self.phrases)

    def without_levels(self) -> "NearPhrases":
        """Nothing of it is a level."""
        return self

    def as_data(self) -> dict[str, Any]:
        return {
            self.key: {
                "phrases": [phrase.as_data() for phrase in self.phrases],
                "voiced_s": round(self.voiced_s, 2),
                "asked": self.asked,
            }
        }

    @classmethod
    def read(cls, data: dict[str, Any]) -> Self:
        own = data[cls.key]
        return cls(**{**own, "phrases": tuple(PitchedPhrase(**one) for one in own["phrases"])})
