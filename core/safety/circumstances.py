"""What a client lives with that changes words, pages and times but forbids nothing: one table."""

import tomllib
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, time
from enum import StrEnum
from functools import cache
from pathlib import Path
from typing import Annotated, Any

from pydantic import Field, TypeAdapter, ValidationError

from core.catalogue.touches import Touch
from core.errors import PlanError
from core.program.targets import Strict
from core.reason import Reason, says, table_reason, told_as
from core.reference.limits import Limit
from core.reference.values import EVENT_NEAR, MUCH_TALKING, STEPS_TO_REMEMBER

_MANY_STEPS = says("many_steps", "{steps} voiced steps a session are many for a weak memory.")
_MEDICATION = says("medication_at", "Medication at {times:clock}.")
_TALKS_MUCH = says(
    "talks_much",
    "Talks {hours:g} hours a day: consider resets through the day; voiced minutes of practice come on "
    "top of it.",
)
_AMPLIFIER = says(
    "consider_amplifier",
    "Talks {hours:g} hours a day and wants to be heard: advise on a voice amplifier.",
)
_EVENT_IN = says("event_in", "{event} in {days} days: no advances before it.")
ON_THE_DAY = says(
    "on_the_day", "Today: {event}. Warm up softly and do not practice at full strength."
)
_EVENT_TODAY = says("event_today", "{event} is today: no advances until it is over.")
_EVENT_CALLED_OFF = says(
    "event_called_off",
    "{event}: its warm-up and cool-down are called off while the laryngitis lasts.",
)

_TABLE = Path(__file__).parent / "circumstances.toml"


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
class Bearing(Strict):
    """How one circumstance is asked, what it says to the clinician and the client, what changes."""

    asked: Annotated[str, Field(min_length=1)]
    clinician: Annotated[str, Field(min_length=1)]
    client: str
    touches: frozenset[Touch] = frozenset()
    page: Page | None = None


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
            Limit(0, 24, "h").check("hours of talking", self.talking_hours)


@cache
def bearings() -> dict[Circumstance, Bearing]:
    """Every circumstance; PlanError("rule_broken") where the table lacks one or has one too many."""
    table = tomllib.loads(_TABLE.read_text(encoding="utf-8"))
    if odd := sorted(set(table) ^ set(Circumstance)):
        raise PlanError("rule_broken", key=odd[0], reason="asked for but not told, or told unasked")
    return {Circumstance(key): bearing_of(key, entry) for key, entry in table.items()}


@cache
def asked_words() -> Mapping[Circumstance, Reason]:
    """How the screening asks for each circumstance."""
    return told_as("asked", {key: told.asked for key, told in bearings().items()})


@cache
def clinicians_lines() -> Mapping[Circumstance, Reason]:
    """What each circumstance says to the clinician."""
    return told_as("bears", {key: told.clinician for key, told in bearings().items()})


def bearing_of(key: str, entry: Any) -> Bearing:
    """One entry of the table; PlanError("rule_broken") with key and reason."""
    try:
        return TypeAdapter(Bearing).validate_python(entry)
    except ValidationError as error:
        raise PlanError("rule_broken", key=key, reason=str(error)) from error


_TONE_UNHEARD = says(
    "tone_unheard",
    "The client does not hear the reference tone: the practice page shows each note and vibrates instead.",
)


def lines_for_clinician(
    living: Living,
    *,
    today: date,
    steps: int,
    ill: bool = False,
    louder: bool = False,
    tone_unheard: bool = False,
) -> tuple[Reason, ...]:
    """What to bear in mind. steps: voiced ones of a home session; ill: acute laryngitis; louder: the
    client wants to be heard better; tone_unheard: the reference tone was tried and not heard."""
    found = [_TONE_UNHEARD()] if tone_unheard else []
    found += [clinicians_lines()[one] for one in sorted(living.circumstances)]
    if Circumstance.MEMORY in living.circumstances and steps > STEPS_TO_REMEMBER.number:
        found.append(_MANY_STEPS(steps=steps))
    if living.medication_times:
        times = tuple(at.isoformat("minutes") for at in living.medication_times)
        found.append(_MEDICATION(times=times))
    if living.talking_hours is not None and living.talking_hours >= MUCH_TALKING.number:
        found.append(_TALKS_MUCH(hours=living.talking_hours))
        if louder:
            found.append(_AMPLIFIER(hours=living.talking_hours))
    for event in near_events(living.events, today):
        if ill:
            found.append(_EVENT_CALLED_OFF(event=event.name))
        days = (event.on - today).days
        found.append(
            _EVENT_IN(event=event.name, days=days) if days else _EVENT_TODAY(event=event.name)
        )
    return tuple(found)


def lines_for_client(
    living: Living, *, today: date, allowed: frozenset[Touch] | None = None
) -> tuple[Reason, ...]:
    """Lines for Today; `allowed`: what may be touched, None = everything."""
    found = []
    for one in sorted(living.circumstances):
        bearing = bearings()[one]
        if bearing.client and (allowed is None or bearing.touches <= allowed):
            found.append(table_reason(one.value, bearing.client))
    found += [ON_THE_DAY(event=event.name) for event in living.events if event.on == today]
    return tuple(found)


def pages_for(circumstances: Iterable[Circumstance]) -> tuple[Page, ...]:
    """How the client's pages change."""
    return tuple(page for one in sorted(circumstances) if (page := bearings()[one].page))


def near_events(events: Sequence[Event], today: date) -> tuple[Event, ...]:
    """The events of the coming week, the nearest first."""
    near = [e for e in events if 0 <= (e.on - today).days <= EVENT_NEAR.number]
    return tuple(sorted(near, key=lambda event: event.on))
