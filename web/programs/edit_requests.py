"""The changes the Bench sends, read into changes of a program."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import date
from functools import partial
from typing import Any

from core.dose.calendar import times_of_day
from core.editing import edit_ladder as laddering
from core.editing import edit_schedule as scheduling
from core.editing import step_order as arranging
from core.editing import step_targets
from core.editing.change_rung import on_rung
from core.errors import CoreError, PlanError
from core.formats.json_input import read_object
from core.program.dosing import When
from core.program.program import Program

Change = Callable[[Program], Program]
Added = Callable[[Program, str, str], Program]
"""A program with a task of the Library in one of its routines."""
LONGEST_TEXT = 400


@dataclass(frozen=True)
class EditTools:
    """What a change needs beside the program: what the draft began as, today for the client, how a task is added,
    and how a step gets its id."""

    base: Callable[[], Program | None]
    today: date
    added: Added
    new_id: Callable[[], str]


@dataclass(frozen=True)
class Edit:
    """One message of the Bench. kind: "undo", "redo", "look" (nothing changes) or a change; chosen: the step that
    is looked at."""

    revision: int
    kind: str
    change: Change | None
    chosen: str


def read_edit(body: bytes, hands: EditTools) -> Edit:
    """PlanError("edit_unreadable") for what is none."""
    try:
        data = read_object(body)
        kind, chosen = _text(data, "edit"), str(data.get("chosen", ""))[:60]
        change = None if kind in ("undo", "redo", "look") else CHANGES[kind](data, hands)
        return Edit(int(data["revision"]), kind, change, chosen)
    except CoreError:
        raise
    except (ValueError, KeyError, TypeError, OverflowError, AttributeError) as error:
        raise PlanError("edit_unreadable") from error


def _text(data: Mapping[str, Any], name: str) -> str:
    came = data[name]
    if not isinstance(came, str) or len(came) > LONGEST_TEXT or "\x00" in came:
        raise ValueError(name)
    return came


def _step(data: Mapping[str, Any]) -> str:
    return _text(data, "step_id")


def _move(data: Mapping[str, Any], _hands: EditTools) -> Change:
    step_id, place = _text(data, "key").split(":")
    semitones, seconds = int(data.get("semitones", 0)), float(data.get("seconds", 0))
    return lambda p: step_targets.move_hold(
        p, step_id, int(place), semitones=semitones, seconds=seconds
    )


def _set(data: Mapping[str, Any], _hands: EditTools) -> Change:
    step_id, key, value = _step(data), _text(data, "key"), _text(data, "value")
    return lambda p: step_targets.set_by_hand(p, step_id, key, value)


def _nudge(data: Mapping[str, Any], _hands: EditTools) -> Change:
    step_id, key, by = _step(data), _text(data, "key"), int(data["by"])
    return lambda p: step_targets.nudge(p, step_id, key, by)


def _key(data: Mapping[str, Any], _hands: EditTools) -> Change:
    step_id, name = _step(data), _text(data, "value")
    return lambda p: step_targets.with_key(p, step_id, name)


def _rung(data: Mapping[str, Any], _hands: EditTools) -> Change:
    step_id, rung = _step(data), int(data["value"])
    return lambda p: on_rung(p, step_id, rung)


def _ladder(data: Mapping[str, Any], _hands: EditTools) -> Change:
    step_id, value = _step(data), _text(data, "value")
    return lambda p: laddering.with_ladder(p, step_id, value)


def _rung_out(data: Mapping[str, Any], _hands: EditTools) -> Change:
    step_id, place = _step(data), int(data["value"])
    return lambda p: laddering.without_rung(p, step_id, place)


def _rung_in(data: Mapping[str, Any], hands: EditTools) -> Change:
    step_id, value, base = _step(data), float(data["value"]), _base(hands)
    return lambda p: laddering.with_rung_again(p, base, step_id, value)


def _as_before(data: Mapping[str, Any], hands: EditTools) -> Change:
    step_id, base = _step(data), _base(hands)
    return lambda p: step_targets.as_proposed(p, base, step_id)


def _base(hands: EditTools) -> Program:
    base = hands.base()
    if base is None:
        raise PlanError("nothing_proposed")
    return base


def _add(data: Mapping[str, Any], hands: EditTools) -> Change:
    task, routine = _text(data, "task"), _text(data, "routine")
    return lambda p: hands.added(p, task, routine)


def _order(data: Mapping[str, Any], _hands: EditTools) -> Change:
    step_id, by = _step(data), int(data["by"])
    return lambda p: arranging.moved(p, step_id, by)


def _place(data: Mapping[str, Any], _hands: EditTools) -> Change:
    step_id, routine, place = _step(data), _text(data, "routine"), int(data["place"])
    return lambda p: arranging.placed(p, step_id, routine, place)


def _to_routine(data: Mapping[str, Any], _hands: EditTools) -> Change:
    step_id, routine = _step(data), _text(data, "value")
    if not routine:
        return lambda p: arranging.on_its_own(p, step_id)
    return lambda p: arranging.placed(p, step_id, routine, len(p.routine(routine).steps))


def _duplicate(data: Mapping[str, Any], hands: EditTools) -> Change:
    step_id = _step(data)
    return lambda p: arranging.duplicated(p, step_id, new_step_id=hands.new_id())


def _remove(data: Mapping[str, Any], _hands: EditTools) -> Change:
    step_id = _step(data)
    return lambda p: arranging.without_step(p, step_id)


def _dose(data: Mapping[str, Any], _hands: EditTools) -> Change:
    often = {name: int(data[name]) for name in ("sessions_a_day", "days_a_week", "weeks")}
    key, when = _text(data, "routine"), When(data["when"]) if "when" in data else None
    return partial(_in_the_day, key, lambda p: scheduling.with_dose(p, key, when=when, **often))


def _calendar(data: Mapping[str, Any], _hands: EditTools) -> Change:
    key, which, value = _text(data, "routine"), _text(data, "key"), _text(data, "value")
    return partial(_in_the_day, key, lambda p: scheduling.with_calendar(p, key, which, value))


def _weekday(data: Mapping[str, Any], _hands: EditTools) -> Change:
    key, day = _text(data, "routine"), int(data["value"])
    return lambda p: scheduling.with_weekday(p, key, day)


def _visit(data: Mapping[str, Any], _hands: EditTools) -> Change:
    key, day = _text(data, "routine"), int(data["value"])
    return lambda p: scheduling.with_visit(p, key, day)


def _away(data: Mapping[str, Any], hands: EditTools) -> Change:
    day = date.fromisoformat(_text(data, "value"))
    return lambda p: scheduling.with_day_away(p, day, today=hands.today)


def _stage(data: Mapping[str, Any], _hands: EditTools) -> Change:
    key, place, which = _text(data, "routine"), int(data["place"]), _text(data, "key")
    value = str(data.get("value", ""))[:10]
    return lambda p: scheduling.with_stage(p, key, place, which, value)


def _dealt(data: Mapping[str, Any], _hands: EditTools) -> Change:
    part, place = _text(data, "part"), int(data["value"])
    return lambda p: step_targets.dealt_with(p, part, place)


def _in_the_day(key: str, change: Change, program: Program) -> Program:
    """Changed, where the sittings of that routine fit into a day; PlanError("day_too_full")."""
    changed = change(program)
    dose = changed.routine(key).dose
    times_of_day(dose, dose.sessions_a_day)
    return changed


CHANGES: Mapping[str, Callable[[Mapping[str, Any], EditTools], Change]] = {
    "move": _move,
    "set": _set,
    "nudge": _nudge,
    "key": _key,
    "rung": _rung,
    "ladder": _ladder,
    "rung_out": _rung_out,
    "rung_in": _rung_in,
    "as_before": _as_before,
    "add": _add,
    "order": _order,
    "place": _place,
    "routine": _to_routine,
    "duplicate": _duplicate,
    "remove": _remove,
    "dose": _dose,
    "calendar": _calendar,
    "weekday": _weekday,
    "visit": _visit,
    "away": _away,
    "stage": _stage,
    "dealt": _dealt,
}
