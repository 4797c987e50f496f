"""One number of a detector, with its unit, the failure it prevents and a sound that shows it."""

from collections.abc import Iterator
from dataclasses import dataclass, field, fields
from typing import Any, TypeVar

Value = TypeVar("Value", bound=float | tuple[float, ...])

FRAMES = "frames of 10 ms"
STEPS = "steps of 2.5 ms"
AT_START = "read at start"
"""In place of a sound: the setting is read once, when its module loads."""


@dataclass(frozen=True, slots=True)
class Setting:
    """A setting of a detector as the docs list it.

    prevents: what goes wrong without it; shown_by: name of a seeded sound whose figures change when the value
    is halved or doubled, AT_START, or "" if none is known.
    """

    name: str
    value: float | tuple[float, ...]
    unit: str
    prevents: str
    shown_by: str


def setting(value: Value, unit: str, prevents: str, shown_by: str = "") -> Value:
    """Declare a field of a frozen settings class, with its unit and reason."""
    why = {"unit": unit, "prevents": prevents, "shown_by": shown_by}
    kept: Value = field(default=value, metadata=why)
    return kept


def settings_in(detector: Any) -> Iterator[Setting]:
    """The settings of a detector, in the order of its class."""
    for one in fields(detector):
        yield Setting(one.name, getattr(detector, one.name), **one.metadata)
