"""The made-up clients of Harrow Quay. Every name is invented."""

import tomllib
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from core.simulate.history import Course


@dataclass(frozen=True, slots=True, kw_only=True)
class Person:
    """One demo client: seconds in s, notes by name, `weeks` of practice so far (0 = none)."""

    name: str
    age: int
    group: str
    occupation: str
    referral: str
    low: str
    high: str
    transition: str = ""
    speaking: str = ""
    phonation: tuple[float, ...]
    s: float
    z: float
    probes: tuple[float, float, float]
    course: Course
    weeks: int
    gain: float = 0.5
    keeps: float = 0.85
    strain: float = 2.0
    examined: bool = True
    height: float | None = None
    lungs: str = ""
    hers: bool = True


def people() -> tuple[Person, ...]:
    """All of people.toml, in order."""
    table = tomllib.loads((Path(__file__).parent / "people.toml").read_text(encoding="utf-8"))
    return tuple(_person(entry) for entry in table["person"])


def _person(entry: dict[str, Any]) -> Person:
    tuples = {name: tuple(entry[name]) for name in ("phonation", "probes")}
    return Person(**{**entry, **tuples, "course": Course(entry["course"])})
