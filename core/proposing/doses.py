"""The dose of a proposal: the school's, within what client and clinic allow."""

from collections.abc import Mapping
from dataclasses import replace
from datetime import date
from typing import Any

from core.dose.calendar import refused_times, times_of_day
from core.errors import PlanError
from core.fitting.notes import Notes, because, to_ask
from core.program.dosing import SUSTAINED_TAPER, Dose, TaperStage, When
from core.program.program import Program
from core.proposing.request import PlanRequest
from core.reason import says
from core.safety.condition import Condition

_NOT_USED = says(
    "time_not_used", "{at:clock} is not used: it lies in the quiet hours or outside work."
)
_FEWER_DAYS = says("fewer_days", "{days} days a week, not {asked}: no other day is free.")
_NO_TAPER = says(
    "no_taper",
    "No taper with a progressive condition: daily for good, reviewed at 3 and 6 months.",
)
_ASK_WORK = says("ask_working_hours", "Ask for the working hours: resets lie within them.")
_DAY_TOO_SHORT = says(
    "day_too_short",
    "{a_day} home sessions a day, not {asked}: no more fit outside the quiet hours, "
    "{spacing_h:g} h apart.",
)

_VISITS = {4: (1, 2, 4, 5)}


def dose_of(
    school_dose: Mapping[str, Any],
    request: PlanRequest,
    conditions: frozenset[Condition],
) -> tuple[Dose, Notes]:
    """The dose of a sitting with its days and times, and what was changed or is to be asked.

    Raises PlanError("no_free_day"), ("day_too_full") where not even one home session fits.
    """
    wishes = request.wishes
    days = school_dose["days_a_week"]
    weekdays, notes = _weekdays(days, request)
    work_hours, asked = _work_hours(school_dose, request)
    taper, tapered = _taper(school_dose, conditions)
    dose = Dose(
        when=When(school_dose.get("when", When.ANY)),
        sessions_a_day=school_dose["sessions_a_day"],
        days_a_week=len(weekdays) or days,
        weeks=school_dose["weeks"],
        starts_on=wishes.starts_on,
        weekdays=weekdays,
        visit_weekdays=_visits(school_dose, request),
        spacing_h=school_dose.get("spacing_h", 3.0),
        times=wishes.times,
        quiet_from=wishes.quiet_from,
        quiet_to=wishes.quiet_to,
        away=wishes.away,
        short_day_min=school_dose.get("short_day_min"),
        taper=taper,
        **work_hours,
    )
    refused = because(*(_NOT_USED(at=at.isoformat("minutes")) for at in refused_times(dose)))
    fits, fewer = _that_fits(dose)
    return fits, notes + tapered + asked + refused + fewer


def _weekdays(days: int, request: PlanRequest) -> tuple[tuple[int, ...], Notes]:
    free = request.wishes.free_weekdays
    if free is None:
        return (), Notes()
    known = tuple(sorted(set(free)))
    if not known:
        raise PlanError("no_free_day")
    if len(known) <= days:
        fewer = len(known) < days
        return known, because(*[_FEWER_DAYS(days=len(known), asked=days)] * fewer)
    return _evenly(known, days), Notes()


def _evenly(free: tuple[int, ...], count: int) -> tuple[int, ...]:
    """So many of the free weekdays, spread over the week."""
    places = {round(index * (len(free) - 1) / max(count - 1, 1)) for index in range(count)}
    return tuple(free[place] for place in sorted(places))


def on_fewer_days(dose: Dose, days: int) -> Dose:
    """The dose on fewer days a week, named weekdays spread evenly."""
    weekdays = _evenly(dose.weekdays, days) if dose.weekdays else ()
    return replace(dose, days_a_week=days, weekdays=weekdays)


def _visits(school_dose: Mapping[str, Any], request: PlanRequest) -> tuple[int, ...]:
    if request.wishes.visit_weekdays:
        return tuple(sorted(set(request.wishes.visit_weekdays)))
    return _VISITS.get(school_dose.get("visits_a_week", 0), ())


def _taper(
    school_dose: Mapping[str, Any], conditions: frozenset[Condition]
) -> tuple[tuple[TaperStage, ...], Notes]:
    if school_dose.get("taper") != "sustained":
        return (), Notes()
    if Condition.PROGRESSIVE in conditions:
        return (), because(_NO_TAPER())
    return SUSTAINED_TAPER, Notes()


def _work_hours(
    school_dose: Mapping[str, Any], request: PlanRequest
) -> tuple[dict[str, Any], Notes]:
    if school_dose.get("when") != When.WORKING_HOURS:
        return {}, Notes()
    wishes = request.wishes
    if wishes.work_from is None or wishes.work_to is None:
        return {}, to_ask(_ASK_WORK())
    return {"work_from": wishes.work_from, "work_to": wishes.work_to}, Notes()


def _that_fits(dose: Dose) -> tuple[Dose, Notes]:
    """The dose with as many home sessions a day as fit at the spacing outside the quiet hours."""
    for sessions in range(dose.sessions_a_day, 0, -1):
        try:
            times_of_day(dose, sessions)
        except PlanError:
            if sessions == 1:
                raise
            continue
        if sessions == dose.sessions_a_day:
            return dose, Notes()
        asked = dose.sessions_a_day
        fewer = _DAY_TOO_SHORT(a_day=sessions, asked=asked, spacing_h=dose.spacing_h)
        return replace(dose, sessions_a_day=sessions), because(fewer)
    raise PlanError("day_too_full", wanted=1, fit=0, spacing_h=dose.spacing_h)


def started_on(program: Program, day: date) -> Program:
    """The program with the first day of each dose, where it had none."""
    routines = tuple(
        one if one.dose.starts_on else replace(one, dose=replace(one.dose, starts_on=day))
        for one in program.routines
    )
    return replace(program, routines=routines)
