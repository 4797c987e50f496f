"""Reads the task files and checks every entry."""

import re
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from pathlib import Path
from typing import Any, TypeVar

from core.catalogue.doing import ADVICE, COUNTED, measured_kind, task_kinds
from core.catalogue.touches import WORKED_OUT, Touch
from core.catalogue.words import (
    FAMILY_WORDS,
    FIGURE_WORDS,
    SHOWN_BY_WORDS,
    Aim,
    Equipment,
    Growth,
    Skill,
)
from core.errors import PlanError

_FOLDER = Path(__file__).parent
_KEY = re.compile(r"[a-z][a-z0-9_]{1,59}")
_LONGEST_TEXT = 600
_Word = TypeVar("_Word", bound=StrEnum)


@dataclass(frozen=True, slots=True, kw_only=True)
class Setting:
    """One thing that is set in a task: its unit, limits and where it begins when nothing is known."""

    name: str
    unit: str
    low: float
    high: float
    default: float

    def limited(self, wanted: float) -> float:
        """The nearest value inside the limits."""
        return min(max(wanted, self.low), self.high)


@dataclass(frozen=True, slots=True, kw_only=True)
class Fault:
    """A common fault, the finding (SHOWN_BY_WORDS) that shows it and the cue for it."""

    fault: str
    shown_by: str
    cue: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Task:
    """One task of the catalogue: its texts, what is set and measured, what conditions forbid in it.

    rungs: in words from easy to hard; rung_touches: what single rungs touch beside the task, one
    set a rung, or empty; substitutes: keys of tasks with an aim in common.
    """

    key: str
    family: str
    name: str
    kind: str
    voiced: bool
    aims: tuple[Aim, ...]
    purpose: str
    suits: str
    sound: str
    instruction: str
    clinician_note: str
    caution: str
    settings: tuple[Setting, ...]
    measured: tuple[str, ...]
    counted: str
    faults: tuple[Fault, ...]
    grows: Growth
    rungs: tuple[str, ...]
    substitutes: tuple[str, ...]
    equipment: frozenset[Equipment]
    skills: frozenset[Skill]
    touches: frozenset[Touch]
    rung_touches: tuple[frozenset[Touch], ...] = ()

    def setting(self, name: str) -> Setting:
        """A setting by name; PlanError("setting_unknown")."""
        for setting in self.settings:
            if setting.name == name:
                return setting
        raise PlanError("setting_unknown", task=self.key, setting=name)


_MEANS = {Equipment.GLASS_OF_WATER: Touch.WATER, Equipment.BALLOON: Touch.BALLOON}
"""What a thing in the hand means for what is touched, whoever writes the task."""
_TEXTS = ("name", "purpose", "suits", "instruction", "clinician_note", "caution")
_MAY_BE_EMPTY = ("sound", "counted")
_LISTS = ("aims", "measured", "faults", "rungs", "substitutes", "equipment", "skills")
_TOUCHED = ("touches", "rung_touches")
_WANTED = frozenset((*_TEXTS, *_MAY_BE_EMPTY, *_LISTS, *_TOUCHED, "kind", "voiced", "grows", "set"))
_OPTIONAL = {
    "sound": "",
    "counted": "",
    "measured": [],
    "substitutes": [],
    "equipment": [],
    "skills": [],
    "touches": [],
    "rung_touches": [],
    "rungs": [],
    "set": {},
    "grows": "none",
}


@cache
def shipped_tasks() -> dict[str, Task]:
    """Every shipped task by key. Raises PlanError("task_broken") with file, key and reason."""
    return tasks_in({p.name: p.read_text(encoding="utf-8") for p in sorted(_FOLDER.glob("*.toml"))})


def tasks_in(files: Mapping[str, str]) -> dict[str, Task]:
    """The tasks of some files (name → TOML text); PlanError("task_broken") for the first bad one."""
    tasks: dict[str, Task] = {}
    of_file: dict[str, str] = {}
    for file, text in files.items():
        try:
            table = tomllib.loads(text)
        except tomllib.TOMLDecodeError as error:
            raise PlanError("task_broken", file=file, key="", reason=str(error)) from error
        family = table.pop("family", "")
        for key, entry in table.items():
            if key in tasks:
                reason = f"the same key stands in {of_file[key]}"
                raise PlanError("task_broken", file=file, key=key, reason=reason)
            tasks[key] = checked_task(family, key, entry, file=file)
            of_file[key] = file
    for key, task in tasks.items():
        if odd := _odd_substitute(task, tasks):
            raise PlanError("task_broken", file=of_file[key], key=key, reason=odd)
    return tasks


def checked_task(family: str, key: str, entry: Any, *, file: str = "") -> Task:
    """One entry as a task; PlanError("task_broken", file, key, reason) where it does not hold."""
    try:
        return _task(family, key, entry)
    except _Broken as broken:
        raise PlanError("task_broken", file=file, key=key, reason=broken.args[0]) from broken


class _Broken(Exception):
    """Why an entry does not hold, in words."""


def _task(family: str, key: str, entry: Any) -> Task:
    if not isinstance(entry, dict):
        raise _Broken("is no table")
    if not _KEY.fullmatch(key):
        raise _Broken("the key takes small letters, digits and _")
    if family not in FAMILY_WORDS:
        raise _Broken(f"family {family!r} is none of A–K")
    entry = {**_OPTIONAL, **entry}
    if set(entry) != _WANTED:
        raise _Broken(f"missing or unknown: {sorted(set(entry) ^ _WANTED)}")
    for name in (*_TEXTS, *_MAY_BE_EMPTY):
        _check_text(name, entry[name], may_be_empty=name in _MAY_BE_EMPTY)
    for name in (*_LISTS, *_TOUCHED):
        if not isinstance(entry[name], list):
            raise _Broken(f"{name} is no list")
    kind = entry["kind"]
    if kind not in task_kinds():
        raise _Broken(f"kind {kind!r} is none of {', '.join(task_kinds())}")
    if not isinstance(entry["voiced"], bool):
        raise _Broken("voiced is true or false")
    task = Task(
        key=key,
        family=family,
        **{name: entry[name].strip() for name in (*_TEXTS, *_MAY_BE_EMPTY)},
        kind=kind,
        voiced=entry["voiced"],
        aims=tuple(_word(Aim, "aims", word) for word in entry["aims"]),
        settings=_settings(entry["set"]),
        measured=_known("measured", entry["measured"], FIGURE_WORDS),
        faults=tuple(_fault(fault) for fault in entry["faults"]),
        grows=_word(Growth, "grows", entry["grows"]),
        rungs=tuple(_check_text("rungs", rung) for rung in entry["rungs"]),
        substitutes=tuple(_check_text("substitutes", other) for other in entry["substitutes"]),
        equipment=frozenset(_word(Equipment, "equipment", word) for word in entry["equipment"]),
        skills=frozenset(_word(Skill, "skills", word) for word in entry["skills"]),
        touches=_touched(entry["touches"]),
        rung_touches=tuple(_touched(words) for words in entry["rung_touches"]),
    )
    _check_sense(task)
    return task


def _touched(words: Any) -> frozenset[Touch]:
    if not isinstance(words, list):
        raise _Broken("rung_touches takes a list of lists")
    found = frozenset(_word(Touch, "touches", word) for word in words)
    if odd := sorted(found & WORKED_OUT):
        raise _Broken(f"touches {odd} are worked out, nobody declares them")
    return found


def _check_sense(task: Task) -> None:
    if task.rung_touches and len(task.rung_touches) != len(task.rungs):
        raise _Broken("rung_touches: one list a rung")
    for thing, touch in _MEANS.items():
        if thing in task.equipment and touch not in task.touches:
            raise _Broken(f"touches: {thing.value} means {touch.value}")
    if not task.aims:
        raise _Broken("aims: at least one")
    if bool(measured_kind(task.kind)) != bool(task.measured):
        raise _Broken("measured: named for tasks measured from sound, and only for them")
    if (task.kind == COUNTED) != bool(task.counted):
        raise _Broken("counted: says what is counted in a counted task, and only there")
    if task.kind != ADVICE and not task.faults:
        raise _Broken("faults: at least one with its cue")
    if (task.grows is Growth.NONE) == bool(task.rungs):
        raise _Broken("rungs: named from easy to hard where the task grows, and only there")


def _check_text(name: str, text: Any, *, may_be_empty: bool = False) -> str:
    if not isinstance(text, str) or len(text) > _LONGEST_TEXT:
        raise _Broken(f"{name} is no text of up to {_LONGEST_TEXT} characters")
    if not text.strip() and not may_be_empty:
        raise _Broken(f"{name} is empty")
    return text.strip()


def _word(words: type[_Word], name: str, came: Any) -> _Word:
    try:
        return words(came)
    except ValueError as error:
        raise _Broken(f"{name} {came!r} is none of {[w.value for w in words]}") from error


def _known(name: str, came: list[Any], known: Mapping[str, str]) -> tuple[str, ...]:
    odd = [word for word in came if word not in known]
    if odd:
        raise _Broken(f"{name} {odd} is none of {sorted(known)}")
    return tuple(came)


def _settings(table: Any) -> tuple[Setting, ...]:
    if not isinstance(table, dict):
        raise _Broken("set is no table")
    found = []
    for name, entry in table.items():
        wanted = {"unit", "low", "high", "default"}
        if not isinstance(entry, dict) or set(entry) != wanted:
            raise _Broken(f"set.{name} takes {sorted(wanted)}")
        numbers = [entry[key] for key in ("low", "default", "high")]
        if not all(isinstance(n, int | float) for n in numbers) or numbers != sorted(numbers):
            raise _Broken(f"set.{name}: low ≤ default ≤ high, as numbers")
        limits = {key: float(entry[key]) for key in ("low", "high", "default")}
        found.append(Setting(name=name, unit=str(entry["unit"]), **limits))
    return tuple(found)


def _fault(entry: Any) -> Fault:
    wanted = {"fault", "shown_by", "cue"}
    if not isinstance(entry, dict) or set(entry) != wanted:
        raise _Broken(f"a fault takes {sorted(wanted)}")
    texts = {name: _check_text(f"faults.{name}", entry[name]) for name in wanted}
    _known("faults.shown_by", [texts["shown_by"]], SHOWN_BY_WORDS)
    return Fault(**texts)


def _odd_substitute(task: Task, tasks: Mapping[str, Task]) -> str | None:
    for other in task.substitutes:
        if other not in tasks or other == task.key:
            return f"substitute {other!r} is no other task"
        if not set(task.aims) & set(tasks[other].aims):
            return f"substitute {other!r} has no aim in common"
    return None
