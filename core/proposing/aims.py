"""What a client wants, and the schools that lead there: by data, ranked by what the baseline shows."""

import tomllib
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from pathlib import Path

from pydantic import TypeAdapter, ValidationError

from core.errors import PlanError
from core.fitting.known import KnownBaseline, Limits, flags_shown
from core.fitting.schools import schools
from core.program.targets import Strict
from core.reason import Reason, told_as
from core.reference.values import NARROW_RANGE, STRAIN_TO_THINK_ABOUT
from core.safety.condition import IN_SPASM, Condition

_TABLE = Path(__file__).parent / "aims.toml"
_FIRST = 3
_SHOWN = 2


class Want(StrEnum):
    """What a client comes for."""

    CARRIES = "carries"
    LASTS = "lasts"
    LESS_EFFORT = "less_effort"
    LOUDER = "louder"
    STEADIER = "steadier"
    RANGE = "range"
    SPEAKING_RANGE = "speaking_range"
    PITCH = "pitch"
    IDENTITY = "identity"
    CLEARER = "clearer"
    BEFORE_EVENT = "before_event"
    EVERYDAY = "everyday"
    BREATH = "breath"


class BaselineSign(StrEnum):
    """What of a baseline speaks for schools."""

    SHORT_PHONATION = "short_phonation"
    HIGH_SZ = "high_sz"
    NARROW_RANGE = "narrow_range"
    STRAIN = "strain"


@dataclass(frozen=True, slots=True, kw_only=True)
class Leads(Strict):
    """Words, and the schools it leads to, the most direct first; slowed: those with slowed movement,
    () = the same."""

    words: str
    schools: tuple[str, ...]
    slowed: tuple[str, ...] = ()

    def for_client(self, conditions: frozenset[Condition]) -> tuple[str, ...]:
        """The schools it leads this client to."""
        slow = Condition.SLOWED_MOVEMENT in conditions
        return self.slowed if slow and self.slowed else self.schools


@dataclass(frozen=True, slots=True, kw_only=True)
class Table(Strict):
    """The whole table of aims.toml."""

    wants: Mapping[Want, Leads]
    shows: Mapping[BaselineSign, Leads]


@cache
def table() -> Table:
    """The shipped table; PlanError("aims_broken") with the reason."""
    return table_in(_TABLE.read_text(encoding="utf-8"))


@cache
def want_words() -> Mapping[Want, Reason]:
    """What each want is called where it is chosen."""
    return told_as("want", {want: leads.words for want, leads in table().wants.items()})


@cache
def wanted() -> Mapping[Want, Reason]:
    """The wants within a sentence."""
    words = {want: leads.words for want, leads in table().wants.items()}
    return told_as("wants", {want: text[0].lower() + text[1:] for want, text in words.items()})


@cache
def shown_words() -> Mapping[BaselineSign, Reason]:
    """What each sign of a baseline is called within a sentence."""
    return told_as("shows", {sign: leads.words for sign, leads in table().shows.items()})


def table_in(text: str) -> Table:
    """The table of a TOML text; PlanError("aims_broken") where a want is missing, a school unknown
    or something does not belong there."""
    try:
        found = TypeAdapter(Table).validate_python(tomllib.loads(text))
    except (tomllib.TOMLDecodeError, ValidationError) as error:
        raise PlanError("aims_broken", reason=str(error)) from error
    missing = [
        str(one) for one in (*set(Want) - set(found.wants), *set(BaselineSign) - set(found.shows))
    ]
    named = [
        key
        for leads in (*found.wants.values(), *found.shows.values())
        for key in (*leads.schools, *leads.slowed)
    ]
    odd = sorted({*missing, *(set(named) - set(schools()))})
    if odd:
        raise PlanError("aims_broken", reason=f"missing or unknown: {', '.join(odd)}")
    return found


def shown_by(
    baseline: KnownBaseline, limits: Limits, conditions: frozenset[Condition] = frozenset()
) -> list[BaselineSign]:
    """What the baseline shows, with the thresholds of client and clinic; with dystonia or tremor the
    s/z ratio shows nothing."""
    flags = flags_shown(baseline, limits, in_spasm=bool(conditions & IN_SPASM))
    codes = {flag.code for flag in flags}
    comfort, strain = baseline.comfort, baseline.throat_strain
    holds = {
        BaselineSign.SHORT_PHONATION: "short_phonation" in codes,
        BaselineSign.HIGH_SZ: "sz_ratio" in codes,
        BaselineSign.NARROW_RANGE: comfort is not None and comfort.semitones < NARROW_RANGE.number,
        BaselineSign.STRAIN: strain is not None and strain >= STRAIN_TO_THINK_ABOUT.number,
    }
    return [one for one, is_so in holds.items() if is_so]


@dataclass(frozen=True, slots=True)
class SchoolPoints:
    """A school that something speaks for: points, whether a want leads there first of all, and what
    speaks."""

    school: str
    points: int
    first: bool
    because: tuple[Reason, ...]


def spoken_for(
    wants: Iterable[Want],
    shown: Iterable[BaselineSign],
    conditions: frozenset[Condition] = frozenset(),
) -> dict[str, SchoolPoints]:
    """The schools the wants lead to: 3 points for the first of a want, one fewer for each next; 2
    more for each thing shown that speaks for a school that is wanted. What is shown alone brings no
    school."""
    points: dict[str, int] = {}
    first: set[str] = set()
    because: dict[str, list[Reason]] = {}
    for want in wants:
        leads = table().wants[want]
        keys = leads.for_client(conditions)
        first.add(keys[0])
        for place, key in enumerate(keys):
            points[key] = points.get(key, 0) + max(_FIRST - place, 1)
            because.setdefault(key, []).append(wanted()[want])
    for one in shown:
        leads = table().shows[one]
        for key in set(leads.schools) & set(points):
            points[key] += _SHOWN
            because[key].append(shown_words()[one])
    return {
        key: SchoolPoints(key, points[key], key in first, tuple(because[key])) for key in points
    }
