"""Which frames hiss."""

import numpy as np

from core.sound.held import LONGEST_GAP_S, SHORTEST_HOLD_S, Region
from core.sound.kernel import BANDS_HZ, HOP_S, Frames
from core.sound.voicing import runs

QUIETEST_DB = -62.0
HISS_SHARE = 0.5
_UNDER_PEAK_DB = 25.0
_OVER_ROOM_DB = 8.0
_ROOM_PERCENTILE = 10
LEAST_RUN = 3
_HIGH = BANDS_HZ.index(2_800)
_LOW_FROM, _LOW_TO = BANDS_HZ.index(450), BANDS_HZ.index(2_000)


def hissing(frames: Frames) -> np.ndarray:
    """Frames in which the high bands, their room taken off, outweigh the middle ones; (n,) bool."""
    if not len(frames):
        return np.zeros(0, dtype=bool)
    power = 10 ** (frames.bands_db / 10)
    high, middle = power[:, _HIGH:].sum(axis=1), power[:, _LOW_FROM:_LOW_TO].sum(axis=1)
    rooms = [float(np.percentile(band, _ROOM_PERCENTILE)) for band in (high, middle)]
    level = hiss_level(frames)
    peak = float(np.percentile(level, 95))
    clear = level > max(10 * np.log10(rooms[0] + 1e-12) + _OVER_ROOM_DB, QUIETEST_DB)
    hisses = high > np.maximum(middle - rooms[1], 0.0)
    return clear & hisses & (level > peak - _UNDER_PEAK_DB) | _wholly(frames, level, peak)


def hiss_level(frames: Frames) -> np.ndarray:
    """Level of the high bands alone in dBFS, (n,)."""
    return 10 * np.log10((10 ** (frames.bands_db[:, _HIGH:] / 10)).sum(axis=1) + 1e-12)


def _wholly(frames: Frames, level: np.ndarray, peak: float) -> np.ndarray:
    """Frames that are nearly all hiss, in a sound without a moment of silence."""
    return (
        (frames.high_share > HISS_SHARE)
        & (frames.level_db > QUIETEST_DB)
        & (level > peak - _UNDER_PEAK_DB)
    )


def longest_stretch(heard: np.ndarray, *, gap_s: float = LONGEST_GAP_S) -> Region | None:
    """The longest stretch of heard frames over gaps shorter than `gap_s`; None under 0.3 s."""
    joined: list[Region] = []
    for first, after in runs(heard):
        if joined and (first - joined[-1].after) * HOP_S < gap_s:
            joined[-1] = Region(joined[-1].first, after)
        elif after - first >= LEAST_RUN:
            joined.append(Region(first, after))
    long = [region for region in joined if region.seconds >= SHORTEST_HOLD_S]
    return max(long, key=lambda region: region.seconds, default=None)
