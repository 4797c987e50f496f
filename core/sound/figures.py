"""What is kept of an attempt: its numbers, its contour, how far they can be trusted."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Any, Self

import numpy as np

from core.reason import Reason, table_reason
from core.sound.kernel import HOP_S
from core.sound.task_figures import TaskFigures, rounded


class QualityVerdict(StrEnum):
    GOOD = "good"
    USABLE = "usable"
    NOT_MEASURABLE = "not_measurable"


CLIPPED = "clipped"


@dataclass(frozen=True, slots=True)
class Quality:
    verdict: QualityVerdict
    reasons: tuple[Reason, ...] = ()

    @property
    def clipped(self) -> bool:
        """Whether the sound was at full scale: then its level is not known."""
        return any(reason.code == CLIPPED for reason in self.reasons)


def reasons_of(stored: Iterable[Mapping[str, str]]) -> tuple[Reason, ...]:
    """Reasons read back from their codes and texts."""
    return tuple(table_reason(one["code"], one["text"]) for one in stored)


@dataclass(frozen=True, slots=True)
class Break:
    """A gap in the voice, or a jump (start = end); seconds from the start of the sound."""

    start_s: float
    end_s: float
    kind: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Contour:
    """Pitch (Hz, NaN = none) and level (dBFS) every `hop_s` seconds from `t0_s`, shape (n,)."""

    f0_hz: np.ndarray
    level_db: np.ndarray
    t0_s: float = 0.0
    hop_s: float = HOP_S

    def as_data(self) -> dict[str, Any]:
        return {
            "t0_s": self.t0_s,
            "hop_s": self.hop_s,
            "f0_hz": [None if np.isnan(f0) else round(float(f0), 2) for f0 in self.f0_hz],
            "level_db": [round(float(level), 1) for level in self.level_db],
        }

    @classmethod
    def read(cls, data: dict[str, Any]) -> Self:
        """What `as_data` gave, read back."""
        f0_hz = np.array([np.nan if f0 is None else f0 for f0 in data["f0_hz"]], dtype=float)
        level_db = np.array(data["level_db"], dtype=float)
        return cls(f0_hz=f0_hz, level_db=level_db, t0_s=data["t0_s"], hop_s=data["hop_s"])

    @classmethod
    def none(cls) -> Self:
        """Of a measurement whose contour was not kept."""
        return cls(f0_hz=np.zeros(0), level_db=np.zeros(0))


@dataclass(frozen=True, slots=True)
class Glide:
    """Lowest and highest pitch (Hz), span (semitones), "up" or "down", evenness (SD in semitones
    around a straight glide), the pitch (Hz) at which each break began."""

    low_hz: float
    high_hz: float
    span_semitones: float
    direction: str
    evenness_semitones: float = 0.0
    broke_at_hz: tuple[float, ...] = ()

    def as_data(self) -> dict[str, Any]:
        return {
            "low_hz": round(self.low_hz, 2),
            "high_hz": round(self.high_hz, 2),
            "span_semitones": round(self.span_semitones, 2),
            "direction": self.direction,
            "evenness_semitones": round(self.evenness_semitones, 2),
            "broke_at_hz": [None if np.isnan(hz) else round(hz, 2) for hz in self.broke_at_hz],
        }

    @classmethod
    def read(cls, data: dict[str, Any]) -> Self:
        """What `as_data` gave, read back."""
        return cls(**{**data, "broke_at_hz": tuple(hz or np.nan for hz in data["broke_at_hz"])})


@dataclass(frozen=True, slots=True)
class Tremor:
    """Swings a second (Hz) and how far the pitch goes either side (cents)."""

    rate_hz: float
    extent_cents: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Figures:
    """All figures of one attempt; `own` are those of its task alone.

    `hold_s` 0 = nothing was there, None = not measurable. Where there is no note to hold it is the
    time from the first to the last of the task's own sound. room_db: level of the room, dBFS.
    """

    task: str
    target: str | None
    quality: Quality
    contour: Contour
    hold_s: float | None
    onset_s: float | None = None
    offset_s: float | None = None
    breaks: tuple[Break, ...] = ()
    f0_median_hz: float | None = None
    f0_sd_semitones: float | None = None
    pitch_error_cents: float | None = None
    level_mean_db: float | None = None
    level_sd_db: float | None = None
    slope_db_per_s: float | None = None
    trail_off_db: float | None = None
    room_db: float | None = None
    tremor: Tremor | None = None
    onset: str | None = None
    glide: Glide | None = None
    own: TaskFigures | None = None

    def as_data(self, *, contour: bool = True) -> dict[str, Any]:
        """The open JSON shape of one measurement; keys that do not apply are absent."""
        data: dict[str, Any] = {
            "task": self.task,
            "target": self.target,
            "onset_s": rounded(self.onset_s, 4),
            "offset_s": rounded(self.offset_s, 4),
            "hold_s": rounded(self.hold_s, 4),
            "breaks": [
                {"start_s": round(b.start_s, 3), "end_s": round(b.end_s, 3), "kind": b.kind}
                for b in self.breaks
            ],
            "f0_hz": {
                "median": rounded(self.f0_median_hz, 3),
                "sd_semitones": rounded(self.f0_sd_semitones, 4),
            },
            "pitch_error_cents": rounded(self.pitch_error_cents, 2),
            "level_db": {
                "mean": rounded(self.level_mean_db, 2),
                "sd": rounded(self.level_sd_db, 2),
                "slope_db_per_s": rounded(self.slope_db_per_s, 3),
                "trail_off_db": rounded(self.trail_off_db, 2),
            },
            "tremor": None
            if self.tremor is None
            else {
                "rate_hz": round(self.tremor.rate_hz, 2),
                "extent_cents": round(self.tremor.extent_cents, 1),
            },
            "onset": self.onset,
            "quality": {
                "verdict": self.quality.verdict.value,
                "reasons": [{"code": r.code, "text": r.words} for r in self.quality.reasons],
            },
        }
        if contour:
            data["contour"] = self.contour.as_data()
        if self.glide:
            data["glide"] = self.glide.as_data()
        return {**data, **self.own.as_data()} if self.own else data

    @classmethod
    def read(
        cls, data: dict[str, Any], *, own: TaskFigures | None, room_db: float | None = None
    ) -> Self:
        """What `as_data` gave, read back, with or without its contour; own figures and room are
        not read here."""
        curve, tremor, level = data.get("contour"), data["tremor"], data["level_db"]
        reasons = reasons_of(data["quality"]["reasons"])
        glide = data.get("glide")
        return cls(
            task=data["task"],
            target=data["target"],
            quality=Quality(QualityVerdict(data["quality"]["verdict"]), reasons),
            contour=Contour.read(curve) if curve else Contour.none(),
            hold_s=data["hold_s"],
            onset_s=data["onset_s"],
            offset_s=data["offset_s"],
            breaks=tuple(Break(**one) for one in data["breaks"]),
            f0_median_hz=data["f0_hz"]["median"],
            f0_sd_semitones=data["f0_hz"]["sd_semitones"],
            pitch_error_cents=data["pitch_error_cents"],
            level_mean_db=level["mean"],
            level_sd_db=level["sd"],
            slope_db_per_s=level["slope_db_per_s"],
            trail_off_db=level["trail_off_db"],
            room_db=room_db,
            tremor=Tremor(**tremor) if tremor else None,
            onset=data["onset"],
            glide=Glide.read(glide) if glide else None,
            own=own,
        )
