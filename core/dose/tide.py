"""Prescribed against kept, day by day: the facts behind the tide table."""

import itertools
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum

from core.dose.calendar import asked_on
from core.errors import PlanError
from core.program.dosing import Dose


class Stroke(StrEnum):
    """What became of one prescribed home session."""

    KEPT = "kept"
    SHORT = "short"
    MISSED = "missed"
    ADDED = "added"
    STOPPED = "stopped"
    AHEAD = "ahead"


@dataclass(frozen=True, slots=True, kw_only=True)
class Prescribed:
    """A stretch of days with the same dose of one routine, by its key; `last` None = still running."""

    routine: str
    first: date
    last: date | None
    dose: Dose

    def runs_on(self, day: date) -> bool:
        """Whether that day lies in the stretch."""
        return self.first <= day and (self.last is None or day <= self.last)

    def on(self, day: date) -> int:
        """Home sessions asked for on that day."""
        if not self.runs_on(day):
            return 0
        return asked_on(self.dose, self.dose.starts_on or self.first, day)


@dataclass(frozen=True, slots=True)
class Done:
    """A home session that was done: local date, KEPT, SHORT or STOPPED, its routine by key."""

    day: date
    stroke: Stroke
    routine: str


@dataclass(frozen=True, slots=True)
class TideDay:
    """One local date with the strokes of each routine by its key, prescribed ones first."""

    day: date
    routines: Mapping[str, tuple[Stroke, ...]]

    @property
    def strokes(self) -> tuple[Stroke, ...]:
        """Those of every routine, one after the other."""
        return tuple(itertools.chain.from_iterable(self.routines.values()))

    def of(self, routine: str) -> "TideDay":
        """The day with that routine alone."""
        return TideDay(self.day, {routine: self.routines.get(routine, ())})


def tide_days(
    stretches: Iterable[Prescribed],
    done: Iterable[Done],
    *,
    first: date,
    last: date,
    today: date,
) -> tuple[TideDay, ...]:
    """Every day from first to last with one stroke for each prescribed or added home session.

    Today's open sessions and all later ones are AHEAD, not missed. A session of a routine that is
    not asked for that day stands in for an open one of another (the program changed that day), else
    it was added. Raises PlanError("calendar_upside_down").
    """
    if last < first:
        raise PlanError("calendar_upside_down", first=first.isoformat(), last=last.isoformat())
    prescriptions = tuple(stretches)
    by_day: dict[date, list[Done]] = {}
    for one in done:
        by_day.setdefault(one.day, []).append(one)
    days = (first + timedelta(days=offset) for offset in range((last - first).days + 1))
    return tuple(_day(day, prescriptions, by_day.get(day, []), today) for day in days)


def _day(
    day: date, prescriptions: Sequence[Prescribed], done: Sequence[Done], today: date
) -> TideDay:
    asked: dict[str, int] = {}
    for stretch in prescriptions:
        if stretch.runs_on(day):
            asked[stretch.routine] = asked.get(stretch.routine, 0) + stretch.on(day)
    had: dict[str, list[Stroke]] = {key: [] for key in asked}
    for one in sorted(done, key=lambda one: one.routine not in asked):
        open_ones = (key for key, count in asked.items() if len(had[key]) < count)
        key = one.routine if one.routine in asked else next(open_ones, one.routine)
        had.setdefault(key, []).append(one.stroke)
    open_as = Stroke.MISSED if day < today else Stroke.AHEAD
    return TideDay(
        day, {key: _strokes(own, asked.get(key, 0), open_as) for key, own in had.items()}
    )


def _strokes(had: list[Stroke], asked: int, open_as: Stroke) -> tuple[Stroke, ...]:
    added = [s if s is Stroke.STOPPED else Stroke.ADDED for s in had[asked:]]
    return (*had[:asked], *[open_as] * (asked - len(had)), *added)


@dataclass(frozen=True, slots=True)
class Adherence:
    """Home sessions kept, prescribed and added over some days."""

    kept: int
    prescribed: int
    added: int

    @property
    def share(self) -> float | None:
        """Kept ÷ prescribed, 0–1; None when nothing was prescribed."""
        return self.kept / self.prescribed if self.prescribed else None


def adherence_of(days: Iterable[TideDay]) -> Adherence:
    """Count the strokes; sessions ahead are left out, stopped ones count as kept."""
    strokes = [stroke for day in days for stroke in day.strokes]
    kept = sum(s in (Stroke.KEPT, Stroke.SHORT, Stroke.STOPPED) for s in strokes)
    return Adherence(kept, kept + strokes.count(Stroke.MISSED), strokes.count(Stroke.ADDED))
