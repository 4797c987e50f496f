"""What a client needs next: one reason a client, the order of Rounds."""

from dataclasses import dataclass
from datetime import date
from enum import IntEnum

from core.reference.values import LAPSED_AFTER, OVER_KEEN, PLATEAU_AFTER


class Need(IntEnum):
    """Most urgent first; the number is the order in Rounds."""

    STOP_SIGN = 0
    SET_ASIDE = 1
    EXAMINATION = 2
    LAPSED = 3
    READY_TO_CLIMB = 4
    OVER_KEEN = 5
    PLATEAU = 6
    BASELINE = 7
    PROGRAM = 8
    ON_COURSE = 9


@dataclass(frozen=True, slots=True, kw_only=True)
class ClientFacts:
    """What Rounds knows of a client; dates are local dates of the client."""

    stop_sign_open: bool = False
    set_aside: int = 0
    gate_closed: bool = False
    has_baseline: bool = False
    active_since: date | None = None
    last_session: date | None = None
    kept_14_days: int = 0
    prescribed_14_days: int = 0
    added_14_days: int = 0
    ready_to_climb: bool = False
    last_gain: date | None = None


def need_of(facts: ClientFacts, today: date) -> Need:
    """The first need that applies, in the order of `Need`."""
    if facts.stop_sign_open:
        return Need.STOP_SIGN
    if facts.set_aside:
        return Need.SET_ASIDE
    if facts.active_since is None:
        if facts.gate_closed:
            return Need.EXAMINATION
        return Need.PROGRAM if facts.has_baseline else Need.BASELINE
    if (today - (facts.last_session or facts.active_since)).days >= LAPSED_AFTER.number:
        return Need.LAPSED
    if facts.ready_to_climb:
        return Need.READY_TO_CLIMB
    done = facts.kept_14_days + facts.added_14_days
    if facts.prescribed_14_days and done >= OVER_KEEN.number * facts.prescribed_14_days:
        return Need.OVER_KEEN
    since = max(facts.active_since, facts.last_gain or facts.active_since)
    if (today - since).days >= PLATEAU_AFTER.number:
        return Need.PLATEAU
    return Need.ON_COURSE
