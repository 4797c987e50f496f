"""Figures of paced breath."""

from dataclasses import dataclass
from typing import Any, ClassVar, Self

from core.sound.task_figures import LevelIndependent, Span, read_spans, rounded, spans_data


@dataclass(frozen=True, slots=True, kw_only=True)
class PacedBreath(LevelIndependent):
    """Breaths heard, in and out by turns (s), and their middle lengths (s); off_pace_s: the
    longest distance of a middle length from the pace, None without one."""

    key: ClassVar[str] = "breaths"
    ins: tuple[Span, ...]
    outs: tuple[Span, ...]
    in_s: float | None
    out_s: float | None
    off_pace_s: float | None = None

    def as_data(self) -> dict[str, Any]:
        return {
            self.key: {
                "in": spans_data(self.ins),
                "out": spans_data(self.outs),
                "in_s": rounded(self.in_s, 2),
                "out_s": rounded(self.out_s, 2),
                "off_pace_s": rounded(self.off_pace_s, 2),
            }
        }

    @classmethod
    def read(cls, data: dict[str, Any]) -> Self:
        own = data[cls.key]
        lengths = {key: own[key] for key in ("in_s", "out_s", "off_pace_s")}
        return cls(ins=read_spans(own["in"]), outs=read_spans(own["out"]), **lengths)
