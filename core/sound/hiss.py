"""Which frames hiss, how a hiss and a buzz hang together, and how a hiss swells."""

import numpy as np
from scipy.ndimage import uniform_filter1d

from core.sound.held import LONGEST_GAP_S, SHORTEST_HOLD_S, Region
from core.sound.kernel import BANDS_HZ, HOP_S, Frames
from core.sound.task_figures import Swell
from core.sound.voicing import Voicing, flutter_cents, runs

QUIETEST_DB = -62.0
HISS_SHARE = 0.5
_UNDER_PEAK_DB = 25.0
_OVER_ROOM_DB = 8.0
_ROOM_PERCENTILE = 10
_LEAST_RUN = 3
_LONGEST_JOIN_S = 0.6
_SMOOTH = 21
_LEAST_SWELL = 60
_STILLEST_VOICE_CENTS = 0.7
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
        elif after - first >= _LEAST_RUN:
            joined.append(Region(first, after))
    long = [region for region in joined if region.seconds >= SHORTEST_HOLD_S]
    return max(long, key=lambda region: region.seconds, default=None)


def hiss_and_buzz(frames: Frames, voicing: Voicing) -> tuple[np.ndarray, Region | None]:
    """Frames of the two sounds, and the stretch they make over silences under 0.6 s; None where
    there is no hiss and the buzz is a tone as still as no voice is."""
    hisses = hissing(frames)
    heard = hisses | voicing.voiced
    region = longest_stretch(heard, gap_s=_LONGEST_JOIN_S)
    if region is not None and hisses[region.first : region.after].sum() < _LEAST_RUN:
        own = voicing.semitones[region.first + _LEAST_RUN : region.after - _LEAST_RUN]
        if flutter_cents(own) < _STILLEST_VOICE_CENTS:
            return heard, None
    return heard, region


def swell_of(frames: Frames, region: Region) -> Swell | None:
    """The rise and fall of a level smoothed over 0.2 s, its outer 0.1 s left out; None under 0.8 s."""
    level = frames.level_db[region.first + 10 : region.after - 10]
    if len(level) < _LEAST_SWELL:
        return None
    level = uniform_filter1d(level, _SMOOTH, mode="nearest")
    top = int(level.argmax())
    return Swell(
        rise_db=float(level[top] - level[: top + 1].min()),
        fall_db=float(level[top] - level[top:].min()),
        peak_at=top / (len(level) - 1),
    )
