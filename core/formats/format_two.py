"""Programs of format 2, one sitting with one dose, as format 3: one routine "practice"."""

from collections.abc import Mapping
from typing import Any

from core.errors import PlanError

_OF_THE_ROUTINE = ("steps", "short_day", "dose")
_AIR = "air only"


def upgraded(data: Mapping[str, Any]) -> dict[str, Any]:
    """Format-2 data as format-3 data, nothing lost; PlanError("program_unreadable")."""
    if missing := [name for name in ("steps", "dose") if name not in data]:
        raise PlanError("program_unreadable", reason=f"{missing[0]} is missing")
    routine = {name: data[name] for name in _OF_THE_ROUTINE if name in data}
    if isinstance(routine["steps"], list):
        routine["steps"] = [_with_air(step) for step in routine["steps"]]
    kept = {name: value for name, value in data.items() if name not in _OF_THE_ROUTINE}
    dose = routine["dose"]
    if isinstance(dose, dict) and dose.get("work_from") is not None:
        routine["dose"] = {"when": "working_hours", **dose}
    return {
        **kept,
        "format": 3,
        "routines": [{"key": "practice", "kind": "practice", **routine}],
    }


def _with_air(step: Any) -> Any:
    """Format 2 told air alone by the words of a form; format 3 by the target."""
    if not isinstance(step, dict):
        return step
    found, grade = dict(step), step.get("grade")
    if step.get("cue") == _AIR:
        found["target"] = _air(step.get("target"))
    if isinstance(grade, dict):
        targets, words = grade.get("targets"), grade.get("words")
        if isinstance(targets, list) and isinstance(words, list):
            aired = [
                _air(t) if word == _AIR else t for t, word in zip(targets, words, strict=False)
            ]
            found["grade"] = {**grade, "targets": aired + targets[len(aired) :]}
    return found


def _air(target: Any) -> Any:
    timed = isinstance(target, dict) and target.get("kind") == "timed"
    return {**target, "air": True} if timed else target
