"""What a proposal is asked for: the client, the schools, the limits, the calendar."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import date, time
from enum import StrEnum

from core.catalogue.words import Aim, Equipment, Skill
from core.fitting.known import KnownBaseline, Limits, TrialOutcome
from core.program.dosing import Away
from core.program.program import Chosen
from core.program.targets import Strict
from core.proposing.aims import Want
from core.reference.values import CONCERT_A4
from core.safety.circumstances import Living
from core.safety.condition import Condition
from core.safety.conditions import from_the_record, known_conditions
from core.safety.screening import Screening


class PitchDirection(StrEnum):
    """Where a speaking pitch should go: higher, lower, or the comfortable one is looked for."""

    UP = "up"
    DOWN = "down"
    COMFORTABLE = "comfortable"


@dataclass(frozen=True, slots=True, kw_only=True)
class Wishes(Strict):
    """When practice can be. free_weekdays: ISO numbers, 1 = Monday; None = any day. times: local.

    visit_weekdays: days of a visit in the clinic. zone: the client's IANA time zone.
    """

    zone: str = "UTC"
    starts_on: date | None = None
    free_weekdays: tuple[int, ...] | None = None
    visit_weekdays: tuple[int, ...] = ()
    times: tuple[time, ...] = ()
    quiet_from: time = time(21, 0)
    quiet_to: time = time(7, 0)
    work_from: time | None = None
    work_to: time | None = None
    away: tuple[Away, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanRequest(Strict):
    """A client and what is wanted. Times are s, lengths cm, notes by name, days ISO dates.

    living: what the client lives with; it changes words and times and forbids nothing.
    schools: what is combined, of equal tasks the first school's; none = chosen from `wants` (what
    the client comes for; direction: where the speaking pitch should go, None = not asked), `aims` (purposes
    of tasks) and the tasks that made the voice better when
    tried. cannot: what the client is not able to do. hidden: tasks the clinic does not use. refresher: an
    intensive program was practiced before, and the client has been re-measured after it.
    """

    today: date
    baseline: KnownBaseline
    screening: Screening | None = None
    living: Living = field(default_factory=Living)
    schools: tuple[Chosen, ...] = ()
    wants: tuple[Want, ...] = ()
    aims: tuple[Aim, ...] = ()
    direction: PitchDirection | None = None
    tried: Mapping[str, TrialOutcome] = field(default_factory=dict)
    cannot: frozenset[Skill] = frozenset()
    equipment: frozenset[Equipment] = frozenset()
    hidden: frozenset[str] = frozenset()
    refresher: bool = False
    limits: Limits = field(default_factory=Limits)
    wishes: Wishes = field(default_factory=Wishes)
    a4_hz: float = CONCERT_A4.number


def screening_of(request: PlanRequest) -> Screening | None:
    """The screening of the client, who is a minor by the age of the baseline."""
    if request.screening is None:
        return None
    return replace(
        request.screening,
        minor=request.baseline.minor,
        age_years=request.baseline.age_years,
        throat_strain=request.baseline.throat_strain,
    )


def conditions_of(request: PlanRequest) -> frozenset[Condition]:
    """What is known to stand in the way today."""
    screening = screening_of(request)
    if screening is not None:
        return known_conditions(screening, request.today)
    return from_the_record(request.baseline.age_years, request.baseline.throat_strain)
