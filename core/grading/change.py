"""Whether what changed from home session to home session is more than the usual day-to-day spread."""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from statistics import median, variance

from core.reference.values import BEYOND_SPREAD, SESSIONS_COMPARED, SPREAD_FROM


@dataclass(frozen=True, slots=True, kw_only=True)
class SessionBest:
    """The best of a step in one home session, in its own unit, and the rung it was done on."""

    day: date
    value: float
    rung: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Shift:
    """The last five session bests against the five before.

    before, now: their medians; spread: SD of the session bests at one rung, within each five; smallest: the smallest
    change that is more than the spread; real: whether it is more, None = not told yet; missing: how
    many more home sessions are needed to tell.
    """

    before: float | None = None
    now: float | None = None
    spread: float | None = None
    smallest: float | None = None
    real: bool | None = None
    missing: int = 0

    @property
    def by(self) -> float | None:
        """How much it changed, positive = more than before."""
        return None if self.now is None or self.before is None else self.now - self.before


def shift_of(bests: Iterable[SessionBest]) -> Shift:
    """The change of the newest five against the five before; of equal days the order counts in which
    they come. With fewer than ten it is not told; without three at one rung the spread is not known."""
    ordered = sorted(bests, key=lambda best: best.day)
    each = int(SESSIONS_COMPARED.number)
    if len(ordered) < 2 * each:
        return Shift(missing=2 * each - len(ordered))
    earlier, newest = ordered[-2 * each : -each], ordered[-each:]
    before, now = (median(best.value for best in part) for part in (earlier, newest))
    spread = spread_of(earlier, newest)
    if spread is None:
        return Shift(before=before, now=now)
    smallest = BEYOND_SPREAD.number * spread
    return Shift(
        before=before,
        now=now,
        spread=spread,
        smallest=smallest,
        real=abs(now - before) > smallest,
    )


def spread_of(*parts: Sequence[SessionBest]) -> float | None:
    """SD of session bests around those of their own rung in their own part, so that neither a climb
    nor the change itself counts as spread; None where no rung has three in one part."""
    groups: dict[tuple[int, int], list[float]] = {}
    for number, part in enumerate(parts):
        for best in part:
            groups.setdefault((number, best.rung), []).append(best.value)
    known = [values for values in groups.values() if len(values) >= SPREAD_FROM.number]
    if not known:
        return None
    freedom = sum(len(values) - 1 for values in known)
    return math.sqrt(sum((len(values) - 1) * variance(values) for values in known) / freedom)
