"""Programs of format 1, sustained notes only, as format 2."""

from collections.abc import Mapping
from typing import Any

from core.catalogue.tasks import shipped_tasks
from core.errors import PlanError


def upgraded(data: Mapping[str, Any]) -> dict[str, Any]:
    """Format-1 data as format-2 data, nothing lost; PlanError("program_unreadable")."""
    try:
        return {
            "format": 2,
            "schools": [{"school": "sustained", "options": {"pitches": data["school"]}}],
            "comfort": data["comfort"],
            "a4_hz": data["a4_hz"],
            "margin_semitones": data["margin_semitones"],
            "reasons": [data["pitches_because"], f"Hold goal: {data['goal_because']}."],
            "steps": [_step(step, data) for step in data["steps"]],
            "dose": data["dose"],
        }
    except (KeyError, TypeError, AttributeError) as error:
        raise PlanError("program_unreadable", reason=str(error)) from error


def _step(step: Mapping[str, Any], data: Mapping[str, Any]) -> dict[str, Any]:
    task = shipped_tasks().get(step["task"])
    kept = ("step_id", "task", "kind", "name", "sound", "instruction", "caution")
    glide = step["glide"]
    return {
        **{key: step[key] for key in (*kept, "repetitions", "rest_s")},
        "phase": "voice",
        "voiced": True,
        "target": {"kind": "glide", **glide}
        if glide
        else {"kind": "holds", "holds": step["holds"]},
        "grade": None if glide else _grade(data),
        "touches": sorted(task.touches) if task else [],
    }


def _grade(data: Mapping[str, Any]) -> dict[str, Any]:
    return {
        "key": "sustained",
        "growth": "seconds",
        "rungs": data["rungs_s"],
        "words": [f"{seconds:g} s" for seconds in data["rungs_s"]],
        "rung": data["rung"],
        "goal": data["goal_s"],
        "because": data["goal_because"],
        "shown": data["longest_shown_s"],
    }
