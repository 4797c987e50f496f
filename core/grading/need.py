"""What a client needs next: one need a client, the order of Rounds."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import IntEnum

from core.grading.act import Act, Proposal
from core.reference.values import LAPSED_AFTER, OVER_KEEN


class Need(IntEnum):
    """Most urgent first; the number is the order in Rounds."""

    STOP_SIGN = 0
    SET_ASIDE = 1
    CALL = 2
    EXAMINATION = 3
    LAPSED = 4
    TASK_DUE = 5
    LOWER = 6
    REVIEW = 7
    READY_TO_CLIMB = 8
    OVER_KEEN = 9
    BASELINE = 10
    PROGRAM = 11
    ON_COURSE = 12

    @property
    def waits(self) -> bool:
        """Whether it may be put off to a later day."""
        return self not in (Need.STOP_SIGN, Need.SET_ASIDE, Need.CALL)


_OF_ACT: Mapping[Act, Need] = {
    Act.EMERGENCY: Need.CALL,
    Act.CONTACT: Need.CALL,
    Act.EXAMINE: Need.EXAMINATION,
    Act.PROBE: Need.LOWER,
    Act.RUNG_DOWN: Need.LOWER,
    Act.EASE: Need.LOWER,
    Act.STAGE_BACK: Need.LOWER,
    Act.REVIEW: Need.REVIEW,
    Act.REMEASURE: Need.REVIEW,
    Act.SWAP: Need.REVIEW,
    Act.TEACH: Need.REVIEW,
    Act.TAPER: Need.READY_TO_CLIMB,
    Act.DISCHARGE: Need.READY_TO_CLIMB,
    Act.CLIMB: Need.READY_TO_CLIMB,
}
"""The need a proposal makes; to stay makes none."""


@dataclass(frozen=True, slots=True, kw_only=True)
class ClientFacts:
    """What Rounds knows of a client on a day; dates are local dates of the client. task_due: when the
    earliest task that is not done is due."""

    stop_sign_open: bool = False
    set_aside: int = 0
    gate_closed: bool = False
    has_baseline: bool = False
    active_since: date | None = None
    last_session: date | None = None
    kept_14_days: int = 0
    prescribed_14_days: int = 0
    added_14_days: int = 0
    task_due: date | None = None


@dataclass(frozen=True, slots=True)
class Needed:
    """A need, and the proposal that makes it where one does."""

    need: Need
    proposal: Proposal | None = None


@dataclass(frozen=True, slots=True)
class Coming:
    """What is needed from a day on, until the next begins."""

    since: date
    needed: Needed


def need_of(facts: ClientFacts, proposals: Sequence[Proposal], today: date) -> Needed:
    """The first need that applies, in the order of `Need`; proposals: those still to be decided."""
    return min(_needs(facts, proposals, today), key=lambda one: one.need)


def _needs(facts: ClientFacts, proposals: Sequence[Proposal], today: date) -> list[Needed]:
    found = [Needed(Need.ON_COURSE)]
    if facts.stop_sign_open:
        found.append(Needed(Need.STOP_SIGN))
    if facts.set_aside:
        found.append(Needed(Need.SET_ASIDE))
    if facts.gate_closed:
        found.append(Needed(Need.EXAMINATION))
    if facts.task_due is not None and facts.task_due <= today:
        found.append(Needed(Need.TASK_DUE))
    if facts.active_since is None:
        found.append(Needed(Need.PROGRAM if facts.has_baseline else Need.BASELINE))
        return found
    last = facts.last_session or facts.active_since - timedelta(days=1)
    if (today - last).days - 1 >= LAPSED_AFTER.number:  # whole days without a session between
        found.append(Needed(Need.LAPSED))
    done = facts.kept_14_days + facts.added_14_days
    if facts.prescribed_14_days and done >= OVER_KEEN.number * facts.prescribed_14_days:
        found.append(Needed(Need.OVER_KEEN))
    found += [Needed(_OF_ACT[one.act], one) for one in proposals if one.act in _OF_ACT]
    return found


def coming(needed_on: Callable[[date], Needed], today: date, *, days: int) -> list[Coming]:
    """What is needed on each of the coming days if nothing happens. Consecutive days with the same need are merged;
    the last need continues."""
    found: list[Coming] = []
    for ahead in range(days):
        day = today + timedelta(days=ahead)
        needed = needed_on(day)
        if not found or found[-1].needed != needed:
            found.append(Coming(day, needed))
    return found
