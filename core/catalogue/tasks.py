"""Reads the task files and checks every entry."""

import re
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

from core.catalogue.entry import Broken, read_entry
from core.catalogue.rungs import Rung
from core.catalogue.touches import Touch
from core.catalogue.words import FAMILY_WORDS, Aim, Equipment, Growth, Skill
from core.errors import PlanError

_FOLDER = Path(__file__).parent
_SPOKEN = frozenset({"H", "I"})
"""Task families that use speech, however the client produces it."""
_ON_THE_BREATH = frozenset({"B", "C"})
"""Families whose tasks send the breath through mouth or nose."""
_KEY = re.compile(r"[a-z][a-z0-9_]{1,59}")


@dataclass(frozen=True, slots=True, kw_only=True)
class TaskSetting:
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
class TaskFault:
    """A common fault, the finding (SHOWN_BY_WORDS) that shows it and the cue for it."""

    fault: str
    shown_by: str
    cue: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Task:
    """One task of the catalogue: its texts, what is set and measured, what conditions forbid in it.

    rungs: from easy to hard; rung_touches: what single rungs touch beside the task, one set a rung,
    or empty; substitutes: keys of tasks with an aim in common.
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
    settings: tuple[TaskSetting, ...]
    measured: tuple[str, ...]
    counted: str
    faults: tuple[TaskFault, ...]
    grows: Growth
    rungs: tuple[Rung, ...]
    substitutes: tuple[str, ...]
    equipment: frozenset[Equipment]
    skills: frozenset[Skill]
    touches: frozenset[Touch]
    rung_touches: tuple[frozenset[Touch], ...] = ()
    in_the_day: bool = False
    leans_on: str = ""

    @property
    def by_nature(self) -> frozenset[Touch]:
        """What the task touches because of its family and what it needs, whoever wrote it."""
        found = set()
        if self.family in _ON_THE_BREATH or Skill.NOSE_OPEN in self.skills:
            found.add(Touch.BREATH)
        if self.equipment & {Equipment.THIN_STRAW, Equipment.WIDE_TUBE}:
            found.add(Touch.STRAW)
        if self.family in _SPOKEN:
            found.add(Touch.SPOKEN)
        if self.family == "F" and Aim.RESONANCE in self.aims and Skill.NOSE_OPEN in self.skills:
            found.add(Touch.RESONANCE)
        return frozenset(found)

    def touched_by(self, code: str) -> frozenset[Touch]:
        """What the rung of that code touches beside the task; of a code nobody knows, what any rung
        touches."""
        if not self.rung_touches:
            return frozenset()
        codes = [rung.code for rung in self.rungs]
        if code not in codes:
            return frozenset[Touch]().union(*self.rung_touches)
        return self.rung_touches[codes.index(code)]

    def setting(self, name: str) -> TaskSetting:
        """A setting by name; PlanError("setting_unknown")."""
        for setting in self.settings:
            if setting.name == name:
                return setting
        raise PlanError("setting_unknown", task=self.key, setting=name)

    def usual(self, name: str, default: float) -> float:
        """Where a setting begins; the default in a task that does not set it."""
        found = {setting.name: setting.default for setting in self.settings}
        return found.get(name, default)


def in_the_day(key: str, tasks: Mapping[str, Task]) -> bool:
    """Whether the task is done during the day and ticked off later, instead of being led in a session."""
    return key in tasks and tasks[key].in_the_day


@cache
def shipped_tasks() -> dict[str, Task]:
    """Every shipped task by key. Raises PlanError("task_broken") with file, key and reason."""
    return tasks_in(
        {p.name: p.read_text(encoding="utf-8") for p in sorted(_FOLDER.glob("[a-k]_*.toml"))}
    )


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
    except Broken as broken:
        raise PlanError("task_broken", file=file, key=key, reason=broken.args[0]) from broken


def _task(family: str, key: str, came: Any) -> Task:
    if not _KEY.fullmatch(key):
        raise Broken("the key takes small letters, digits and _")
    if family not in FAMILY_WORDS:
        raise Broken(f"family {family!r} is none of A–K")
    entry = read_entry(came)
    return Task(
        key=key,
        family=family,
        name=entry.name,
        kind=entry.kind,
        voiced=entry.voiced,
        aims=entry.aims,
        purpose=entry.purpose,
        suits=entry.suits,
        sound=entry.sound,
        instruction=entry.instruction,
        clinician_note=entry.clinician_note,
        caution=entry.caution,
        settings=tuple(
            TaskSetting(name=name, **setting.model_dump()) for name, setting in entry.set.items()
        ),
        measured=entry.measured,
        counted=entry.counted,
        faults=tuple(TaskFault(**fault.model_dump()) for fault in entry.faults),
        grows=entry.grows,
        rungs=entry.named_rungs,
        substitutes=entry.substitutes,
        equipment=entry.equipment,
        skills=entry.skills,
        touches=entry.touches,
        rung_touches=entry.rung_touches,
        in_the_day=entry.in_the_day,
        leans_on=entry.leans_on,
    )


def _odd_substitute(task: Task, tasks: Mapping[str, Task]) -> str | None:
    for other in task.substitutes:
        if other not in tasks or other == task.key:
            return f"substitute {other!r} is no other task"
        if not set(task.aims) & set(tasks[other].aims):
            return f"substitute {other!r} has no aim in common"
    return None
