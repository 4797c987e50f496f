"""Graded hold times from soft-hold probes up to the goal."""

import math
from collections.abc import Sequence
from statistics import median

from core.errors import PlanError
from core.reference.values import (
    FIRST_RUNG_SHARE,
    HOLD_LONGEST,
    HOLD_SHORTEST,
    RUNG_GRID,
    RUNG_STEP,
)


def floored(seconds: float) -> float:
    """Down to the grid of 0.5 s; tolerant of binary rounding (11.5 stays 11.5)."""
    return math.floor(seconds / RUNG_GRID.number + 1e-9) * RUNG_GRID.number


def checked_hold(seconds: float) -> float:
    """A hold time in seconds within 0.5–90 s, else PlanError("hold_out_of_limits")."""
    low, high = HOLD_SHORTEST.number, HOLD_LONGEST.number
    if not (math.isfinite(seconds) and low <= seconds <= high):
        raise PlanError("hold_out_of_limits", seconds=seconds, low=low, high=high)
    return seconds


def rungs_from(
    probe_bests_s: Sequence[float], goal_s: float, *, most_first_s: float = math.inf
) -> tuple[float, ...]:
    """Hold times in seconds from the first rung to the goal.

    probe_bests_s: the best soft hold of each probed note, seconds; most_first_s: the first rung is no
    longer than that.
    First rung: the lower of 80 % of the median of the bests and the lowest best, never above
    the goal; each next the larger of × 1.15 floored to 0.5 s and + 0.5 s; the last is the goal
    floored. Raises PlanError("probes_missing") or PlanError("hold_out_of_limits").
    """
    if not probe_bests_s:
        raise PlanError("probes_missing")
    for seconds in (*probe_bests_s, goal_s):
        checked_hold(seconds)
    goal = floored(goal_s)
    first = floored(min(FIRST_RUNG_SHARE.number * median(probe_bests_s), min(probe_bests_s)))
    first = min(first, floored(min(most_first_s, HOLD_LONGEST.number)))
    rung = min(max(first, RUNG_GRID.number), goal)
    rungs = [rung]
    while rung < goal:
        rung = min(max(floored(rung * RUNG_STEP.number), rung + RUNG_GRID.number), goal)
        rungs.append(rung)
    return tuple(rungs)
