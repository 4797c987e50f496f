"""One number of a detector, with its unit, the failure it prevents and a sound that shows it."""

from collections.abc import Iterator
from dataclasses import dataclass, field, fields
from typing import Any, TypeVar

Value = TypeVar("Value", bound=float | tuple[float, ...])

FRAMES = "frames of 10 ms"
STEPS = "steps of 2.5 ms"


@dataclass(frozen=True, slots=True)
class Setting:
    """unit: of the value; prevents: what goes wrong without it; shown_by: name of a seeded sound whose
    figures change when the value is halved or doubled, "" where none of them tells."""

    name: str
    value: float | tuple[float, ...]
    unit: str
    prevents: str
    shown_by: str


def setting(value: Value, unit: str, prevents: str, shown_by: str = "") -> Value:
    """A field of a frozen settings class, which keeps why the value is there."""
    why = {"unit": unit, "prevents": prevents, "shown_by": shown_by}
    kept: Value = field(default=value, metadata=why)
    return kept


def settings_in(detector: Any) -> Iterator[Setting]:
    """Those of a settings object, in the order they are written in."""
    for one in fields(detector):
        yield Setting(one.name, getattr(detector, one.name), **one.metadata)
