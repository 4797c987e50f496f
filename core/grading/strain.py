"""Throat strain: what is usual, when it rose, what follows. Only strain eases; effort alone does not.

The usual on a day is the median of the answers of the 14 days before it, with too few answers the
baseline's. A rise begins on a day with 2 over the usual and is one when a second such day follows within 14
days; its usual stays that of the days before it, however long it lasts, and it stands until the clinician
has answered it.
"""

from bisect import bisect_left, bisect_right
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from itertools import groupby
from operator import attrgetter
from statistics import median

from core.grading.rule import Common, rules
from core.reason import Reason, says

_UP = says("strain_up", "throat strain is up by {points:g} on two days: ease the step it came with")
_WAS_UP = says(
    "strain_was_up", "throat strain was up: wait for {sessions:g} home sessions at its usual"
)
_HIGH = says("strain_high", "throat strain is {strain:g} of 10: no voiced step climbs")
_NOTHING = says(
    "strain_nothing", "throat strain was {strain:g} of 10 at the baseline: nothing climbs"
)

RISEN_DAYS = 2
_ONCE_IS_ENOUGH = frozenset({"C", "E", None})
_LOUD = "E"
_DAY = attrgetter("day")


@dataclass(frozen=True, slots=True, kw_only=True)
class StrainSaid:
    """One answer after a step, 0–10: its day, the step and its family (A–K); where the family is
    not known, once is enough."""

    day: date
    value: float
    step_id: str
    family: str | None


@dataclass(frozen=True, slots=True, kw_only=True)
class StrainView:
    """What the answers say.

    usual: None where neither enough answers nor a baseline tell it. eased: ids of the steps that
    strain rose with; contact: call before anything else, from contact_from on; against: why no voiced
    step may climb; against_gentle: why no semi-occluded and no resonance step may.
    """

    usual: float | None
    eased: tuple[str, ...]
    contact: bool
    against: tuple[Reason, ...]
    against_gentle: tuple[Reason, ...] = ()
    contact_from: float = 5.0


@dataclass(frozen=True, slots=True)
class Rise:
    """A rise of strain: the days it was up, the steps it was up with, the usual of before."""

    days: frozenset[date]
    steps: frozenset[str]
    usual: float


def strain_view(
    said: Iterable[StrainSaid],
    *,
    today: date,
    baseline: float | None,
    answered_on: date | None = None,
    contacted_on: date | None = None,
    sessions_since: Sequence[float | None] = (),
    common: Common | None = None,
) -> StrainView:
    """The rules of strain, with the shipped numbers where none are given.

    baseline: strain at the latest baseline. answered_on: the day the clinician last answered; a rise
    of that day or before is answered, one rise eases once. contacted_on: the day a contact was last
    closed; what was said until then calls for none again. sessions_since: mean strain of the home sessions
    since the answer, oldest first, None = not answered.
    """
    numbers = common or rules().common
    every = sorted((one for one in said if one.day <= today), key=lambda one: one.day)
    found = rises(every, baseline, numbers)
    answered = [one for one in found if answered_on and max(one.days) <= answered_on]
    still = [one for one in found if one not in answered]
    recent = _within(every, today - timedelta(days=numbers.strain_days), today)
    enough = len(recent) >= numbers.strain_answers
    usual = median(one.value for one in recent) if enough else baseline
    if still:
        usual = still[0].usual
    against = list[Reason]()
    if still:
        against.append(_UP(points=numbers.strain_rise))
    elif (answered or contacted_on) and not _calm_since(
        sessions_since, answered[-1].usual if answered else usual, numbers
    ):
        against.append(_WAS_UP(sessions=numbers.strain_sessions_since))
    gentle = list(against)
    last_day = max((one.day for one in recent), default=None)
    latest = max((one.value for one in recent if one.day == last_day), default=None)
    if baseline is not None and baseline >= numbers.strain_nothing_from:
        against.append(_NOTHING(strain=baseline))
        gentle.append(_NOTHING(strain=baseline))
    elif latest is not None:
        if _too_high(latest, baseline, numbers):
            against.append(_HIGH(strain=latest))
        if _too_high_for_gentle(latest, baseline, numbers):
            gentle.append(_HIGH(strain=latest))
    since = [one for one in recent if contacted_on is None or one.day > contacted_on]
    limit = contact_from(baseline, numbers)
    return StrainView(
        usual=usual,
        eased=tuple(sorted({step for one in still for step in one.steps})),
        contact=_contact(since, limit, numbers),
        against=tuple(against),
        against_gentle=tuple(gentle),
        contact_from=limit,
    )


def usual_on(
    said: Sequence[StrainSaid], day: date, baseline: float | None, numbers: Common
) -> float | None:
    """The median of the answers of the 14 days before a day; with too few the baseline's. said: oldest first."""
    before = _within(said, day - timedelta(days=numbers.strain_days), day - timedelta(days=1))
    enough = len(before) >= numbers.strain_answers
    return median(one.value for one in before) if enough else baseline


def rises(said: Sequence[StrainSaid], baseline: float | None, numbers: Common) -> list[Rise]:
    """Every rise, oldest first; said: oldest first."""
    found: list[Rise] = []
    begun: dict[date, set[str]] = {}
    usual: float | None = None
    for day, of_day in groupby(said, key=_DAY):
        if begun and (day - min(begun)).days >= numbers.strain_days and len(begun) < RISEN_DAYS:
            begun, usual = {}, None
        before = usual if begun else usual_on(said, day, baseline, numbers)
        if before is None:
            continue
        up = {one.step_id for one in of_day if one.value - before >= numbers.strain_rise}
        if up:
            usual = before
            begun[day] = up
        elif len(begun) >= RISEN_DAYS and _over(said, day, max(begun), numbers):
            found.append(_rise(begun, usual))
            begun, usual = {}, None
    if len(begun) >= RISEN_DAYS:
        found.append(_rise(begun, usual))
    return found


def _over(said: Sequence[StrainSaid], day: date, last_up: date, numbers: Common) -> bool:
    """Whether a rise has ended by that day: enough answered days at the usual strain."""
    calm = {one.day for one in _within(said, last_up + timedelta(days=1), day)}
    return len(calm) >= numbers.strain_sessions_since


def _rise(begun: dict[date, set[str]], usual: float | None) -> Rise:
    return Rise(frozenset(begun), frozenset().union(*begun.values()), usual or 0.0)


def _within(said: Sequence[StrainSaid], first: date, last: date) -> Sequence[StrainSaid]:
    """The answers of some days; said: oldest first."""
    return said[bisect_left(said, first, key=_DAY) : bisect_right(said, last, key=_DAY)]


def _too_high(latest: float, baseline: float | None, numbers: Common) -> bool:
    """Strain of 4 and more, or over the larger of 2 and the baseline's + 1."""
    if latest >= numbers.strain_high:
        return True
    if baseline is None:
        return False
    return latest > max(numbers.strain_floor, baseline + numbers.strain_over_baseline)


def _too_high_for_gentle(latest: float, baseline: float | None, numbers: Common) -> bool:
    """With a baseline of 4 and more gentle work may go on while strain is at or under it."""
    if baseline is not None and baseline >= numbers.strain_high:
        return latest > baseline
    return _too_high(latest, baseline, numbers)


def contact_from(baseline: float | None, numbers: Common) -> float:
    """The strain at which the client is called: with a high baseline two over it, at most 9."""
    if baseline is None or baseline < numbers.strain_high:
        return numbers.strain_contact
    return min(baseline + numbers.strain_contact_over, numbers.strain_contact_most)


def _calm_since(sessions: Sequence[float | None], usual: float | None, numbers: Common) -> bool:
    looked = list(sessions)[-int(numbers.strain_sessions_since) :]
    if usual is None or len(looked) < numbers.strain_sessions_since:
        return False
    return all(value is not None and value <= usual for value in looked)


def _contact(recent: Sequence[StrainSaid], limit: float, numbers: Common) -> bool:
    """Strong voice keeps its own limit whatever the baseline is."""
    high = [
        one
        for one in recent
        if one.value >= (numbers.strain_contact if one.family == _LOUD else limit)
    ]
    if any(one.family in _ONCE_IS_ENOUGH for one in high):
        return True
    return len({one.day for one in high}) >= RISEN_DAYS
