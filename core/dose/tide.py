"""Prescribed against kept, day by day: the facts behind the tide table."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum

from core.dose.calendar import asked_on
from core.errors import PlanError
from core.plans.dosing import Dose


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
    """A stretch of days with the same dose; `last` None = still running."""

    first: date
    last: date | None
    dose: Dose

    def on(self, day: date) -> int:
        """Home sessions asked for on that day."""
        if day < self.first or (self.last is not None and day > self.last):
            return 0
        return asked_on(self.dose, self.dose.starts_on or self.first, day)


@dataclass(frozen=True, slots=True)
class TideDay:
    """One local date with its strokes, prescribed ones first."""

    day: date
    strokes: tuple[Stroke, ...]


def tide_days(
    stretches: Iterable[Prescribed],
    done: Iterable[tuple[date, Stroke]],
    *,
    first: date,
    last: date,
    today: date,
) -> tuple[TideDay, ...]:
    """Every day from first to last with one stroke for each prescribed or added home session.

    done: local date and KEPT, SHORT or STOPPED of each home session. Today's open sessions and
    all later ones are AHEAD, not missed. Raises PlanError("calendar_upside_down").
    """
    if last < first:
        raise PlanError("calendar_upside_down", first=first.isoformat(), last=last.isoformat())
    prescriptions = tuple(stretches)
    by_day: dict[date, list[Stroke]] = {}
    for day, stroke in done:
        by_day.setdefault(day, []).append(stroke)
    days = []
    for offset in range((last - first).days + 1):
        day = first + timedelta(days=offset)
        asked = sum(stretch.on(day) for stretch in prescriptions)
        had = by_day.get(day, [])
        open_as = Stroke.MISSED if day < today else Stroke.AHEAD
        added = [s if s is Stroke.STOPPED else Stroke.ADDED for s in had[asked:]]
        strokes = had[:asked] + [open_as] * (asked - len(had)) + added
        days.append(TideDay(day, tuple(strokes)))
    return tuple(days)


@dataclass(frozen=True, slots=True)
class Kept:
    """Home sessions kept, prescribed and added over some days."""

    kept: int
    prescribed: int
    added: int

    @property
    def share(self) -> float | None:
        """Kept ÷ prescribed, 0–1; None when nothing was prescribed."""
        return self.kept / self.prescribed if self.prescribed else None


def kept_of(days: Iterable[TideDay]) -> Kept:
    """Count the strokes; sessions ahead are left out, stopped ones count as kept."""
    strokes = [stroke for day in days for stroke in day.strokes]
    kept = sum(s in (Stroke.KEPT, Stroke.SHORT, Stroke.STOPPED) for s in strokes)
    return Kept(kept, kept + strokes.count(Stroke.MISSED), strokes.count(Stroke.ADDED))
