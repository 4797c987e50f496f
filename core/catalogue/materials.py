"""What is read, said or answered in a task: sorts of material, checked when they are read."""

import tomllib
from collections.abc import Mapping, Sequence
from functools import cache
from pathlib import Path
from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, StringConstraints, TypeAdapter

from core.catalogue.town import town

_FILE = Path(__file__).parent / "materials.toml"
USUAL_WORDS_A_SECOND = 2.4
"""Only to choose a text that fits the seconds; nobody is judged by it, and no source claims it."""

Line = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=300)]


def _place(key: str) -> str:
    if key not in town().places:
        raise ValueError(f"{key!r} is no place of the town")
    return key


class _Read(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class Turn(_Read):
    """What is said in one attempt, line by line. level: 1 easy to 3 hard; way: from where to where on the map
    of the town, where one is shown."""

    name: Line
    level: Annotated[int, Field(ge=1, le=3)]
    lines: Annotated[tuple[Line, ...], Field(min_length=1, max_length=8)]
    way: (
        tuple[Annotated[str, AfterValidator(_place)], Annotated[str, AfterValidator(_place)]] | None
    ) = None

    @property
    def words(self) -> int:
        return sum(len(line.split()) for line in self.lines)


class MaterialType(_Read):
    """One sort of material and the keys of the tasks that show it.

    once: said from beginning to end, so that the number of its words is known and a text is chosen that fits
    the seconds; else its lines go round until the time is over. own: phrases of the client's own come first.
    """

    title: Line
    tasks: tuple[str, ...]
    once: bool = False
    own: bool = False
    turns: Annotated[tuple[Turn, ...], Field(min_length=1)]


OWN_IN_A_TURN = 5
"""So many of the client's own phrases are one turn."""


@cache
def sorts() -> Mapping[str, MaterialType]:
    """Every sort by its name; pydantic's ValidationError for what does not hold."""
    table = tomllib.loads(_FILE.read_text(encoding="utf-8"))
    return TypeAdapter(dict[str, MaterialType]).validate_python(table)


def sort_named(task: str, material: str = "") -> tuple[str, MaterialType | None]:
    """Name and sort of what a task shows: the named one, else the one that belongs to it; ("", None) where
    it has no words."""
    key = material or _by_task().get(task, "")
    return key, sorts().get(key)


def sort_of(task: str) -> MaterialType | None:
    """The sort that belongs to a task."""
    return sort_named(task)[1]


@cache
def _by_task() -> Mapping[str, str]:
    return {task: key for key, sort in sorts().items() for task in sort.tasks}


def turn_of(
    sort: MaterialType, *, number: int, rung: float, seconds: float | None, own: Sequence[str] = ()
) -> Turn:
    """What is said at the number-th attempt (from 0).

    Turns follow each other from easy to harder as far as the rung goes (share of the way, 0–1); where a text
    has to fit the seconds of the attempt, those come first whose words fit best. seconds None: no matter.
    own: the client's own phrases, where the sort takes them.
    """
    if sort.own and own:
        turns = [own[at : at + OWN_IN_A_TURN] for at in range(0, len(own), OWN_IN_A_TURN)]
        return Turn(name="own", level=1, lines=tuple(turns[number % len(turns)]))
    hardest = 1 + round(2 * min(max(rung, 0.0), 1.0))
    able = [turn for turn in sort.turns if turn.level <= hardest]
    if seconds is not None and sort.once:
        wanted = seconds * USUAL_WORDS_A_SECOND
        able = sorted(sort.turns, key=lambda turn: abs(turn.words - wanted))[:4]
    return able[number % len(able)]
