"""What the Bench shows of a draft and how its edits are read."""

import json
from collections.abc import Callable
from typing import Any

from django.utils.translation import gettext as _

from core.dose.minutes import session_length, voiced_minutes_a_week
from core.errors import PlanError
from core.plans.editing import (
    move_hold,
    with_dose,
    with_repetitions,
    with_rest,
    without_step,
)
from core.plans.ladder import on_rung
from core.plans.program import Dose, Program
from web.clients.models import Measure
from web.clients.queries import BaselineView
from web.design.drawings.reed_bed import Bed, reed_bed
from web.programs.models import Draft
from web.programs.reeds import program_reeds

Change = Callable[[Program], Program]


def draft_context(draft: Draft) -> dict[str, Any]:
    """Reed bed, steps, dose and notices of a draft, for the page and for each edit's answer."""
    program = draft.program
    return {
        "draft": draft,
        "program": program,
        "bed": _bed(program),
        "length": session_length(program),
        "week_min": voiced_minutes_a_week(program),
        "problems": program.problems(),
        "notices": program.notices(),
    }


def _bed(program: Program):
    label = _("Prescribed holds over the comfortable range")
    return reed_bed(
        Bed(
            comfort=program.comfort,
            reeds=program_reeds(program),
            goal_s=program.goal_s,
            a4_hz=program.a4_hz,
            editable=True,
            label=label,
        )
    )


def read_edit(body: bytes) -> tuple[int, Change | None]:
    """Revision and change of an edit; None = undo. PlanError("edit_unreadable") otherwise."""
    try:
        data = json.loads(body)
        revision = int(data["revision"])
        kind = data["edit"]
        return revision, None if kind == "undo" else _change(kind, data)
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
        rung = int(data["value"])
        return lambda program: on_rung(program, rung)
    if kind == "repetitions":
        step_id, count = data["step_id"], int(data["value"])
        return lambda program: with_repetitions(program, step_id, count)
    if kind == "rest":
        step_id, rest_s = data["step_id"], float(data["value"])
        return lambda program: with_rest(program, step_id, rest_s)
    if kind == "remove":
        step_id = data["step_id"]
        return lambda program: without_step(program, step_id)
    if kind == "dose":
        dose = Dose(**{name: int(data[name]) for name in Dose.__slots__})
        return lambda program: with_dose(program, dose)
    raise KeyError(kind)


def goals_of(view: BaselineView) -> list[dict[str, Any]]:
    """The hold goals this baseline offers, each with its reason."""
    offered = []
    s = view.best_s(Measure.S)
    if s:
        because = _("the client's own longest /s/")
        offered.append({"key": "s", "seconds": s, "because": because})
    if view.airflow_goal_s:
        estimated = view.capacity_ml[1] if view.capacity_ml else False
        source = _("estimated vital capacity") if estimated else _("measured vital capacity")
        because = _("airflow goal, %(source)s ÷ 80 mL/s (overshoots)") % {"source": source}
        offered.append({"key": "airflow", "seconds": view.airflow_goal_s, "because": because})
    best = view.best_s(Measure.PHONATION)
    if best:
        because = _("the client's own best phonation time")
        offered.append({"key": "own", "seconds": best, "because": because})
    return offered


def read_goal(view: BaselineView, key: str, typed: str) -> tuple[float, str]:
    """The chosen goal in seconds with its reason; PlanError for one that cannot be."""
    for goal in goals_of(view):
        if goal["key"] == key:
            return goal["seconds"], goal["because"]
    try:
        seconds = float(typed.replace(",", "."))
    except ValueError as error:
        raise PlanError("goal_missing") from error
    return seconds, _("set by the clinician")
