"""A hiss that turns into a buzz: when the voice sets in, and the silence before it."""

import numpy as np

from core.kinds.sz.figures import Joined
from core.kinds.sz.settings import JOIN
from core.sound.edges import STEP_S, low_level_db, since_the_edge
from core.sound.held import Region
from core.sound.kernel import EDGES, HOP_S, Frames
from core.sound.settings.edges import EDGE
from core.sound.voicing import runs


def join_of(frames: Frames, hissing: np.ndarray, voiced: np.ndarray, region: Region) -> Joined:
    """hissing, voiced: frames of each sound, shape (n,) bool; region: the two together."""
    inside = slice(region.first, region.after)
    buzz = [r for r in runs(voiced[inside]) if r[1] - r[0] >= JOIN.least_buzz]
    starts = buzz[0][0] + region.first if buzz else region.after
    hiss_before = int(hissing[region.first : starts].sum())
    buzz_s = sum(b - a for a, b in buzz) * HOP_S
    if not buzz or hiss_before < JOIN.least_hiss:
        return Joined(
            switch_s=None, gap_s=None, hiss_s=float(hissing[inside].sum()) * HOP_S, buzz_s=buzz_s
        )
    low = low_level_db(frames, JOIN.voice_under_hz)
    step = _sets_in(low, starts * EDGES, (starts + buzz[0][1] - buzz[0][0]) * EDGES, region)
    switch_s = step * STEP_S - HOP_S / 2 + STEP_S / 2
    return Joined(
        switch_s=switch_s,
        gap_s=_silence_before(frames, region, hissing, starts, step),
        hiss_s=hiss_before * HOP_S,
        buzz_s=buzz_s,
    )


def _sets_in(low: np.ndarray, first: int, after: int, region: Region) -> float:
    """Where the voice comes up to −10 dB of its own level and stays, in steps of 2.5 ms."""
    level = float(np.median(low[first:after]))
    before = low[region.first * EDGES : max(first - JOIN.reach, region.first * EDGES + 1)]
    wanted = max(level + JOIN.sets_in_db, float(np.percentile(before, 90)) + JOIN.over_hiss_db)
    start = max(first - JOIN.reach, 1)
    over = low >= min(wanted, level - 1)
    for at in range(start, min(first + JOIN.reach, len(low) - JOIN.stays)):
        if over[at] and not over[at - 1] and over[at : at + JOIN.stays].mean() > JOIN.stays_share:
            rise = low[at] - low[at - 1]
            crossed = at - (low[at] - wanted) / rise if rise > 0 else float(at)
            return crossed - since_the_edge(low[at:after] - level)
    return float(first)


def _silence_before(
    frames: Frames, region: Region, hissing: np.ndarray, starts: int, step: float
) -> float:
    """Seconds without either sound before the voice."""
    envelope = frames.edge_db.ravel()
    heard = np.repeat(hissing, EDGES)
    first = region.first * EDGES
    middle = float(np.median(envelope[first : starts * EDGES][heard[first : starts * EDGES]]))
    end = int(step)
    begin = max(end - JOIN.look_back, first)
    quiet = [
        (a, b)
        for a, b in runs(envelope[begin : end + 4] < middle - EDGE.below_median_db)
        if begin + b >= end - JOIN.rises
    ]
    longest = max((b - a for a, b in quiet), default=0) * STEP_S
    return (
        longest + JOIN.window_s
        if longest + JOIN.window_s >= JOIN.shortest_gap_s and longest
        else 0.0
    )
