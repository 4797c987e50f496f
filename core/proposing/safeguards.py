"""What a client's conditions change in a whole proposal, beyond what single tasks may touch."""

from collections.abc import Mapping, Sequence
from typing import Any

from core.fitting.notes import Notes, because
from core.fitting.schools import school_of
from core.program.program import Chosen
from core.program.step import Phase
from core.program.targets import Pattern
from core.proposing.trim import Weighed
from core.reason import Reason, says
from core.reference.values import (
    FOR_GOOD_MINUTES,
    FOR_GOOD_SESSIONS,
    PROGRESSIVE_STEPS,
    PROGRESSIVE_WEEKS,
    REFRESHER_WEEKS,
    STEPS_TO_REMEMBER,
)
from core.safety.circumstances import Circumstance, Living
from core.safety.condition import Condition

_OCCLUDED_ADDED = says(
    "semi_occluded_added",
    "Semi-occluded work is added because of vocal fold lesions with throat strain.",
)
_FOUR_WEEKS = says(
    "progressive_weeks",
    "Progressive condition: {weeks:g} intensive weeks, then 10–15 minutes a day as maintenance.",
)
_REFRESHER = says(
    "progressive_refresher",
    "Progressive condition, re-measured after an intensive program: a refresher of {weeks:g} weeks, then 10–15 "
    "minutes a day as maintenance.",
)
_SHORT_SESSIONS = says(
    "progressive_short_sessions",
    "Progressive condition: {sessions} short sessions a day, together at most {minutes:g} minutes.",
)
_FEWER_STEPS = says(
    "voiced_steps_cut", "{step} is left out: at most {most:g} voiced steps a home session ({why})."
)
_PATTERNS_ONCE = says(
    "patterns_once_a_day",
    "Patterns only once a day, because of vocal fold lesions with throat strain.",
)
_PROGRESSIVE = says("because_progressive", "progressive condition")
_MEMORY = says("because_memory", "weak memory")

GENTLE_SCHOOL = "semi_shallow"
_OCCLUDED = {Phase.SEMI_OCCLUDED}


def with_semi_occluded(
    chosen: tuple[Chosen, ...], conditions: frozenset[Condition]
) -> tuple[tuple[Chosen, ...], Notes]:
    """The schools, with semi-occluded work where hurt folds strain and none of them has any."""
    if Condition.LESIONS_STRAINED not in conditions:
        return chosen, Notes()
    if any(school_of(one.school).phase in _OCCLUDED for one in chosen):
        return chosen, Notes()
    return (*chosen, Chosen(school=GENTLE_SCHOOL)), because(_OCCLUDED_ADDED())


def with_fewer_voiced(
    steps: Sequence[Weighed],
    conditions: frozenset[Condition],
    living: Living,
) -> tuple[list[Weighed], Notes]:
    """At most six voiced steps with a progressive condition, three with a weak memory: the
    inessential go first, from the end."""
    most, why = float("inf"), _PROGRESSIVE()
    if Condition.PROGRESSIVE in conditions:
        most = PROGRESSIVE_STEPS.number
    if Circumstance.MEMORY in living.circumstances and STEPS_TO_REMEMBER.number < most:
        most, why = STEPS_TO_REMEMBER.number, _MEMORY()
    left, said = list(steps), list[Reason]()
    for essential in (False, True):
        while sum(one.step.voiced for one in left) > most:
            places = [
                place
                for place, one in enumerate(left)
                if one.step.voiced and one.essential is essential
            ]
            if not places:
                break
            cut = left.pop(places[-1])
            said.append(_FEWER_STEPS(step=cut.step.name, most=most, why=why))
    return left, because(*said)


def dose_within(
    dose: Mapping[str, Any],
    steps: Sequence[Weighed],
    conditions: frozenset[Condition],
    *,
    refresher: bool,
    most_a_day: int | None,
) -> tuple[dict[str, Any], Notes]:
    """The dose of a school as these conditions allow it; most_a_day: home sessions a client can have.

    Progressive condition: four weeks, or two weeks where it is a refresher; for good, short sessions
    where the client can have several. Patterns once a day on hurt folds.
    """
    found, notes = dict(dose), Notes()
    if Condition.PROGRESSIVE in conditions:
        other, notes = _progressive_dose(dose, refresher=refresher, most_a_day=most_a_day)
        found |= other
    patterned = any(isinstance(one.step.target, Pattern) for one in steps)
    if patterned and Condition.LESIONS_STRAINED in conditions and found["sessions_a_day"] > 1:
        found["sessions_a_day"] = 1
        notes += because(_PATTERNS_ONCE())
    return found, notes


def _progressive_dose(
    dose: Mapping[str, Any], *, refresher: bool, most_a_day: int | None
) -> tuple[dict[str, Any], Notes]:
    if _for_good(dose):
        if most_a_day is not None:
            return {}, Notes()
        sessions = int(FOR_GOOD_SESSIONS.number)
        short = _SHORT_SESSIONS(sessions=sessions, minutes=FOR_GOOD_MINUTES.number)
        return {"sessions_a_day": sessions}, because(short)
    most = REFRESHER_WEEKS if refresher else PROGRESSIVE_WEEKS
    weeks = min(dose["weeks"], int(most.number))
    why = _REFRESHER(weeks=weeks) if refresher else _FOUR_WEEKS(weeks=weeks)
    return {"weeks": weeks}, because(why)


def most_minutes(dose: Mapping[str, Any], conditions: frozenset[Condition]) -> float:
    """Minutes of a home session: for good with a progressive condition 15 a day, else no limit of its own."""
    if Condition.PROGRESSIVE in conditions and _for_good(dose):
        return FOR_GOOD_MINUTES.number / dose["sessions_a_day"]
    return float("inf")


def _for_good(dose: Mapping[str, Any]) -> bool:
    """Whether a dose is meant to go on: for half a year and more."""
    return bool(dose["weeks"] >= 26)
