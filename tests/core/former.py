"""Programs of today as files of format 3 had them: reasons and rungs in words, no codes."""

from typing import Any

CUED = ("form", "cue", "place", "width", "beats_out", "tempo")
"""Dimensions whose rung a step of format 3 said in its cue."""


def as_format_three(data: dict[str, Any]) -> dict[str, Any]:
    """Data of today as format 3 wrote it."""
    return _in_words(data) | {"format": 3}


def as_format_two(data: dict[str, Any]) -> dict[str, Any]:
    """Data of one routine as format 2 wrote it: one sitting, its dose, no word of air."""
    three = as_format_three(data)
    (routine,) = three.pop("routines")
    del routine["dose"]["when"]
    two = three | {"format": 2, **{key: routine[key] for key in ("steps", "short_day", "dose")}}
    for step in two["steps"]:
        targets = (step["grade"] or {}).get("targets", [])
        for target in (step["target"], *targets):
            target.pop("air", None)
    return two


def _in_words(came: Any) -> Any:
    if isinstance(came, list):
        return [_in_words(one) for one in came]
    if not isinstance(came, dict):
        return came
    if came.keys() == {"code", "params", "words"}:
        return came["words"]
    found = {key: _in_words(value) for key, value in came.items()}
    if "step_id" in found:
        grade = found["grade"]
        cued = grade is not None and grade["growth"] in CUED
        found["cue"] = grade["words"][grade["rung"]] if cued else ""
        found["because"] = found["because"] or ""
        if grade is not None:
            del grade["codes"]
    return found
