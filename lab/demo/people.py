"""The made-up clients of Harrow Quay. Every name is invented."""

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from core.program.program import Chosen
from lab.simulate.history import SimulatedCourse


@dataclass(frozen=True, slots=True, kw_only=True)
class Person:
    """One demo client: seconds in s, notes by name, `weeks` of practice so far (0 = none).
    begins: rungs from which single tasks begin, shown in the visit (task → the code of the rung);
    heard: agreed to being heard; phrases: what they really say; note: on their Today."""

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
    course: SimulatedCourse
    weeks: int
    gain: float = 0.5
    keeps: float = 0.85
    strain: float = 2.0
    examined: bool = True
    height: float | None = None
    lungs: str = ""
    hers: bool = True
    heard: bool = False
    schools: tuple[Chosen, ...] = (Chosen(school="sustained"),)
    conditions: tuple[str, ...] = ()
    equipment: tuple[str, ...] = ("glass_of_water", "mirror", "book")
    cannot: tuple[str, ...] = ()
    begins: Mapping[str, str] = field(default_factory=dict)
    phrases: tuple[str, ...] = ()
    note: str = ""


def people() -> tuple[Person, ...]:
    """All of people.toml, in order."""
    table = tomllib.loads((Path(__file__).parent / "people.toml").read_text(encoding="utf-8"))
    return tuple(_person(entry) for entry in table["person"])


def _person(entry: dict[str, Any]) -> Person:
    lists = ("phonation", "probes", "conditions", "equipment", "cannot")
    tuples = {name: tuple(entry[name]) for name in lists if name in entry}
    own = (
        {"schools": tuple(_chosen(words) for words in entry["schools"])}
        if "schools" in entry
        else {}
    )
    return Person(**{**entry, **tuples, **own, "course": SimulatedCourse(entry["course"])})


def _chosen(words: str) -> Chosen:
    """A school with its options, written "sustained dose=five_days"."""
    key, *options = words.split()
    return Chosen(school=key, options=dict(option.split("=") for option in options))
