"""Short tunes of our own, for tasks that go from scales to singing."""

import tomllib
from functools import cache
from pathlib import Path
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, StringConstraints, TypeAdapter

from core.notes.scale import DEGREES

_FILE = Path(__file__).parent / "tunes.toml"


class Tune(BaseModel):
    """degrees: of the major scale, 1–9, one a beat, none twice in a row."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60)]
    degrees: Annotated[
        tuple[Annotated[int, Field(ge=1, le=9)], ...], Field(min_length=5, max_length=20)
    ]

    @property
    def span(self) -> int:
        """Semitones from its key to its highest note."""
        return max(DEGREES[degree] for degree in self.degrees)


@cache
def tunes() -> tuple[Tune, ...]:
    """All, from the narrowest to the widest; pydantic's ValidationError for what does not hold."""
    table = tomllib.loads(_FILE.read_text(encoding="utf-8"))["tunes"]
    return tuple(sorted(TypeAdapter(list[Tune]).validate_python(table), key=lambda one: one.span))
