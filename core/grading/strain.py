"""Throat strain: what is usual, when it rose, what follows. Only strain eases; effort alone does not."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from statistics import median

from core.grading.rule import Common, rules
from core.reason import Reason, says

_UP = says("strain_up", "throat strain is up by {points:g} on two days: ease the step it came with")
_WAS_UP = says(
    "strain_was_up", "throat strain was up: wait for {sessions:g} home sessions at its usual"
)
_HIGH = says("strain_high", "throat strain is {strain:g} of 10: no voiced step climbs")

RISEN_DAYS = 2
_ONCE_IS_ENOUGH = frozenset({"C", "E", None})


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
    """What the answers of the last 14 days say.

    usual: None where neither enough answers nor a baseline tell it. eased: ids of the steps that
    strain rose with; contact: call before anything else; against: why nothing voiced may climb.
    """

    usual: float | None
    eased: tuple[str, ...]
    contact: bool
    against: tuple[Reason, ...]


def strain_view(
    said: Iterable[StrainSaid],
    *,
    today: date,
    baseline: float | None,
    answered_on: date | None = None,
    sessions_since: Sequence[float | None] = (),
    common: Common | None = None,
) -> StrainView:
    """The rules of strain over the last 14 days, with the shipped numbers where none are given.

    baseline: strain at the latest baseline. answered_on: the day the clinician last changed the
    program; a rise of that day or before is answered, one rise eases once. sessions_since: mean
    strain of the home sessions since then, oldest first, None = not answered.
    """
    numbers = common or rules().common
    first = today - timedelta(days=numbers.strain_days)
    recent = [one for one in said if first <= one.day <= today]
    enough = len(recent) >= numbers.strain_answers
    usual = median(one.value for one in recent) if enough else baseline
    risen = _risen(recent, usual, numbers)
    open_rises = {
        s: days for s, days in risen.items() if not answered_on or max(days) > answered_on
    }
    against = list[Reason]()
    if open_rises:
        against.append(_UP(points=numbers.strain_rise))
    elif risen and not _calm_since(sessions_since, usual, numbers):
        against.append(_WAS_UP(sessions=numbers.strain_sessions_since))
    last_day = max((one.day for one in recent), default=None)
    latest = max((one.value for one in recent if one.day == last_day), default=None)
    if latest is not None and _too_high(latest, baseline, numbers):
        against.append(_HIGH(strain=latest))
    return StrainView(
        usual=usual,
        eased=tuple(sorted(open_rises)),
        contact=_contact(recent, numbers),
        against=tuple(against),
    )


def _risen(
    recent: Sequence[StrainSaid], usual: float | None, numbers: Common
) -> dict[str, set[date]]:
    """The steps with strain 2 over the usual, and the days, where it was so on two days."""
    if usual is None:
        return {}
    days: dict[str, set[date]] = {}
    for one in recent:
        if one.value - usual >= numbers.strain_rise:
            days.setdefault(one.step_id, set()).add(one.day)
    every_day = set[date]().union(*days.values())
    return days if len(every_day) >= RISEN_DAYS else {}


def _too_high(latest: float, baseline: float | None, numbers: Common) -> bool:
    over = baseline is not None and latest > baseline + numbers.strain_over_baseline
    return latest >= numbers.strain_high or over


def _calm_since(sessions: Sequence[float | None], usual: float | None, numbers: Common) -> bool:
    looked = list(sessions)[-int(numbers.strain_sessions_since) :]
    if usual is None or len(looked) < numbers.strain_sessions_since:
        return False
    return all(value is not None and value <= usual for value in looked)


def _contact(recent: Sequence[StrainSaid], numbers: Common) -> bool:
    high = [one for one in recent if one.value >= numbers.strain_contact]
    if any(one.family in _ONCE_IS_ENOUGH for one in high):
        return True
    return len({one.day for one in high}) >= RISEN_DAYS
