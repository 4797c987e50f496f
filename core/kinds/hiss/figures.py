"""Figures of a hiss."""

from dataclasses import dataclass
from typing import Any, ClassVar, Self

from core.sound.own import Levelless


@dataclass(frozen=True, slots=True, kw_only=True)
class Swell(Levelless):
    """How an even sound rises and falls: dB up to its loudest, dB down after it, and where that
    is (share of its length, 0–1)."""

    key: ClassVar[str] = "swell"
    rise_db: float
    fall_db: float
    peak_at: float

    def as_data(self) -> dict[str, Any]:
        return {
            self.key: {
                "rise_db": round(self.rise_db, 1),
                "fall_db": round(self.fall_db, 1),
                "peak_at": round(self.peak_at, 2),
            }
        }

    @classmethod
    def read(cls, data: dict[str, Any]) -> Self:
        return cls(**data[cls.key])
