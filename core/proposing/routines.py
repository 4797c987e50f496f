"""Which schools are done in one sitting: those that share a dose, and nothing else."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from core.editing.step_order import free_key
from core.fitting.notes import Notes, because
from core.fitting.schools import School
from core.program.dosing import Dose, When
from core.program.routine import Routine
from core.program.step import Phase, Step
from core.proposing.choose import LeftOut
from core.proposing.trim import Weighed
from core.reason import Reason, says

_SHORTEST_WEEKS = says("shortest_weeks", "{weeks} weeks, then a review: as the shortest school.")
_FEWER = says("fewer_a_day", "{a_day} home sessions a day, not {asked}: the limit of the client.")
_IN_ONE = says(
    "in_one_sitting", "{first} and {second} in one sitting: the client has {a_day} a day."
)
_NO_PLACE = says("no_sitting_left", "the client has {a_day} home sessions a day")

_PHASES = tuple(Phase)
_WEIGHT = (
    Phase.VOICE,
    Phase.SEMI_OCCLUDED,
    Phase.RANGE,
    Phase.RESONANCE,
    Phase.BREATH,
    Phase.ARTICULATION,
    Phase.CARRY_OVER,
    Phase.COOL_DOWN,
    Phase.RELEASE,
)
"""What a sitting is named after, and what stays longest where there is too much: the first of these."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Rhythm:
    """What schools must have in common to be done in one sitting."""

    when: When
    sessions_a_day: int
    days_a_week: int
    spacing_h: float
    visits_a_week: int


def rhythm_of(school_dose: Mapping[str, Any], most_a_day: int | None) -> Rhythm:
    """The rhythm of a dose of a school; most_a_day: sittings a day that the client can have."""
    sessions = school_dose["sessions_a_day"]
    return Rhythm(
        when=When(school_dose.get("when", When.ANY)),
        sessions_a_day=sessions if most_a_day is None else min(sessions, most_a_day),
        days_a_week=school_dose["days_a_week"],
        spacing_h=school_dose.get("spacing_h", 3.0),
        visits_a_week=school_dose.get("visits_a_week", 0),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class KeptSchool:
    """A school with its options and the steps of it that this client can do."""

    school: School
    options: Mapping[str, str]
    steps: tuple[Weighed, ...]

    @property
    def dose(self) -> Mapping[str, Any]:
        return self.school.dose(self.options)

    @property
    def weight(self) -> int:
        """0 = the heaviest."""
        return _WEIGHT.index(self.school.phase)


@dataclass(frozen=True, slots=True, kw_only=True)
class PlannedSitting:
    """Schools of one rhythm; sessions_a_day may be fewer than theirs."""

    kept: tuple[KeptSchool, ...]
    sessions_a_day: int

    @property
    def main(self) -> KeptSchool:
        """The school that the sitting is named after."""
        return min(self.kept, key=lambda one: one.weight)

    @property
    def dose(self) -> dict[str, Any]:
        """The dose of its main school, for the fewest weeks of any, with the taper of whichever has
        one: the weeks of a dose end in a review."""
        doses = [one.dose for one in self.kept]
        tapers = [dose["taper"] for dose in doses if dose.get("taper", "none") != "none"]
        return {
            **self.main.dose,
            "sessions_a_day": self.sessions_a_day,
            "weeks": min(dose["weeks"] for dose in doses),
            **({"taper": tapers[0]} if tapers else {}),
        }

    @property
    def ordered(self) -> list[Weighed]:
        """The steps in the order of a sitting; a school alone may have its own order."""
        steps = [step for one in self.kept for step in one.steps]
        if len(self.kept) == 1 and self.main.school.own_order:
            return steps
        return sorted(steps, key=lambda weighed: _PHASES.index(weighed.step.phase))


def sittings_of(
    kept: Sequence[KeptSchool], most_a_day: int | None
) -> tuple[list[PlannedSitting], list[LeftOut], Notes]:
    """The sittings of a day, heaviest first, what did not find a place, and what was changed.

    Where the client can have fewer sittings a day: fewer of the most frequent, then the lightest
    joins the heaviest of the same time of day, then the lightest is left out.
    """
    by_rhythm: dict[Rhythm, list[KeptSchool]] = {}
    said: list[Reason] = []
    for one in kept:
        rhythm = rhythm_of(one.dose, most_a_day)
        if rhythm.sessions_a_day < one.dose["sessions_a_day"]:
            said.append(_FEWER(a_day=rhythm.sessions_a_day, asked=one.dose["sessions_a_day"]))
        by_rhythm.setdefault(rhythm, []).append(one)
    sittings = sorted(
        (
            PlannedSitting(kept=tuple(own), sessions_a_day=rhythm.sessions_a_day)
            for rhythm, own in by_rhythm.items()
        ),
        key=lambda sitting: sitting.main.weight,
    )
    left_out: list[LeftOut] = []
    while most_a_day is not None and sum(one.sessions_a_day for one in sittings) > most_a_day:
        sittings = _one_less(sittings, most_a_day, said, left_out)
    for sitting in sittings:
        if len({one.dose["weeks"] for one in sitting.kept}) > 1:
            said.append(_SHORTEST_WEEKS(weeks=sitting.dose["weeks"]))
    return sittings, left_out, because(*said)


def _one_less(
    sittings: list[PlannedSitting], most_a_day: int, said: list[Reason], left_out: list[LeftOut]
) -> list[PlannedSitting]:
    often = max(sittings, key=lambda one: one.sessions_a_day)
    if often.sessions_a_day > 1:
        asked = sum(one.sessions_a_day for one in sittings)
        said.append(_FEWER(a_day=most_a_day, asked=asked))
        fewer = replace(often, sessions_a_day=often.sessions_a_day - 1)
        return [fewer if one is often else one for one in sittings]
    *heavier, lightest = sittings
    for place, other in enumerate(heavier):
        if other.main.dose.get("when") == lightest.main.dose.get("when"):
            first, second = other.main.school.name, lightest.main.school.name
            said.append(_IN_ONE(first=first, second=second, a_day=most_a_day))
            joined = replace(other, kept=(*other.kept, *_not_twice(lightest.kept, other)))
            return [*heavier[:place], joined, *heavier[place + 1 :]]
    why = _NO_PLACE(a_day=most_a_day)
    left_out += [LeftOut(one.school.key, one.school.name, why, False) for one in lightest.kept]
    return heavier


def _not_twice(kept: Sequence[KeptSchool], other: PlannedSitting) -> list[KeptSchool]:
    have = {weighed.step.task for weighed in other.ordered}
    cut = [
        replace(one, steps=tuple(w for w in one.steps if w.step.task not in have)) for one in kept
    ]
    return [one for one in cut if one.steps]


@dataclass(frozen=True, slots=True, kw_only=True)
class PlannedRoutine:
    """A sitting with its dose, its steps and the most minutes it may take."""

    sitting: PlannedSitting
    steps: tuple[Weighed, ...]
    dose: Dose
    most_min: float
    short_day: Step | None = None


def routines_of(planned: Sequence[PlannedRoutine]) -> tuple[Routine, ...]:
    """The routines of a program, each with a key of its own."""
    found: list[Routine] = []
    for one in planned:
        kind = one.sitting.main.school.routine
        found.append(
            Routine(
                key=free_key(kind, [routine.key for routine in found]),
                kind=kind,
                steps=tuple(weighed.step for weighed in one.steps),
                short_day=one.short_day,
                dose=one.dose,
            )
        )
    return tuple(found)
