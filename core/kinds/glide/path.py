"""Figures of a glide: lowest and highest note, direction, evenness, where the voice broke."""

import numpy as np
from scipy.ndimage import median_filter

from core.kinds.glide.settings import GLIDE
from core.sound.figures import Break, Glide
from core.sound.held import Region
from core.sound.kernel import HOP_S

_BESIDE_ENDS = (
    slice(GLIDE.half_heard, GLIDE.half_heard + GLIDE.line),
    slice(-GLIDE.half_heard - GLIDE.line, -GLIDE.half_heard),
)


def glide_of(
    pitch_hz: np.ndarray, region: Region, gaps: list[Break], ends_s: tuple[float, float]
) -> Glide | None:
    """pitch_hz: Hz every 10 ms, NaN = unvoiced, shape (n,); ends_s: onset and offset, s. None for
    under 0.14 s of voice.

    The frames at the ends hear silence in half of their window: the glide is carried on from those
    within, along their own line, to onset and offset. Evenness is the SD in semitones around the
    straight line from the start to the end.
    """
    at = np.arange(region.first, region.after)
    at = at[~np.isnan(pitch_hz[at])]
    if len(at) < GLIDE.shortest:
        return None
    semitones = median_filter(12 * np.log2(pitch_hz[at]), GLIDE.smoothed, mode="nearest")
    ends = [
        _carried_on(at[part] * HOP_S, semitones[part], end_s)
        for part, end_s in zip(_BESIDE_ENDS, ends_s, strict=True)
    ]
    inner = semitones[GLIDE.half_heard : -GLIDE.half_heard]
    low, high = min(inner.min(), *ends), max(inner.max(), *ends)
    rise, start = np.polyfit(at * HOP_S, semitones, 1)
    return Glide(
        low_hz=float(2 ** (low / 12)),
        high_hz=float(2 ** (high / 12)),
        span_semitones=float(high - low),
        direction="up" if rise > 0 else "down",
        evenness_semitones=float((semitones - start - rise * at * HOP_S).std()),
        broke_at_hz=tuple(_pitch_before(pitch_hz, gap) for gap in gaps),
    )


def _carried_on(at_s: np.ndarray, semitones: np.ndarray, end_s: float) -> float:
    """Where the straight line through some frames beside an end meets that end, semitones."""
    return float(np.polyfit(at_s - end_s, semitones, 1)[1])


def _pitch_before(pitch_hz: np.ndarray, gap: Break) -> float:
    frame = int(gap.start_s / HOP_S)
    before = pitch_hz[max(frame - GLIDE.look_before_break, 0) : frame + 1]
    before = before[~np.isnan(before)]
    return float(np.median(before[-GLIDE.before_break :])) if len(before) else float("nan")
