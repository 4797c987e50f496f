"""Figures of speech, counting and reading."""

from dataclasses import dataclass, replace
from typing import Any, ClassVar, Self

from core.sound.task_figures import rounded


@dataclass(frozen=True, slots=True, kw_only=True)
class Phrase:
    """One phrase: from when to when (s), its level (dB), end against beginning (dB)."""

    start_s: float
    end_s: float
    level_db: float
    trail_off_db: float | None

    def as_data(self) -> dict[str, Any]:
        return {
            "start_s": round(self.start_s, 3),
            "end_s": round(self.end_s, 3),
            "level_db": round(self.level_db, 1),
            "trail_off_db": rounded(self.trail_off_db, 1),
        }


@dataclass(frozen=True, slots=True, kw_only=True)
class SpeechFigures:
    """Speech, counting or reading.

    voiced_s: voiced time; over_reference_db: level over the client's reference (None without
    one); over_target_share: share of the voiced time at or over the target (0–1, None without
    one); shouted_share: share far over it; trail_off_db: median of the phrases (negative =
    fading); words_a_minute: None unless the words are known; mode_hz: commonest pitch.
    """

    key: ClassVar[str] = "speech"
    phrases: tuple[Phrase, ...]
    voiced_s: float
    mode_hz: float | None
    trail_off_db: float | None = None
    over_reference_db: float | None = None
    over_target_share: float | None = None
    shouted_share: float | None = None
    words_a_minute: float | None = None

    def without_levels(self) -> "SpeechFigures":
        """The figures that remain valid when the device changes its gain by itself."""
        return replace(
            self,
            phrases=(),
            trail_off_db=None,
            over_reference_db=None,
            over_target_share=None,
            shouted_share=None,
        )

    def as_data(self) -> dict[str, Any]:
        return {
            self.key: {
                "phrases": [phrase.as_data() for phrase in self.phrases],
                "voiced_s": round(self.voiced_s, 2),
                "mode_hz": rounded(self.mode_hz, 1),
                "trail_off_db": rounded(self.trail_off_db, 1),
                "over_reference_db": rounded(self.over_reference_db, 2),
                "over_target_share": rounded(self.over_target_share, 3),
                "shouted_share": rounded(self.shouted_share, 3),
                "words_a_minute": rounded(self.words_a_minute, 1),
            }
        }

    @classmethod
    def read(cls, data: dict[str, Any]) -> Self:
        phrases = tuple(Phrase(**phrase) for phrase in data[cls.key]["phrases"])
        return cls(**{**data[cls.key], "phrases": phrases})
