"""Reads the table of schools and checks every entry against the catalogue and the fitters."""

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from pathlib import Path
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from core.catalogue.tasks import shipped_tasks
from core.catalogue.words import Aim
from core.errors import PlanError
from core.fitting.fitted import StepSpec
from core.fitting.fitters import fitters
from core.program import limits
from core.program.dosing import When
from core.program.routine import RoutineKind
from core.program.step import Phase
from core.reason import table_reason

_TABLE = Path(__file__).parent / "schools.toml"


class Rivalry(StrEnum):
    """What rival schools answer in different ways."""

    BREATH_COUNTING = "breath_counting"
    TUBE_DEPTH = "tube_depth"
    STRONG_HOLD_LENGTH = "strong_hold_length"
    PATTERN_HEIGHT = "pattern_height"


RIVALRY_WORDS = {
    Rivalry.BREATH_COUNTING: "how breath is counted",
    Rivalry.TUBE_DEPTH: "how deep the tube goes",
    Rivalry.STRONG_HOLD_LENGTH: "how long a strong hold is",
    Rivalry.PATTERN_HEIGHT: "how far the patterns rise",
}


class _Read(BaseModel):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class _ChoiceEntry(_Read):
    words: str
    default: str
    options: dict[str, str]


class _DoseEntry(_Read):
    """How often a school asks for a sitting; limits as of a dose (`core.program.dosing`)."""

    words: str
    sessions_a_day: Annotated[int, limits.SESSIONS_A_DAY.field]
    days_a_week: Annotated[int, limits.DAYS_A_WEEK.field]
    weeks: Annotated[int, limits.WEEKS.field]
    spacing_h: Annotated[float, limits.SPACING_H.field] = 3.0
    taper: Literal["none", "sustained"] = "none"
    when: When = When.ANY
    visits_a_week: Annotated[int, Field(ge=0, le=7)] = 0
    short_day_min: Annotated[float, limits.SHORT_DAY_MIN.field] | None = None


class _Line(BaseModel):
    """One line of a school; what else stands in it are the numbers and words of its fitter."""

    model_config = ConfigDict(extra="allow", allow_inf_nan=False)

    task: str
    fit: str
    phase: Phase | None = None
    repetitions: Annotated[int, limits.REPETITIONS.field] = 1
    rest_s: Annotated[float, limits.REST_S.field]
    essential: bool = False
    because: str
    when: dict[str, tuple[str, ...]] = {}

    def spec(self, phase: Phase) -> StepSpec:
        """The line as fitters take it, in the phase of its school where it names none."""
        return StepSpec(
            task=self.task,
            fit=self.fit,
            phase=self.phase or phase,
            repetitions=self.repetitions,
            rest_s=self.rest_s,
            essential=self.essential,
            because=table_reason("school_line", self.because, task=self.task),
            when=self.when,
            params=self.model_extra or {},
        )


class _Entry(_Read):
    name: str
    phase: Phase
    routine: RoutineKind
    aims: tuple[Aim, ...]
    words: str
    suits: str
    own_order: bool = False
    rival: Rivalry | None = None
    minutes: tuple[float, float] | None = None
    options: dict[str, str] = {}
    choices: dict[str, _ChoiceEntry] = {}
    doses: Annotated[dict[str, _DoseEntry], Field(min_length=1)]
    steps: tuple[_Line, ...]
    short_day: _Line | None = None


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

    rival: schools of one rivalry are never combined; routine: what it is done as; minutes: least
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
    rival: Rivalry | None
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
        read = _Entry.model_validate(entry)
    except ValidationError as error:
        raise PlanError("school_broken", key=key, reason=str(error)) from error
    school = School(
        key=key,
        name=read.name,
        phase=read.phase,
        routine=read.routine,
        aims=read.aims,
        words=read.words,
        suits=read.suits,
        own_order=read.own_order,
        rival=read.rival,
        minutes=read.minutes,
        options=read.options,
        choices=tuple(
            Choice(key=name, **choice.model_dump()) for name, choice in read.choices.items()
        ),
        doses={name: dose.model_dump(exclude_unset=True) for name, dose in read.doses.items()},
        steps=tuple(line.spec(read.phase) for line in read.steps),
        short_day=read.short_day.spec(read.phase) if read.short_day else None,
    )
    if reason := _odd(school):
        raise PlanError("school_broken", key=key, reason=reason)
    return school


def _odd(school: School) -> str | None:
    tasks = shipped_tasks()
    lines = (*school.steps, *((school.short_day,) if school.short_day else ()))
    for spec in lines:
        if spec.task not in tasks:
            return f"task {spec.task!r} is not in the catalogue"
        if spec.fit not in fitters():
            return f"fit {spec.fit!r} is no fitter"
    if not any(spec.essential for spec in school.steps):
        return "no step is essential"
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
