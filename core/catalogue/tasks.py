"""Reads the task files and checks every entry."""

import tomllib
from dataclasses import dataclass, fields
from enum import StrEnum
from functools import cache
from pathlib import Path
from typing import Any

from core.catalogue.touches import Touch
from core.errors import PlanError

_FOLDER = Path(__file__).parent


class TaskKind(StrEnum):
    """How a task is done and measured."""

    HOLD = "hold"
    GLIDE = "glide"


@dataclass(frozen=True, slots=True, kw_only=True)
class Task:
    """One task of the catalogue: its texts, how it is measured, what conditions may forbid in it."""

    key: str
    family: str
    name: str
    kind: TaskKind
    purpose: str
    sound: str
    instruction: str
    clinician_note: str
    caution: str
    touches: frozenset[Touch]


@cache
def shipped_tasks() -> dict[str, Task]:
    """Every shipped task by key. Raises PlanError("task_broken") with file, key and reason."""
    tasks: dict[str, Task] = {}
    for path in sorted(_FOLDER.glob("*.toml")):
        table = tomllib.loads(path.read_text(encoding="utf-8"))
        family = table.pop("family")
        for key, entry in table.items():
            tasks[key] = _checked(path.name, family, key, entry)
    return tasks


def _checked(file: str, family: str, key: str, entry: dict[str, Any]) -> Task:
    wanted = {field.name for field in fields(Task)} - {"key", "family"}
    if set(entry) != wanted:
        odd = sorted(set(entry) ^ wanted)
        raise PlanError("task_broken", file=file, key=key, reason=f"missing or unknown: {odd}")
    if entry["kind"] not in tuple(TaskKind):
        raise PlanError("task_broken", file=file, key=key, reason=f"kind {entry['kind']!r}")
    odd = sorted(set(entry["touches"]) - set(Touch))
    if odd:
        raise PlanError("task_broken", file=file, key=key, reason=f"touches {odd}")
    touches = frozenset(Touch(name) for name in entry["touches"])
    kind = TaskKind(entry["kind"])
    return Task(key=key, family=family, **{**entry, "kind": kind, "touches": touches})
