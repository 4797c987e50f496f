"""Figures of a glide: lowest and highest note, direction, evenness, where the voice broke."""

import numpy as np
from scipy.ndimage import median_filter

from core.sound.figures import Break, Glide
from core.sound.held import Region
from core.sound.kernel import HOP_S

_LEAST = 10
_SMOOTH = 5
_AT = 4


def glide_of(pitch_hz: np.ndarray, region: Region, gaps: list[Break]) -> Glide | None:
    """pitch_hz: Hz every 10 ms, NaN = unvoiced, shape (n,). None for under 0.1 s of voice.

    Evenness is the SD in semitones around the straight line from the start to the end.
    """
    at = np.arange(region.first, region.after)
    at = at[~np.isnan(pitch_hz[at])]
    if len(at) < _LEAST:
        return None
    semitones = median_filter(12 * np.log2(pitch_hz[at]), _SMOOTH, mode="nearest")
    low, high = float(semitones.min()), float(semitones.max())
    rise, start = np.polyfit(at * HOP_S, semitones, 1)
    return Glide(
        low_hz=2 ** (low / 12),
        high_hz=2 ** (high / 12),
        span_semitones=high - low,
        direction="up" if rise > 0 else "down",
        evenness_semitones=float((semitones - start - rise * at * HOP_S).std()),
        broke_at_hz=tuple(_pitch_before(pitch_hz, gap) for gap in gaps),
    )


def _pitch_before(pitch_hz: np.ndarray, gap: Break) -> float:
    frame = int(gap.start_s / HOP_S)
    before = pitch_hz[max(frame - 3 * _AT, 0) : frame + 1]
    before = before[~np.isnan(before)]
    return float(np.median(before[-_AT:])) if len(before) else float("nan")
