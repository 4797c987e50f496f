"""The voice in all frames of a sound, as the later steps look at it."""

from dataclasses import dataclass, replace

import numpy as np

from core.sound.kernel import Frames
from core.sound.path import follow_pitch
from core.sound.steadiness import shape_of


@dataclass(frozen=True, slots=True)
class Voicing:
    """The voice in all frames: pitch in semitones re 1 Hz (NaN = none), regularity 0–1, level dBFS,
    shape of the spectrum in dB (n, bands); the others have shape (n,)."""

    semitones: np.ndarray
    regularity: np.ndarray
    level_db: np.ndarray
    shape_db: np.ndarray

    @property
    def voiced(self) -> np.ndarray:
        return ~np.isnan(self.semitones)

    def without(self, frames: np.ndarray) -> "Voicing":
        """The same with some frames, shape (n,) bool, taken as unvoiced."""
        return replace(self, semitones=np.where(frames, np.nan, self.semitones))


def voicing_of(frames: Frames, *, about_hz: float | None = None) -> Voicing:
    """Follow the pitch through all frames, as `follow_pitch` does."""
    hz, regularity = follow_pitch(frames, about_hz=about_hz)
    return Voicing(12 * np.log2(hz), regularity, frames.level_db, shape_of(frames))


def runs(mask: np.ndarray) -> list[tuple[int, int]]:
    """(first, after) of every run of True in a boolean array, shape (n,)."""
    edges = np.flatnonzero(np.diff(np.concatenate(([False], mask, [False])).astype(np.int8)))
    return [(int(a), int(b)) for a, b in zip(edges[::2], edges[1::2], strict=True)]


def flutter_cents(semitones: np.ndarray) -> float:
    """Median change of pitch from frame to frame beyond its trend, cents; inf for under 0.1 s."""
    bends = np.abs(np.diff(semitones, n=2))
    bends = bends[~np.isnan(bends)]
    return float(np.median(bends)) * 100 if len(bends) >= 10 else np.inf


def spread_cents(semitones: np.ndarray) -> float:
    """Median distance from the median, cents; 0 for nothing."""
    semitones = semitones[~np.isnan(semitones)]
    if not len(semitones):
        return 0.0
    return float(np.median(np.abs(semitones - np.median(semitones)))) * 100
