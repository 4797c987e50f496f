"""Which frames hiss."""

import numpy as np

from core.sound.held import Region
from core.sound.kernel import BANDS_HZ, HOP_S, Frames
from core.sound.settings.held import HELD
from core.sound.settings.hiss import HISS
from core.sound.voicing import runs

_HIGH = BANDS_HZ.index(2_800)
_LOW_FROM, _LOW_TO = BANDS_HZ.index(450), BANDS_HZ.index(2_000)


def hissing(frames: Frames) -> np.ndarray:
    """Frames in which the high bands, their room taken off, outweigh the middle ones; (n,) bool."""
    if not len(frames):
        return np.zeros(0, dtype=bool)
    power = 10 ** (frames.bands_db / 10)
    high, middle = power[:, _HIGH:].sum(axis=1), power[:, _LOW_FROM:_LOW_TO].sum(axis=1)
    rooms = [float(np.percentile(band, HISS.room_percentile)) for band in (high, middle)]
    level = hiss_level(frames)
    peak = float(np.percentile(level, HISS.loudest_percentile))
    clear = level > max(10 * np.log10(rooms[0] + 1e-12) + HISS.over_room_db, HISS.quietest_db)
    hisses = high > np.maximum(middle - rooms[1], 0.0)
    return clear & hisses & (level > peak - HISS.under_peak_db) | _wholly(frames, level, peak)


def hiss_level(frames: Frames) -> np.ndarray:
    """Level of the high bands alone in dBFS, (n,)."""
    return 10 * np.log10((10 ** (frames.bands_db[:, _HIGH:] / 10)).sum(axis=1) + 1e-12)


def _wholly(frames: Frames, level: np.ndarray, peak: float) -> np.ndarray:
    """Frames that are nearly all hiss, in a sound without a moment of silence."""
    return (
        (frames.high_share > HISS.share)
        & (frames.level_db > HISS.quietest_db)
        & (level > peak - HISS.under_peak_db)
    )


def longest_stretch(heard: np.ndarray, *, gap_s: float = HELD.longest_gap_s) -> Region | None:
    """The longest stretch of heard frames over gaps shorter than `gap_s`; None under 0.3 s."""
    joined: list[Region] = []
    for first, after in runs(heard):
        if joined and (first - joined[-1].after) * HOP_S < gap_s:
            joined[-1] = Region(joined[-1].first, after)
        elif after - first >= HISS.least_run:
            joined.append(Region(first, after))
    long = [region for region in joined if region.seconds >= HELD.shortest_hold_s]
    return max(long, key=lambda region: region.seconds, default=None)
