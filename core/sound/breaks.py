"""Breaks inside a hold: gaps of 60 ms and more, and jumps of pitch of 4 semitones and more."""

import numpy as np

from core.sound.edges import EDGE_BELOW_MEDIAN_DB, STEP_S
from core.sound.figures import Break
from core.sound.held import Region
from core.sound.kernel import EDGES, HOP_S, Frames
from core.sound.voicing import runs

MIN_BREAK_S = 0.06
JUMP_SEMITONES = 4.0
_MIN_S = MIN_BREAK_S - 0.006
_OVER_ROOM_DB = 4.0
_SIDE = 5
_STEP_OVER = 3
_VOICE_LOST_S = 0.02
_NEAR_GAP_S = 0.06


def gaps_in(
    frames: Frames, heard: np.ndarray, region: Region, onset_s: float, offset_s: float, room: float
) -> list[Break]:
    """Times without voice between onset and offset; room: level of the room in dBFS."""
    envelope = frames.edge_db.ravel()
    own = np.repeat(heard, EDGES)
    inside = slice(region.first * EDGES, region.after * EDGES)
    middle = float(np.median(envelope[inside][own[inside]]))
    quiet = envelope < max(middle - EDGE_BELOW_MEDIAN_DB, room + _OVER_ROOM_DB)
    found = [
        (first * STEP_S - HOP_S / 2, after * STEP_S - HOP_S / 2) for first, after in runs(quiet)
    ]
    lost = [
        (first * HOP_S - _VOICE_LOST_S, (after - 1) * HOP_S + _VOICE_LOST_S)
        for first, after in runs(~heard)
        if after - first >= 2
    ]
    merged: list[tuple[float, float]] = []
    for start, end in sorted(found + lost):
        if start <= onset_s + 0.02 or end >= offset_s - 0.02:
            continue
        if merged and start <= merged[-1][1]:
            merged[-1] = _tighter(merged[-1], (start, end), found)
        else:
            merged.append((start, end))
    return [Break(start, end, "gap") for start, end in merged if end - start >= _MIN_S]


def _tighter(
    one: tuple[float, float], two: tuple[float, float], exact: list[tuple[float, float]]
) -> tuple[float, float]:
    """Of two views of one gap the one seen in the envelope; both together if that is not clear."""
    seen = [gap for gap in (one, two) if gap in exact]
    if len(seen) == 1 and seen[0][1] - seen[0][0] >= _MIN_S:
        return seen[0]
    return min(one[0], two[0]), max(one[1], two[1])


def jumps_in(semitones: np.ndarray, region: Region, gaps: list[Break]) -> list[Break]:
    """Steps of pitch between the 50 ms before and after; none at a gap. NaN = unvoiced, (n,)."""
    at = np.arange(region.first, region.after)
    at = at[~np.isnan(semitones[at])]
    if len(at) < 2 * _SIDE + 2:
        return []
    middles = np.median(np.lib.stride_tricks.sliding_window_view(semitones[at], _SIDE), axis=1)
    reach = _SIDE + _STEP_OVER - 1
    steps = np.abs(middles[reach:] - middles[:-reach])
    found = []
    for first, after in runs(steps >= JUMP_SEMITONES):
        place = first + int(
            np.median(np.flatnonzero(steps[first:after] >= steps[first:after].max() - 0.3))
        )
        time = float(at[place + _SIDE] + at[place + reach]) / 2 * HOP_S
        beside = any(g.start_s - _NEAR_GAP_S < time < g.end_s + _NEAR_GAP_S for g in gaps)
        if not beside:
            found.append(Break(time, time, "jump"))
    return found
