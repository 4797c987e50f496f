"""What the Bench shows of a draft and how its edits are read."""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any

from django.utils.safestring import SafeString
from django.utils.translation import gettext as _

from core.dose.calendar import times_of_day
from core.dose.load import Load, RoutineLoad, load_notices, load_of
from core.dose.tide import Prescribed, tide_days
from core.errors import CoreError, PlanError
from core.formats.plain import read_object
from core.plans.climbing import on_rung
from core.plans.dosing import When
from core.plans.editing import (
    move_hold,
    presented,
    with_depth,
    with_dose,
    with_level,
    with_repetitions,
    with_rest,
    with_seconds,
    without_step,
)
from core.plans.known import Limits
from core.plans.program import Program
from core.plans.routine import Routine
from core.plans.routine_words import WHEN_WORDS, routine_name
from web.clinic.models import Clinic
from web.design.drawings.tide_table import tide_table
from web.programs.models import Draft
from web.programs.presenting import PRESENTED
from web.programs.reeds import program_bed

_BY_NUMBER = {"depth": with_depth, "level": with_level, "seconds": with_seconds}
Change = Callable[[Program], Program]


def draft_context(draft: Draft, clinic: Clinic) -> dict[str, Any]:
    """Reed bed, steps, dose and notices of a draft, for the page and for each edit's answer."""
    program = draft.program
    load = load_of(program)
    return {
        "draft": draft,
        "program": program,
        "bed": program_bed(
            program, label=_("Prescribed holds over the comfortable range"), editable=True
        ),
        "load": load,
        "problems": program.problems(),
        "notices": (
            *program.notices(),
            *load_notices(load, Limits(minutes_a_week=clinic.week_minutes)),
        ),
        "routines": [_shown(routine, load) for routine in program.routines],
        "whens": WHEN_WORDS.items(),
    }


@dataclass(frozen=True)
class RoutineShown:
    """A routine of a draft with its load and its first two weeks."""

    routine: Routine
    name: str
    when: str
    load: RoutineLoad
    week: SafeString


def _shown(routine: Routine, load: Load) -> RoutineShown:
    when = routine.dose.when
    return RoutineShown(
        routine=routine,
        name=routine_name(routine),
        when="" if when is When.ANY else WHEN_WORDS[when],
        load=load.of(routine.key),
        week=_week(routine),
    )


def _week(routine: Routine) -> SafeString:
    """The tide table of the first two weeks of a dose, all still ahead."""
    monday = date(2024, 1, 1)
    first = routine.dose.starts_on or monday
    last = first + timedelta(days=13)
    asked = Prescribed(routine=routine.key, first=first, last=last, dose=routine.dose)
    days = tide_days([asked], [], first=first, last=last, today=first)
    return tide_table(days, label=_("The first two weeks as prescribed"))


def read_edit(body: bytes) -> tuple[int, Change | None]:
    """Revision and change of an edit; None = undo. PlanError("edit_unreadable") otherwise."""
    try:
        data = read_object(body)
        revision = int(data["revision"])
        kind = data["edit"]
        return revision, None if kind == "undo" else _change(kind, data)
    except CoreError:
        raise
    except (ValueError, KeyError, TypeError, OverflowError) as error:
        raise PlanError("edit_unreadable") from error


def _change(kind: str, data: dict[str, Any]) -> Change:
    if kind == "move":
        step_id, place = data["key"].split(":")
        semitones, seconds = int(data.get("semitones", 0)), float(data.get("seconds", 0))
        return lambda program: move_hold(
            program, step_id, int(place), semitones=semitones, seconds=seconds
        )
    if kind == "rung":
        step_id, rung = data["step_id"], int(data["value"])
        return lambda program: on_rung(program, step_id, rung)
    if kind == "repetitions":
        step_id, count = data["step_id"], int(data["value"])
        return lambda program: with_repetitions(program, step_id, count)
    if kind == "rest":
        step_id, rest_s = data["step_id"], float(data["value"])
        return lambda program: with_rest(program, step_id, rest_s)
    if kind in PRESENTED:
        step_id, code = data["step_id"], str(data["value"])
        return lambda program: presented(program, step_id, kind, code)
    if kind in _BY_NUMBER:
        change, step_id, came = _BY_NUMBER[kind], data["step_id"], float(data["value"])
        return lambda program: change(program, step_id, came)
    if kind == "remove":
        step_id = data["step_id"]
        return lambda program: without_step(program, step_id)
    if kind == "dose":
        often = {name: int(data[name]) for name in ("sessions_a_day", "days_a_week", "weeks")}
        key, when = str(data["routine"]), When(data["when"]) if "when" in data else None
        return lambda program: _that_fits_the_day(with_dose(program, key, when=when, **often), key)
    raise KeyError(kind)


def _that_fits_the_day(program: Program, key: str) -> Program:
    """The program, where the sittings of that routine fit into a day; PlanError("day_too_full")."""
    dose = program.routine(key).dose
    times_of_day(dose, dose.sessions_a_day)
    return program
