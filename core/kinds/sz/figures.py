"""Figures of a hiss that turns into a buzz."""

from dataclasses import dataclass
from typing import Any, ClassVar, Self

from core.sound.task_figures import LevelIndependent, rounded


@dataclass(frozen=True, slots=True, kw_only=True)
class Joined(LevelIndependent):
    """Where the buzz begins (s) and the silence before it (s); both None where one of the two
    sounds is missing. hiss_s, buzz_s: how long each was."""

    key: ClassVar[str] = "sz"
    switch_s: float | None
    gap_s: float | None
    hiss_s: float
    buzz_s: float

    def as_data(self) -> dict[str, Any]:
        return {
            self.key: {
                "switch_s": rounded(self.switch_s, 4),
                "gap_s": rounded(self.gap_s, 3),
                "hiss_s": round(self.hiss_s, 3),
                "buzz_s": round(self.buzz_s, 3),
            }
        }

    @classmethod
    def read(cls, data: dict[str, Any]) -> Self:
        return cls(**data[cls.key])
