"""What is read, said or answered in a task: sorts of material, checked when they are read."""

import tomllib
from collections.abc import Mapping
from functools import cache
from pathlib import Path
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, StringConstraints, TypeAdapter

_FILE = Path(__file__).parent / "materials.toml"
USUAL_WORDS_A_SECOND = 2.4
"""Only to choose a text that fits the seconds; nobody is judged by it, and no source claims it."""

Line = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=300)]


class _Read(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class Turn(_Read):
    """What is said in one attempt, line by line. level: 1 easy to 3 hard."""

    name: Line
    level: Annotated[int, Field(ge=1, le=3)]
    lines: Annotated[tuple[Line, ...], Field(min_length=1, max_length=8)]

    @property
    def words(self) -> int:
        return sum(len(line.split()) for line in self.lines)


class Sort(_Read):
    """One sort of material and the keys of the tasks that show it."""

    tasks: Annotated[tuple[str, ...], Field(min_length=1)]
    turns: Annotated[tuple[Turn, ...], Field(min_length=1)]


@cache
def sorts() -> Mapping[str, Sort]:
    """Every sort by its name; pydantic's ValidationError for what does not hold."""
    table = tomllib.loads(_FILE.read_text(encoding="utf-8"))
    return TypeAdapter(dict[str, Sort]).validate_python(table)


def turns_of(task: str) -> tuple[Turn, ...]:
    """Everything that a task may show; empty where it has no words."""
    sort = _by_task().get(task)
    return sort.turns if sort else ()


@cache
def _by_task() -> Mapping[str, Sort]:
    return {task: sort for sort in sorts().values() for task in sort.tasks}


def turn_of(task: str, *, number: int, rung: float, seconds: float | None) -> Turn | None:
    """What is said at the number-th attempt (from 0) of a task; None where the task has no words.

    Turns follow each other from easy to harder as far as the rung goes (share of the way, 0–1); where a text
    has to fit the seconds of the attempt, those come first whose words fit best. seconds None: no matter.
    """
    sort = _by_task().get(task)
    if sort is None:
        return None
    hardest = 1 + round(2 * min(max(rung, 0.0), 1.0))
    able = [turn for turn in sort.turns if turn.level <= hardest]
    if seconds is not None and sort is sorts()["passage"]:
        wanted = seconds * USUAL_WORDS_A_SECOND
        able = sorted(sort.turns, key=lambda turn: abs(turn.words - wanted))[:4]
    return able[number % len(able)]
