"""Programs of format 3, whose rungs and reasons were words, as format 4, where they have codes."""

from collections.abc import Mapping
from typing import Any

from core.catalogue.rungs import rung_in_words
from core.catalogue.tasks import shipped_tasks

_FORMS = {
    "air only": "air_only",
    "one comfortable note": "one_note",
    "glide up": "glide_up",
    "glide down": "glide_down",
    "up and down": "up_and_down",
    "three rises in one breath": "three_rises",
    "swell": "swell",
    "five-note scale": "five_note_scale",
    "octave-and-a-ninth scale": "octave_and_ninth_scale",
    "a tune": "tune",
    "a phrase, then open": "phrase_then_open",
}
"""The words that format 3 knew forms by."""
_NAMED = ("cue", "place", "width")


def upgraded(data: Mapping[str, Any]) -> dict[str, Any]:
    """Format-3 data as format-4 data, nothing lost. Reasons stay the words they were."""
    found = {**data, "format": 4}
    if isinstance(data.get("routines"), list):
        found["routines"] = [_routine(one) for one in data["routines"]]
    return found


def _routine(routine: Any) -> Any:
    if not isinstance(routine, dict):
        return routine
    found = dict(routine)
    if isinstance(routine.get("steps"), list):
        found["steps"] = [_step(one) for one in routine["steps"]]
    if "short_day" in routine:
        found["short_day"] = _step(routine["short_day"])
    return found


def _step(step: Any) -> Any:
    """A step said what its rung asks for in its cue too, and an unknown reason by no words."""
    if not isinstance(step, dict):
        return step
    found = {name: value for name, value in step.items() if name != "cue"}
    if not step.get("because"):
        found["because"] = None
    grade = step.get("grade")
    if isinstance(grade, dict) and isinstance(grade.get("words"), list):
        codes = _codes(str(step.get("task")), grade)
        found["grade"] = {**grade, "codes": codes} if codes else grade
    return found


def _codes(task: str, grade: Mapping[str, Any]) -> list[str]:
    words = [str(one) for one in grade["words"]]
    if grade.get("growth") == "form":
        return [_FORMS.get(one, one) for one in words]
    if grade.get("growth") not in _NAMED:
        return []
    shipped = shipped_tasks().get(task)
    known = {rung.words: rung.code for rung in shipped.rungs} if shipped else {}
    return [known.get(one) or rung_in_words(one).code for one in words]
