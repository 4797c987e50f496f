"""Programs of format 2, one sitting with one dose, as format 3: one routine "practice"."""

from collections.abc import Mapping
from typing import Any

from core.errors import PlanError

_OF_THE_ROUTINE = ("steps", "short_day", "dose")


def upgraded(data: Mapping[str, Any]) -> dict[str, Any]:
    """Format-2 data as format-3 data, nothing lost; PlanError("program_unreadable")."""
    if missing := [name for name in ("steps", "dose") if name not in data]:
        raise PlanError("program_unreadable", reason=f"{missing[0]} is missing")
    routine = {name: data[name] for name in _OF_THE_ROUTINE if name in data}
    kept = {name: value for name, value in data.items() if name not in _OF_THE_ROUTINE}
    dose = routine["dose"]
    if isinstance(dose, dict) and dose.get("work_from") is not None:
        routine["dose"] = {"when": "working_hours", **dose}
    return {
        **kept,
        "format": 3,
        "routines": [{"key": "practice", "kind": "practice", **routine}],
    }
