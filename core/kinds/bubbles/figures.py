"""Figures of bubbles through a tube in water."""

from dataclasses import dataclass
from typing import Any, ClassVar, Self

from core.sound.task_figures import LevelIndependent, Span, read_spans, rounded, spans_data


@dataclass(frozen=True, slots=True, kw_only=True)
class Bubbling(LevelIndependent):
    """Bubbles a second (Hz, None = none rose), where they stopped (s), and how far the sound swings
    with them (dB)."""

    key: ClassVar[str] = "bubbles"
    rate_hz: float | None
    swing_db: float
    stops: tuple[Span, ...] = ()

    def as_data(self) -> dict[str, Any]:
        rate, swing = rounded(self.rate_hz, 2), round(self.swing_db, 1)
        return {self.key: {"rate_hz": rate, "swing_db": swing, "stops": spans_data(self.stops)}}

    @classmethod
    def read(cls, data: dict[str, Any]) -> Self:
        return cls(**{**data[cls.key], "stops": read_spans(data[cls.key]["stops"])})
