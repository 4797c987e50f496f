"""Routines of one program that want the same moment of a day."""

import itertools
from datetime import time

from core.dose.calendar import refused_times
from core.program.program import Program
from core.program.routine import Routine
from core.program.routine_words import routine_label
from core.reason import Reason, says

NEAR_MIN = 30
"""Home sessions of two routines this near to each other are one after the other (clinical default)."""
_CLASH = says(
    "routines_clash",
    "{first} at {at:clock} and {second} at {then:clock} are within {minutes} minutes of each other.",
)
_NOT_USED = says(
    "times_not_used",
    "{routine}: {at:clock} lies in the quiet hours or outside work and is not used.",
)


def clash_notices(program: Program) -> tuple[Reason, ...]:
    """Where named times of two routines lie within half an hour, and named times that are not used."""
    unused = [
        _NOT_USED(routine=routine_label(one), at=at.isoformat("minutes"))
        for one in program.routines
        for at in refused_times(one.dose)
    ]
    pairs = itertools.combinations(program.routines, 2)
    return (*unused, *(found for a, b in pairs for found in _between(a, b)))


def _between(one: Routine, other: Routine) -> list[Reason]:
    if not _days(one) & _days(other):
        return []
    return [
        _CLASH(
            first=routine_label(one),
            at=at.isoformat("minutes"),
            second=routine_label(other),
            then=then.isoformat("minutes"),
            minutes=NEAR_MIN,
        )
        for at in one.dose.times
        for then in other.dose.times
        if abs(_minute(at) - _minute(then)) < NEAR_MIN
    ]


def _days(routine: Routine) -> set[int]:
    return set(routine.dose.weekdays or range(1, 8))


def _minute(at: time) -> int:
    return at.hour * 60 + at.minute
