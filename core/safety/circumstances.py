"""What a client lives with that changes words, pages and times but forbids nothing: one table."""

import tomllib
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, time
from enum import StrEnum
from functools import cache
from pathlib import Path
from typing import Annotated, Any

from pydantic import Field

from core.catalogue.touches import Touch
from core.errors import PlanError
from core.plans.targets import Strict, checked
from core.reference.values import EVENT_NEAR, MUCH_TALKING, STEPS_TO_REMEMBER

_TABLE = Path(__file__).parent / "circumstances.toml"
_WANTED = {"asked", "clinician", "client"}
_OPTIONAL = {"touches", "page"}


class Circumstance(StrEnum):
    REFLUX = "reflux"
    ASTHMA = "asthma"
    INHALED_STEROID = "inhaled_steroid"
    DRYING_MEDICATION = "drying_medication"
    TIMED_MEDICATION = "timed_medication"
    HARD_OF_HEARING = "hard_of_hearing"
    LOW_VISION = "low_vision"
    SHAKY_HANDS = "shaky_hands"
    MEMORY = "memory"
    CAREGIVER = "caregiver"
    REMOTE_VISITS = "remote_visits"


class Page(StrEnum):
    """How the client's pages change."""

    LARGE = "large"
    ROOMY = "roomy"
    LOUD = "loud"


@dataclass(frozen=True, slots=True, kw_only=True)
class Bearing:
    """How one circumstance is asked, what it says to the clinician and the client, what changes."""

    asked: str
    clinician: str
    client: str
    touches: frozenset[Touch]
    page: Page | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Event(Strict):
    """Something the voice is needed for on a day."""

    on: date
    name: Annotated[str, Field(min_length=1, max_length=80)]


@dataclass(frozen=True, slots=True, kw_only=True)
class Living(Strict):
    """How the client lives: circumstances, hours of talking a day, events, times of medication."""

    circumstances: frozenset[Circumstance] = frozenset()
    talking_hours: Annotated[float, Field(ge=0, le=24)] | None = None
    events: tuple[Event, ...] = ()
    medication_times: tuple[time, ...] = ()

    def __post_init__(self) -> None:
        if self.talking_hours is not None:
            checked("hours of talking", self.talking_hours, 0, 24)


@cache
def bearings() -> dict[Circumstance, Bearing]:
    """Every circumstance; PlanError("rule_broken") where the table lacks one or has one too many."""
    table = tomllib.loads(_TABLE.read_text(encoding="utf-8"))
    if odd := sorted(set(table) ^ set(Circumstance)):
        raise PlanError("rule_broken", key=odd[0], reason="asked for but not told, or told unasked")
    return {Circumstance(key): _bearing(key, entry) for key, entry in table.items()}


def _bearing(key: str, entry: dict[str, Any]) -> Bearing:
    if not _WANTED <= set(entry) <= _WANTED | _OPTIONAL:
        raise PlanError("rule_broken", key=key, reason=f"it takes {sorted(_WANTED | _OPTIONAL)}")
    return Bearing(
        asked=entry["asked"],
        clinician=entry["clinician"],
        client=entry["client"],
        touches=frozenset(Touch(word) for word in entry.get("touches", ())),
        page=Page(entry["page"]) if "page" in entry else None,
    )


def lines_for_clinician(living: Living, *, today: date, steps: int) -> tuple[str, ...]:
    """What to bear in mind, in sentences. steps: of a home session."""
    found = [bearings()[one].clinician for one in sorted(living.circumstances)]
    if Circumstance.MEMORY in living.circumstances and steps > STEPS_TO_REMEMBER.number:
        found.append(f"{steps} steps are many for a weak memory.")
    if living.medication_times:
        times = ", ".join(f"{at:%H:%M}" for at in living.medication_times)
        found.append(f"Medication at {times}.")
    if living.talking_hours is not None and living.talking_hours >= MUCH_TALKING.number:
        found.append(
            f"Talks {living.talking_hours:g} hours a day: resets through the day, and voiced "
            "minutes of practice come on top of it."
        )
    for event in near_events(living.events, today):
        days = (event.on - today).days
        when = "today" if not days else f"in {days} days"
        found.append(f"{event.name} {when}: nothing climbs before it; a warm-up on the day.")
    return tuple(found)


def lines_for_client(
    living: Living, *, today: date, allowed: frozenset[Touch] | None = None
) -> tuple[str, ...]:
    """Lines for Today; `allowed`: what may be touched, None = everything."""
    found = []
    for one in sorted(living.circumstances):
        bearing = bearings()[one]
        if bearing.client and (allowed is None or bearing.touches <= allowed):
            found.append(bearing.client)
    found += [
        f"Today: {event.name}. Warm up softly and do not practise at full strength."
        for event in living.events
        if event.on == today
    ]
    return tuple(found)


def pages_for(circumstances: Iterable[Circumstance]) -> tuple[Page, ...]:
    """How the client's pages change."""
    return tuple(page for one in sorted(circumstances) if (page := bearings()[one].page))


def near_events(events: Sequence[Event], today: date) -> tuple[Event, ...]:
    """The events of the coming week, the nearest first."""
    near = [e for e in events if 0 <= (e.on - today).days <= EVENT_NEAR.number]
    return tuple(sorted(near, key=lambda event: event.on))
