"""One measured hold against its truth."""

from dataclasses import dataclass

import numpy as np

from core.sound.figures import Figures
from lab.simulate.voice import Sung

GROSS = 0.2
_EDGE_FRAMES = 5
_BREAK_WITHIN_S = 0.06


@dataclass(frozen=True, slots=True, kw_only=True)
class Score:
    """Errors of one hold: s, cents (frame by frame), counts of frames and of breaks, dB/s."""

    hold_s: float | None
    median_cents: float | None
    cents: np.ndarray
    gross: int
    voicing: int
    judged: int
    breaks_found: int
    breaks_true: int
    breaks_false: int
    slope_db_per_s: float | None


def score(sung: Sung, found: Figures) -> Score:
    """Compare; `hold_s` is None where no hold was found."""
    cents, gross, voicing, judged = frame_errors(sung.f0_hz, found.contour.f0_hz)
    true = [(start + end) / 2 for start, end in sung.gaps] + list(sung.jumps_s)
    seen = [(b.start_s + b.end_s) / 2 for b in found.breaks]
    matched = [t for t in true if any(abs(t - s) <= _BREAK_WITHIN_S for s in seen)]
    stray = [s for s in seen if not any(abs(t - s) <= _BREAK_WITHIN_S for t in true)]
    median = found.f0_median_hz
    slope = found.slope_db_per_s
    return Score(
        hold_s=None if not found.hold_s else found.hold_s - sung.hold_s,
        median_cents=1200 * np.log2(median / sung.f0_median_hz)
        if median and sung.f0_median_hz
        else None,
        cents=cents,
        gross=gross,
        voicing=voicing,
        judged=judged,
        breaks_found=len(matched),
        breaks_true=len(true),
        breaks_false=len(stray),
        slope_db_per_s=None if slope is None else slope - sung.slope_db_per_s,
    )


def frame_errors(true_hz: np.ndarray, found_hz: np.ndarray) -> tuple[np.ndarray, int, int, int]:
    """Cents of the frames voiced in both, gross errors (> 20 %), voicing errors, frames judged.

    Both every 10 ms, Hz, NaN = unvoiced; frames within 50 ms of a true edge are not judged.
    """
    count = min(len(true_hz), len(found_hz))
    true_hz, found_hz = true_hz[:count], found_hz[:count]
    voiced, heard = ~np.isnan(true_hz), ~np.isnan(found_hz)
    change = np.flatnonzero(np.diff(voiced.astype(int)))
    with np.errstate(invalid="ignore", divide="ignore"):
        step = np.abs(np.diff(np.log2(true_hz))) > 0.1
    judged = np.ones(count, dtype=bool)
    for edge in np.concatenate((change, np.flatnonzero(step))):
        judged[max(edge - _EDGE_FRAMES, 0) : edge + _EDGE_FRAMES + 2] = False
    both = judged & voiced & heard
    ratio = found_hz[both] / true_hz[both]
    gross = np.abs(ratio - 1) > GROSS
    cents = 1200 * np.log2(ratio[~gross])
    return cents, int(gross.sum()), int((judged & (voiced != heard)).sum()), int(judged.sum())
