"""Reads the table of schools and checks every entry against the catalogue and the fitters."""

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

from core.catalogue.tasks import shipped_tasks
from core.catalogue.words import Aim
from core.errors import PlanError
from core.plans.fitted import StepSpec
from core.plans.fitters import FITTERS
from core.plans.routine import RoutineKind
from core.plans.step import Phase

_TABLE = Path(__file__).parent / "schools.toml"
_SPEC = {"task", "fit", "phase", "repetitions", "rest_s", "essential", "because", "when"}
_DOSE = {"sessions_a_day", "days_a_week", "weeks", "spacing_h", "taper", "when"} | {
    "visits_a_week",
    "short_day_min",
    "words",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Choice:
    """Something to choose within a school: its words, its options with theirs, the default."""

    key: str
    words: str
    default: str
    options: Mapping[str, str]


@dataclass(frozen=True, slots=True, kw_only=True)
class School:
    """A way of doing it: steps, choices, doses, and in words how it differs from its neighbours.

    rival: schools of one such word are never combined; routine: what it is done as; minutes: least
    and most of its own steps in a sitting, None = as they come.
    """

    key: str
    name: str
    phase: Phase
    routine: RoutineKind
    aims: tuple[Aim, ...]
    words: str
    suits: str
    own_order: bool
    rival: str
    minutes: tuple[float, float] | None
    options: Mapping[str, str]
    choices: tuple[Choice, ...]
    doses: Mapping[str, Mapping[str, Any]]
    steps: tuple[StepSpec, ...]
    short_day: StepSpec | None

    def chosen(self, options: Mapping[str, str]) -> dict[str, str]:
        """Every choice with what was chosen or its default; PlanError("option_unknown").

        Options a fitter reads beside the choices (goal_s, share, target, minutes) pass through.
        """
        answered = {**self.options, **options}
        for choice in self.choices:
            came = answered.setdefault(choice.key, choice.default)
            if came not in choice.options:
                raise PlanError(
                    "option_unknown", which=choice.words, came=came, known=sorted(choice.options)
                )
        dose = answered.get("dose")
        if dose is not None and dose not in self.doses:
            raise PlanError("option_unknown", which="dose", came=dose, known=sorted(self.doses))
        return answered

    def specs(self, options: Mapping[str, str]) -> tuple[StepSpec, ...]:
        """The lines that hold for these options."""
        return tuple(
            spec
            for spec in self.steps
            if all(options.get(name) in allowed for name, allowed in spec.when.items())
        )

    def dose(self, options: Mapping[str, str]) -> Mapping[str, Any]:
        return self.doses[options.get("dose", next(iter(self.doses)))]


@cache
def schools() -> dict[str, School]:
    """Every school by key. Raises PlanError("school_broken") with key and reason."""
    return schools_in(_TABLE.read_text(encoding="utf-8"))


def school_of(key: str) -> School:
    """The school of that key; PlanError("school_unknown")."""
    found = schools().get(key)
    if found is None:
        raise PlanError("school_unknown", came=key, known=sorted(schools()))
    return found


def schools_in(text: str) -> dict[str, School]:
    """The schools of a TOML text; PlanError("school_broken") for the first that does not hold."""
    try:
        return {key: _school(key, entry) for key, entry in tomllib.loads(text).items()}
    except tomllib.TOMLDecodeError as error:
        raise PlanError("school_broken", key="", reason=str(error)) from error


def _school(key: str, entry: dict[str, Any]) -> School:
    try:
        school = School(
            key=key,
            name=entry["name"],
            phase=Phase(entry["phase"]),
            routine=RoutineKind(entry["routine"]),
            aims=tuple(Aim(aim) for aim in entry["aims"]),
            words=entry["words"],
            suits=entry["suits"],
            own_order=entry.get("own_order", False),
            rival=entry.get("rival", ""),
            minutes=_minutes(entry.get("minutes")),
            options=entry.get("options", {}),
            choices=tuple(
                Choice(key=name, **choice) for name, choice in entry.get("choices", {}).items()
            ),
            doses=entry["doses"],
            steps=tuple(_spec(step, Phase(entry["phase"])) for step in entry["steps"]),
            short_day=(
                _spec(entry["short_day"], Phase(entry["phase"])) if "short_day" in entry else None
            ),
        )
    except (KeyError, TypeError, ValueError) as error:
        raise PlanError("school_broken", key=key, reason=str(error)) from error
    if reason := _odd(school):
        raise PlanError("school_broken", key=key, reason=reason)
    return school


def _minutes(entry: Any) -> tuple[float, float] | None:
    if entry is None:
        return None
    least, most = entry
    return float(least), float(most)


def _spec(entry: dict[str, Any], phase: Phase) -> StepSpec:
    return StepSpec(
        task=entry["task"],
        fit=entry["fit"],
        phase=Phase(entry.get("phase", phase)),
        repetitions=entry.get("repetitions", 1),
        rest_s=float(entry["rest_s"]),
        essential=entry.get("essential", False),
        because=entry["because"],
        when={name: tuple(allowed) for name, allowed in entry.get("when", {}).items()},
        params={name: value for name, value in entry.items() if name not in _SPEC},
    )


def _odd(school: School) -> str | None:
    tasks = shipped_tasks()
    lines = (*school.steps, *((school.short_day,) if school.short_day else ()))
    for spec in lines:
        if spec.task not in tasks:
            return f"task {spec.task!r} is not in the catalogue"
        if spec.fit not in FITTERS:
            return f"fit {spec.fit!r} is no fitter"
    if not any(spec.essential for spec in school.steps):
        return "no step is essential"
    for name, dose in school.doses.items():
        if set(dose) - _DOSE or "words" not in dose:
            return f"dose {name}: unknown {sorted(set(dose) - _DOSE)} or no words"
    choices = {choice.key: choice for choice in school.choices}
    if any(choice.default not in choice.options for choice in school.choices):
        return "a default is none of its options"
    if len(school.doses) > 1 and set(choices["dose"].options) != set(school.doses):
        return "the doses are not the options of the choice dose"
    for spec in school.steps:
        for name, allowed in spec.when.items():
            if name not in choices or not set(allowed) <= set(choices[name].options):
                return f"when {name}: no such choice or option"
    return None
