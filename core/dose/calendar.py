"""Which days ask for home sessions, and at which local times. Correct across daylight saving."""

from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from functools import partial
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from core.errors import PlanError
from core.program.dosing import Dose, TaperStage, When
from core.reference.values import (
    EVENING_BEGINS,
    MORNING_ENDS,
)

_DAY_MIN = 24 * 60
_GRID_MIN = 15


def asked_on(dose: Dose, start: date, day: date) -> int:
    """Home sessions asked for on a local date, from the start day on.

    After the weeks of the dose its taper follows, stage by stage; the last stage, or without a
    taper the dose itself, goes on until somebody decides.
    """
    if day < start or any(away.first <= day <= away.last for away in dose.away):
        return 0
    stage, since = _stage_on(dose, start, day)
    if stage is not None:
        return stage.sessions_a_day if (day - since).days % stage.every_days == 0 else 0
    weekday = day.isoweekday()
    if dose.weekdays:
        if weekday not in dose.weekdays:
            return 0
    elif (day - start).days % 7 >= dose.days_a_week:
        return 0
    return 1 if weekday in dose.visit_weekdays else dose.sessions_a_day


def _stage_on(dose: Dose, start: date, day: date) -> tuple[TaperStage | None, date]:
    since = start + timedelta(weeks=dose.weeks)
    if day < since or not dose.taper:
        return None, start
    for stage in dose.taper[:-1]:
        after = since + timedelta(weeks=stage.weeks)
        if day < after:
            return stage, since
        since = after
    return dose.taper[-1], since


def stage_on(dose: Dose, start: date, day: date) -> TaperStage | None:
    """The taper stage a local date lies in; None before the taper."""
    return _stage_on(dose, start, day)[0]


def last_day(dose: Dose, start: date) -> date:
    """The last day of the weeks and the taper."""
    weeks = dose.weeks + sum(stage.weeks for stage in dose.taper)
    return start + timedelta(weeks=weeks, days=-1)


def zone_of(name: str) -> ZoneInfo:
    """The IANA zone of that name; PlanError("zone_unknown")."""
    try:
        return ZoneInfo(name)
    except (ZoneInfoNotFoundError, ValueError, OSError) as error:
        raise PlanError("zone_unknown", came=name, example="Europe/Dublin") from error


@dataclass(frozen=True, slots=True)
class PlannedSession:
    """One home session to come: local date, local time with zone, the same in UTC."""

    day: date
    local: datetime
    utc: datetime


def planned_sessions(
    dose: Dose, *, zone: ZoneInfo, first: date, last: date, start: date
) -> list[PlannedSession]:
    """Every home session asked for from first to last day, with its times.

    Raises PlanError("day_too_full") where the sessions of a day do not fit outside the quiet hours
    at the spacing, and PlanError("calendar_upside_down").
    """
    if last < first:
        raise PlanError("calendar_upside_down", first=first.isoformat(), last=last.isoformat())
    found = []
    for offset in range((last - first).days + 1):
        day = first + timedelta(days=offset)
        count = asked_on(dose, start, day)
        for at in times_of_day(dose, count) if count else ():
            local = existing(day, at, zone)
            found.append(PlannedSession(day, local, local.astimezone(UTC)))
    return found


def existing(day: date, at: time, zone: ZoneInfo) -> datetime:
    """The local time on that day. A time that daylight saving skips moves forward by what is skipped; of a repeated
    time the first is used."""
    wanted = datetime.combine(day, at, tzinfo=zone)
    return wanted.astimezone(UTC).astimezone(zone)


def times_of_day(dose: Dose, count: int) -> tuple[time, ...]:
    """Local times for so many home sessions, preferred ones first, `spacing_h` apart.

    Raises PlanError("day_too_full") with how many fit.
    """
    allowed = tuple(m for m in range(0, _DAY_MIN, _GRID_MIN) if _is_allowed(dose, m))
    spacing = round(dose.spacing_h * 60)
    most = _most_that_fit(allowed, spacing)
    if most < count:
        raise PlanError("day_too_full", wanted=count, fit=most, spacing_h=dose.spacing_h)
    chosen: list[int] = []
    for minute in map(_minute, dose.times):
        if _is_allowed(dose, minute) and all(abs(minute - other) >= spacing for other in chosen):
            chosen.append(minute)
        if len(chosen) == count:
            break
    for wanted in _best_first(_evenly_between(count), chosen):
        if len(chosen) == count:
            break
        free = [m for m in allowed if all(abs(m - other) >= spacing for other in chosen)]
        if free:
            chosen.append(min(free, key=partial(_distance, wanted)))
    if len(chosen) < count:
        chosen = _spread(allowed, count, spacing)
    return tuple(time(minute // 60, minute % 60) for minute in sorted(chosen))


def refused_times(dose: Dose) -> tuple[time, ...]:
    """Preferred times in the quiet hours or outside working hours: they are not used."""
    return tuple(at for at in dose.times if not _is_allowed(dose, _minute(at)))


def _is_allowed(dose: Dose, minute: int) -> bool:
    quiet_from, quiet_to = _minute(dose.quiet_from), _minute(dose.quiet_to)
    over_midnight = quiet_from > quiet_to
    after, before = minute >= quiet_from, minute < quiet_to
    if (after or before) if over_midnight else (after and before):
        return False
    if dose.when is When.MORNING and minute >= 60 * MORNING_ENDS.number:
        return False
    if dose.when is When.EVENING and minute < 60 * EVENING_BEGINS.number:
        return False
    if dose.work_from is not None and dose.work_to is not None:
        return _minute(dose.work_from) <= minute < _minute(dose.work_to)
    return True


def _minute(at: time) -> int:
    return at.hour * 60 + at.minute


def _most_that_fit(allowed: tuple[int, ...], spacing: int) -> int:
    return len(_spread(allowed, len(allowed), spacing))


def _spread(allowed: tuple[int, ...], count: int, spacing: int) -> list[int]:
    """The earliest minutes that lie the spacing apart, at most `count`."""
    found: list[int] = []
    for minute in allowed:
        if not found or minute - found[-1] >= spacing:
            found.append(minute)
        if len(found) == count:
            break
    return found


def _distance(wanted: int, minute: int) -> int:
    return abs(minute - wanted)


def _evenly_between(count: int) -> list[int]:
    """So many minutes after midnight, evenly from 9:00 to 18:00."""
    first, last = 9 * 60, 18 * 60
    return [first + round(place * (last - first) / max(count - 1, 1)) for place in range(count)]


def _best_first(wanted: list[int], chosen: list[int]) -> list[int]:
    """The wanted minutes farthest from those chosen first; in order where none is."""
    if not chosen:
        return wanted
    return sorted(wanted, key=lambda minute: -min(abs(minute - other) for other in chosen))
