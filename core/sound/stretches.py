"""Which frames are the task's own sound, and the longest stretch of them."""

from dataclasses import dataclass

import numpy as np

from core.sound.kernel import HOP_S, Frames
from core.sound.tasks import Measured

LONGEST_GAP_S = 0.25
MIN_BREAK_S = 0.06
SHORTEST_HOLD_S = 0.3

_VOICED_BELOW = 0.28
_PURE_TONE_FROM = 0.985
_QUIETEST_DB = -62.0
_OVER_NOISE_DB = 6.0
_HISS_SHARE = 0.5
_STEADY_SEMITONES = 1.6
_STEADY_REACH = 15


@dataclass(frozen=True, slots=True)
class Stretch:
    """First and last frame of the longest stretch of the task's sound."""

    first: int
    last: int

    @property
    def seconds(self) -> float:
        return (self.last - self.first + 1) * HOP_S


def noise_db(frames: Frames) -> float:
    """Level of the quietest tenth of the frames, dBFS; −120 for no frames."""
    return float(np.percentile(frames.level_db, 10)) if len(frames) else -120.0


def voiced_frames(frames: Frames) -> np.ndarray:
    """Frames of voice: periodic, in range, loud enough, not a pure tone. Shape (n,), bool."""
    return (
        (frames.aperiodicity < _VOICED_BELOW)
        & ~np.isnan(frames.f0_hz)
        & (frames.level_db > _QUIETEST_DB)
        & ~((frames.tone_share > _PURE_TONE_FROM) & (frames.aperiodicity < 0.01))
    )


def task_frames(frames: Frames, task: Measured) -> np.ndarray:
    """Frames that belong to the task's own sound. Shape (n,), bool."""
    if task is Measured.HISS:
        return (
            (frames.high_share > _HISS_SHARE)
            & (frames.level_db > _QUIETEST_DB)
            & (frames.level_db > _peak_level(frames) - 25)
        )
    voiced = voiced_frames(frames) & (frames.level_db > _peak_level(frames) - 35)
    return voiced if task is Measured.GLIDE else voiced & _steady(frames.f0_hz, voiced)


def _peak_level(frames: Frames) -> float:
    return float(np.percentile(frames.level_db, 95)) if len(frames) else -120.0


def _steady(f0_hz: np.ndarray, voiced: np.ndarray) -> np.ndarray:
    """Frames whose pitch stays near the median of the 0.3 s around them, within the voiced run."""
    steady = np.zeros(len(voiced), dtype=bool)
    for first, after in runs(voiced):
        semitones = 12 * np.log2(f0_hz[first:after])
        reach = min(_STEADY_REACH, (after - first - 1) // 2)
        padded = np.pad(semitones, reach, mode="edge")
        around = np.lib.stride_tricks.sliding_window_view(padded, 2 * reach + 1)
        steady[first:after] = np.abs(semitones - np.median(around, axis=1)) < _STEADY_SEMITONES
    return steady


def runs(mask: np.ndarray) -> list[tuple[int, int]]:
    """(first, after) of every run of True in a boolean array, shape (n,)."""
    edges = np.flatnonzero(np.diff(np.concatenate(([False], mask, [False])).astype(np.int8)))
    return [(int(a), int(b)) for a, b in zip(edges[::2], edges[1::2], strict=True)]


def longest_stretch(frames: Frames, heard: np.ndarray) -> Stretch | None:
    """The longest stretch with no gap of 0.25 s or more; None under 0.3 s of sound."""
    best: Stretch | None = None
    current: Stretch | None = None
    for first, after in runs(heard):
        joins = current is not None and (first - current.last - 1) * HOP_S < LONGEST_GAP_S
        if after - first < 3 and not joins:
            continue
        begin = current.first if joins and current is not None else first
        current = Stretch(begin, after - 1)
        if best is None or current.seconds > best.seconds:
            best = current
    return best if best is not None and best.seconds >= SHORTEST_HOLD_S else None
