"""Every kind of measured task by its name; the only way to one."""

import importlib
import pkgutil
from collections.abc import Mapping
from functools import cache
from typing import Any

from core.errors import SoundError
from core.kinds.aim import AttemptTarget
from core.kinds.finding import Finding
from core.kinds.kind import Kind
from core.kinds.settings import SHARED
from core.sound.figures import Figures
from core.sound.settings.detectors import DETECTORS
from core.sound.task_figures import TaskFigures


def load(package: str) -> dict[str, Kind]:
    """Every kind by its name: the `kind` module of the folder of that name holds its KIND.

    SoundError("kind_broken", folder, reason) where one has no such module, lacks a part or has another name.
    """
    found: dict[str, Kind] = {}
    for folder in pkgutil.iter_modules(importlib.import_module(package).__path__):
        if not folder.ispkg:
            continue
        try:
            kind = importlib.import_module(f"{package}.{folder.name}.kind").KIND
        except (ImportError, AttributeError, TypeError) as error:
            raise SoundError("kind_broken", folder=folder.name, reason=str(error)) from error
        if kind.name != folder.name:
            raise SoundError("kind_broken", folder=folder.name, reason=f"its kind is {kind.name}")
        found[kind.name] = kind
    return found


@cache
def kinds() -> Mapping[str, Kind]:
    """All kinds by name; SoundError("kind_broken") where a folder holds none. Other layers keep their part of
    a kind in a module of the same name."""
    return load("core.kinds")


def detectors() -> Mapping[str, Any]:
    """The settings of every detector by its module below `core`: those of the sound, those that kinds share, then
    each kind's own."""
    found = {f"sound/{module}": settings for module, settings in DETECTORS.items()}
    found |= {f"kinds/{module}": settings for module, settings in SHARED.items()}
    for kind in kinds().values():
        found |= {
            f"kinds/{kind.name}/{module}": settings for module, settings in kind.settings.items()
        }
    return found


def kind_of(task: str) -> Kind:
    """The kind of that name; SoundError("task_unknown")."""
    if task not in kinds():
        raise SoundError("task_unknown", task=task, known=sorted(kinds()))
    return kinds()[task]


def measured_task(name: str) -> str:
    """The name of a measured task; SoundError("task_unknown") for any other."""
    return kind_of(name).name


def target_of(task: str, text: str | None) -> AttemptTarget | None:
    """The target of a task from its text; None for no text and for tasks without one.

    "B♭3" to hold, "C4 D4 E4" as pattern, "-30 dB + 4 dB, 120 words" or "reference -30 dB" for
    speech, "in 2.4 out 4.8" for breath.
    Raises SoundError("target_unreadable") and the errors of notes and targets.
    """
    return kind_of(task).read_aim(text) if text else None


def findings(figures: Figures) -> list[Finding]:
    """What the figures of an attempt say, in order of weight; nothing of one without its sound."""
    return kind_of(figures.task).findings(figures) if figures.hold_s else []


def read_task_figures(data: dict[str, Any] | None) -> TaskFigures | None:
    """What `as_data` of a kind's own figures gave, read back; None for nothing."""
    for kind in kinds().values():
        if data and kind.own is not None and kind.own.key in data:
            return kind.own.read(data)
    return None


def read_figures(data: dict[str, Any], *, room_db: float | None = None) -> Figures:
    """What `Figures.as_data` gave, read back with the figures of its kind; the room (dBFS) is not
    in it."""
    return Figures.read(data, own=read_task_figures(data), room_db=room_db)
