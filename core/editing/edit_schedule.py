"""Changes a clinician makes to when a routine is done; each gives a new program."""

from collections.abc import Callable, Mapping
from dataclasses import replace
from datetime import date, time, timedelta
from typing import Any

from core.errors import PlanError
from core.program.dosing import SUSTAINED_TAPER, Away, Dose, TaperStage, When
from core.program.program import Program
from core.program.taper_words import stage_words

_STAGE = ("sessions_a_day", "every_days", "repetitions", "weeks")
_FURTHEST_DAYS = 730
"""Days away and starts lie within two years of today (an entry beyond is taken for a slip)."""


def with_dose(
    program: Program,
    key: str,
    *,
    sessions_a_day: int,
    days_a_week: int,
    weeks: int,
    when: When | None = None,
) -> Program:
    """Another number of sittings a day, days a week and weeks of one routine, and another part of the
    day (None = as it is); times and days away stay, named weekdays only while they are as many.
    PlanError("dose_out_of_limits"), ("routine_unknown")."""
    routine = program.routine(key)
    dose = routine.dose
    weekdays = dose.weekdays if len(dose.weekdays) == days_a_week else ()
    changed = replace(
        dose,
        sessions_a_day=sessions_a_day,
        days_a_week=days_a_week,
        weeks=weeks,
        weekdays=weekdays,
        when=when or dose.when,
    )
    return program.with_routine(replace(routine, dose=changed))


def with_calendar(program: Program, key: str, which: str, text: str) -> Program:
    """One part of the calendar of a routine as typed: starts_on (ISO day, "" = at activation), times and
    quiet and work ("8:00 17:30"), spacing_h, taper ("none", "sustained").
    PlanError("setting_unknown"), ("setting_unreadable") and those of a dose."""
    if which not in _READ:
        raise PlanError("setting_unknown", setting=which)
    routine = program.routine(key)
    try:
        fields = _READ[which](text.strip())
    except ValueError as error:
        raise PlanError("setting_unreadable", which=which, came=text[:40]) from error
    return program.with_routine(replace(routine, dose=replace(routine.dose, **fields)))


def with_weekday(program: Program, key: str, weekday: int) -> Program:
    """A weekday (ISO, 1 = Monday) of a routine turned on or off; where none was named, all but that one
    stay. PlanError("no_free_day") for the last, ("weekday_unknown")."""
    routine = program.routine(key)
    if not 1 <= weekday <= 7:
        raise PlanError("weekday_unknown", which="weekdays", came=[weekday], low=1, high=7)
    named = set(routine.dose.weekdays or range(1, 8)) ^ {weekday}
    if not named:
        raise PlanError("no_free_day")
    days = tuple(sorted(named))
    every = () if len(days) == 7 else days
    dose = replace(routine.dose, weekdays=every, days_a_week=len(days))
    return program.with_routine(replace(routine, dose=dose))


def with_visit(program: Program, key: str, weekday: int) -> Program:
    """A weekday of a visit turned on or off: one home session on it."""
    routine = program.routine(key)
    days = tuple(sorted({*routine.dose.visit_weekdays} ^ {weekday}))
    return program.with_routine(replace(routine, dose=replace(routine.dose, visit_weekdays=days)))


def with_day_away(program: Program, day: date, *, today: date) -> Program:
    """A day away turned on or off, for every routine: whoever is away practices nothing.
    PlanError("day_out_of_reach") over two years from today."""
    if abs((day - today).days) > _FURTHEST_DAYS:
        raise PlanError("day_out_of_reach", day=day.isoformat())
    routines = tuple(
        replace(one, dose=replace(one.dose, away=_toggled(one.dose.away, day)))
        for one in program.routines
    )
    return replace(program, routines=routines)


def with_stage(program: Program, key: str, place: int, which: str, text: str) -> Program:
    """One number of one stage of a taper, or its removal ("remove"). PlanError("place_unknown"),
    ("setting_unreadable"), ("target_out_of_limits")."""
    routine = program.routine(key)
    stages = list(routine.dose.taper)
    if not 0 <= place < len(stages):
        raise PlanError("place_unknown", came=place, high=len(stages))
    if which == "remove":
        del stages[place]
    elif which not in _STAGE:
        raise PlanError("setting_unknown", setting=which)
    else:
        stages[place] = _with_number(stages[place], which, text)
    return program.with_routine(replace(routine, dose=replace(routine.dose, taper=tuple(stages))))


def _with_number(stage: TaperStage, which: str, text: str) -> TaperStage:
    try:
        numbers = {name: getattr(stage, name) for name in _STAGE} | {which: int(text)}
    except ValueError as error:
        raise PlanError("setting_unreadable", which=which, came=text[:40]) from error
    changed = TaperStage(words="", **numbers)
    return replace(changed, words=stage_words(changed).words)


def _toggled(away: tuple[Away, ...], day: date) -> tuple[Away, ...]:
    one = timedelta(days=1)
    days = {
        stretch.first + offset * one
        for stretch in away
        for offset in range((stretch.last - stretch.first).days + 1)
    } ^ {day}
    found: list[Away] = []
    for each in sorted(days):
        if found and found[-1].last + one == each:
            found[-1] = replace(found[-1], last=each)
        else:
            found.append(Away(first=each, last=each))
    return tuple(found)


def _times(text: str) -> tuple[time, ...]:
    return tuple(_time(one) for one in text.replace(",", " ").split())


def _time(text: str) -> time:
    hour, _, minute = text.partition(":")
    return time(int(hour), int(minute or 0))


def _two(first: str, last: str, *, optional: bool) -> Callable[[str], dict[str, Any]]:
    def read(text: str) -> dict[str, Any]:
        if optional and not text:
            return {first: None, last: None}
        start, end = _times(text.replace("–", " "))
        return {first: start, last: end}

    return read


def _taper(text: str) -> dict[str, Any]:
    known = {"none": (), "sustained": SUSTAINED_TAPER}
    if text not in known:
        raise ValueError(text)
    return {"taper": known[text]}


_READ: Mapping[str, Callable[[str], dict[str, Any]]] = {
    "starts_on": lambda text: {"starts_on": date.fromisoformat(text) if text else None},
    "times": lambda text: {"times": _times(text)},
    "quiet": _two("quiet_from", "quiet_to", optional=False),
    "work": _two("work_from", "work_to", optional=True),
    "spacing_h": lambda text: {"spacing_h": float(text.replace(",", "."))},
    "taper": _taper,
}


def calendar_text(dose: Dose) -> dict[str, str]:
    """The parts of a calendar as they are typed."""

    def two(first: time | None, last: time | None) -> str:
        return f"{first:%-H:%M}–{last:%-H:%M}" if first and last else ""

    return {
        "starts_on": dose.starts_on.isoformat() if dose.starts_on else "",
        "times": " ".join(f"{at:%-H:%M}" for at in dose.times),
        "quiet": two(dose.quiet_from, dose.quiet_to),
        "work": two(dose.work_from, dose.work_to),
        "spacing_h": f"{dose.spacing_h:g}",
    }
