"""How a sound grows and fades again: its figures, whatever swells."""

from dataclasses import dataclass
from typing import Any, ClassVar, Self

from scipy.ndimage import uniform_filter1d

from core.kinds.finding import Finding
from core.kinds.settings import SWELL
from core.kinds.sound_figures import Heard
from core.reference.values import SWELL_LEAST
from core.sound.figures import Figures
from core.sound.held import Region
from core.sound.kernel import Frames
from core.sound.task_figures import LevelIndependent


@dataclass(frozen=True, slots=True, kw_only=True)
class Swell(LevelIndependent):
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


def swell_in(heard: Heard) -> Swell | None:
    """The swell of an attempt."""
    return swell_of(heard.frames, heard.region)


def swell_of(frames: Frames, region: Region) -> Swell | None:
    """The rise and fall of a level smoothed over 0.2 s, its outer 0.1 s left out; None under 0.8 s."""
    ends = SWELL.ends_left_out
    level = frames.level_db[region.first + ends : region.after - ends]
    if len(level) < SWELL.shortest:
        return None
    level = uniform_filter1d(level, SWELL.smoothed, mode="nearest")
    top = int(level.argmax())
    return Swell(
        rise_db=float(level[top] - level[: top + 1].min()),
        fall_db=float(level[top] - level[top:].min()),
        peak_at=top / (len(level) - 1),
    )


def swelled(figures: Figures) -> Finding | None:
    """Whether it grew and faded by 4 dB and more: "swell" with both, dB; None where it did not."""
    own = figures.own
    if not isinstance(own, Swell) or min(own.rise_db, own.fall_db) < SWELL_LEAST.number:
        return None
    return Finding("swell", {"rise_db": own.rise_db, "fall_db": own.fall_db})


def rise_db(figures: Figures | None) -> float | None:
    """How far it grew, dB; None where it did not swell or was not measured."""
    own = figures.own if figures else None
    return own.rise_db if isinstance(own, Swell) else None


def fall_db(figures: Figures | None) -> float | None:
    """How far it faded again, dB; None where it did not swell or was not measured."""
    own = figures.own if figures else None
    return own.fall_db if isinstance(own, Swell) else None
