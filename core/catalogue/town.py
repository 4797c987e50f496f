"""The made-up town that is described from a map: its places, the ways between them, the shore."""

import tomllib
from collections.abc import Mapping
from functools import cache
from pathlib import Path
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

_FILE = Path(__file__).parent / "town.toml"
WIDTH, HEIGHT = 640, 420
"""The sheet, in the units of its coordinates."""

Path2 = Annotated[str, Field(pattern=r"^[MLHVCZaczhlmvs0-9 .,-]+$", max_length=400)]
Point = tuple[Annotated[float, Field(ge=0, le=WIDTH)], Annotated[float, Field(ge=0, le=HEIGHT)]]


class _Read(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class MapPlace(_Read):
    """One place: what it is called, where it stands, its icon as an SVG path in 24 × 24."""

    name: Annotated[str, Field(min_length=1, max_length=30)]
    at: Point
    icon: Path2


class Way(_Read):
    through: Annotated[tuple[Point, ...], Field(min_length=2)]


class Town(_Read):
    """places by key; shore: an SVG path, what lies in it is water."""

    shore: Path2
    places: Mapping[str, MapPlace]
    ways: tuple[Way, ...]


@cache
def town() -> Town:
    """The town; pydantic's ValidationError for what does not hold."""
    return Town.model_validate(tomllib.loads(_FILE.read_text(encoding="utf-8")))
