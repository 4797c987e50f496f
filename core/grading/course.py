"""One figure of a step followed from home session to home session: what it was, where it leads."""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from statistics import median
from typing import NamedTuple

import numpy as np

from core.figures.registry import PER_DEVICE
from core.grading.change import SessionBest, Shift, shift_of, spread_of
from core.grading.history import History, StepDone
from core.kinds.registry import kind_of
from core.program.step import Step
from core.reference.values import OUTLIER_SPREADS, TREND_CONFIDENCE, TREND_SESSIONS

_DONE = "done"
_WEEK = 7.0


class Point(NamedTuple):
    """A figure of one home session: its day and value, the rung, and what it was heard with."""

    day: date
    value: float
    rung: int
    device: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Trend:
    """How a figure moves, in its unit a week.

    start: the line on the day of the first; slope: robust (Theil–Sen); low, high: its interval; real:
    whether the interval leaves out 0, None = not told yet; missing: how many more home sessions are
    needed; outliers: the places of home sessions far from the line, which stay in it.
    """

    start: float | None = None
    slope: float | None = None
    low: float | None = None
    high: float | None = None
    real: bool | None = None
    missing: int = 0
    outliers: tuple[int, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Course:
    """One figure of a step from session to session: its code, the bests, whether the newest
    five differ from the five before, and the trend."""

    code: str
    bests: tuple[SessionBest, ...]
    shift: Shift
    trend: Trend

    @property
    def spread(self) -> float | None:
        """The usual day-to-day spread at one rung, SD; None where it is not known."""
        return spread_of(self.bests)

    @property
    def real(self) -> bool | None:
        """Whether it changes by more than the usual day-to-day spread: by its trend, or the newest five
        against the five before; None = not told yet."""
        known = [one for one in (self.trend.real, self.shift.real) if one is not None]
        return any(known) if known else None

    @property
    def missing(self) -> int:
        """How many more home sessions are needed to tell."""
        return min(self.trend.missing, self.shift.missing)

    @property
    def way(self) -> int | None:
        """Up (1) or down (−1) by more than the day-to-day spread, else 0; None = not told yet."""
        if not self.real:
            return None if self.real is None else 0
        by = self.trend.slope if self.trend.real else self.shift.by
        return 1 if (by or 0.0) > 0 else -1


def figure_of(step: Step) -> str:
    """The code of the figure that is followed: its kind's, or how much was done."""
    return kind_of(step.measured).course if step.measured else _DONE


def course_of(step: Step, history: History, *, until: date) -> Course:
    """The course of a step up to a day, over every rung it was done on; home sessions in the short
    version and those in which the figure is not known are left out."""
    code = figure_of(step)
    found = [
        Point(sitting.day, value, done.rung, done.device)
        for sitting in history.in_order(until=until)
        if not sitting.short
        for done in sitting.steps
        if done.step_id == step.step_id and (value := _value(done, code)) is not None
    ]
    return course_between(code, found)


def course_between(code: str, found: Sequence[Point]) -> Course:
    """The course of a figure, oldest first. Levels are followed only as long as they were heard with the
    device of the newest: each device has a reference of its own."""
    if code in PER_DEVICE and found:
        found = [one for one in found if one.device == found[-1].device]
    bests = tuple(SessionBest(day=one.day, value=one.value, rung=one.rung) for one in found)
    return Course(code=code, bests=bests, shift=shift_of(bests), trend=trend_of(bests))


def _value(done: StepDone, code: str) -> float | None:
    """The figure of the whole session; where only attempts have it, the best of them."""
    whole = done.of_session(code)
    if whole is not None:
        return whole
    known = [value for one in done.trials if (value := one.figures.get(code)) is not None]
    return max(known, default=None)


def trend_of(bests: Iterable[SessionBest]) -> Trend:
    """The robust slope of some session bests, in their unit a week.

    Sen's interval; a trend is told from so many home sessions on more than one day. An outlier lies
    more than so many robust SDs (1.4826 × MAD) from the line. J Am Stat Assoc 1968;63:1379–1389.
    """
    ordered = sorted(bests, key=lambda best: best.day)
    needed = int(TREND_SESSIONS.number)
    if len(ordered) < needed:
        return Trend(missing=needed - len(ordered))
    weeks = [(best.day - ordered[0].day).days / _WEEK for best in ordered]
    if weeks[-1] == 0:
        return Trend()
    values = [best.value for best in ordered]
    from scipy.stats import theilslopes  # seconds to load: only where a trend is told

    with np.errstate(invalid="ignore"):
        slope, intercept, low, high = map(
            float, theilslopes(values, weeks, alpha=TREND_CONFIDENCE.number)
        )
    if math.isnan(low) or math.isnan(high):
        # Sen's variance is negative where nearly all values are the same: nothing moves.
        low, high = min(slope, 0.0), max(slope, 0.0)
    return Trend(
        start=intercept,
        slope=slope,
        low=low,
        high=high,
        real=low > 0 or high < 0,
        outliers=_far(
            [value - intercept - slope * week for value, week in zip(values, weeks, strict=True)]
        ),
    )


def _far(rests: Sequence[float]) -> tuple[int, ...]:
    middle = median(rests)
    sd = 1.4826 * median(abs(rest - middle) for rest in rests)
    limit = OUTLIER_SPREADS.number * sd
    return tuple(n for n, rest in enumerate(rests) if sd and abs(rest - middle) > limit)
