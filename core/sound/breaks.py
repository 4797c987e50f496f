"""Breaks inside a hold: gaps of 60 ms and more, and jumps of pitch of 4 semitones and more."""

import numpy as np

from core.sound.edges import STEP_S
from core.sound.figures import Break
from core.sound.held import Region
from core.sound.kernel import EDGES, HOP_S, Frames
from core.sound.settings.breaks import BREAK
from core.sound.settings.edges import EDGE
from core.sound.voicing import runs


def gaps_in(
    frames: Frames, heard: np.ndarray, region: Region, onset_s: float, offset_s: float, room: float
) -> list[Break]:
    """Times without voice between onset and offset; room: level of the room in dBFS."""
    envelope = frames.edge_db.ravel()
    own = np.repeat(heard, EDGES)
    inside = slice(region.first * EDGES, region.after * EDGES)
    middle = float(np.median(envelope[inside][own[inside]]))
    quiet = envelope < max(middle - EDGE.below_median_db, room + BREAK.over_room_db)
    found = [
        (first * STEP_S - HOP_S / 2, after * STEP_S - HOP_S / 2) for first, after in runs(quiet)
    ]
    lost = [
        (first * HOP_S - BREAK.voice_lost_s, (after - 1) * HOP_S + BREAK.voice_lost_s)
        for first, after in runs(~heard)
        if after - first >= BREAK.least_lost
    ]
    merged: list[tuple[float, float]] = []
    for start, end in sorted(found + lost):
        if start <= onset_s + BREAK.from_ends_s or end >= offset_s - BREAK.from_ends_s:
            continue
        if merged and start <= merged[-1][1]:
            merged[-1] = _tighter(merged[-1], (start, end), found)
        else:
            merged.append((start, end))
    return [Break(start, end, "gap") for start, end in merged if end - start >= _least_seen_s()]


def _tighter(
    one: tuple[float, float], two: tuple[float, float], exact: list[tuple[float, float]]
) -> tuple[float, float]:
    """Of two views of one gap the one seen in the envelope; both together if that is not clear."""
    seen = [gap for gap in (one, two) if gap in exact]
    if len(seen) == 1 and seen[0][1] - seen[0][0] >= _least_seen_s():
        return seen[0]
    return min(one[0], two[0]), max(one[1], two[1])


def jumps_in(semitones: np.ndarray, region: Region, gaps: list[Break]) -> list[Break]:
    """Steps of pitch between the 50 ms before and after; none at a gap. NaN = unvoiced, (n,)."""
    at = np.arange(region.first, region.after)
    at = at[~np.isnan(semitones[at])]
    if len(at) < 2 * BREAK.side + 2:
        return []
    middles = np.median(np.lib.stride_tricks.sliding_window_view(semitones[at], BREAK.side), axis=1)
    reach = BREAK.side + BREAK.step_over - 1
    steps = np.abs(middles[reach:] - middles[:-reach])
    found = []
    for first, after in runs(steps >= BREAK.jump_semitones):
        place = first + int(
            np.median(
                np.flatnonzero(
                    steps[first:after] >= steps[first:after].max() - BREAK.same_step_semitones
                )
            )
        )
        time = float(at[place + BREAK.side] + at[place + reach]) / 2 * HOP_S
        beside = any(g.start_s - BREAK.near_gap_s < time < g.end_s + BREAK.near_gap_s for g in gaps)
        if not beside:
            found.append(Break(time, time, "jump"))
    return found


def _least_seen_s() -> float:
    """Measured length of a gap that is just long enough to count, s."""
    return BREAK.least_gap_s - BREAK.gap_seen_short_s
