"""The rules of climbing and easing: one table of data, its numbers changed per clinic and client."""

import tomllib
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Annotated, Any, Literal, Self, TypeVar

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, ValidationError, model_validator

from core.catalogue.doing import task_kinds
from core.catalogue.words import FAMILY_WORDS, Growth
from core.errors import PlanError
from core.figures.registry import RULE_FIGURES
from core.kinds.registry import kinds
from core.program.step import Step
from core.reference import values

Model = TypeVar("Model", bound=BaseModel)
_TABLE = Path(__file__).parent / "rules.toml"
_BOUNDS = ("least", "most", "under", "over")


def _named(came: Any) -> Any:
    """A number, or the name of a reference value that holds it."""
    if not isinstance(came, str):
        return came
    value = getattr(values, came, None)
    if not isinstance(value, values.Reference):
        raise ValueError(f"{came} is no reference value")
    return value.number


Number = Annotated[float, BeforeValidator(_named), Field(ge=-1000, le=1000, allow_inf_nan=False)]


class Checked(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True)


class Bound(Checked):
    """A figure with one bound. own: with a tremor the bound is at least so many times the client's
    own; over_baseline: it is at least so much over the baseline's;
    only_where: asked for only of a task that has the figure."""

    figure: str
    least: Number | None = None
    most: Number | None = None
    under: Number | None = None
    over: Number | None = None
    own: Number | None = None
    over_baseline: Number | None = None
    only_where: bool = False

    @model_validator(mode="after")
    def _one_bound(self) -> Self:
        if self.figure not in RULE_FIGURES:
            raise ValueError(f"no figure is called {self.figure}")
        if sum(getattr(self, name) is not None for name in _BOUNDS) != 1:
            raise ValueError(f"{self.figure} needs one of {', '.join(_BOUNDS)}")
        return self


class RulePart(Checked):
    """When something follows: see the head of rules.toml."""

    each: Literal["note", "attempt", "session"]
    when: tuple[Bound, ...] = Field(min_length=1)
    besides: tuple[Bound, ...] = ()
    every: bool = False
    share: Annotated[Number, Field(gt=0, le=100)] | None = None
    under_share: Annotated[Number, Field(gt=0, le=100)] | None = None
    count: Annotated[Number, Field(ge=1, le=40)] | None = None
    of: Annotated[int, Field(ge=1, le=20)]
    need: Annotated[int, Field(ge=1, le=20)]
    days: Annotated[int, Field(ge=1, le=20)] = 1
    on_days: Annotated[int, Field(ge=1, le=20)] = 1
    by: Literal["session", "day"] = "session"

    @model_validator(mode="after")
    def _fits(self) -> Self:
        asked = [one for one in (self.share, self.under_share, self.count) if one is not None]
        if len(asked) != (0 if self.each == "session" else 1):
            raise ValueError("notes and attempts need one of share, under_share, count")
        if self.need > self.of:
            raise ValueError("more home sessions are needed than looked at")
        if max(self.days, self.on_days) > self.of:
            raise ValueError("more days are needed than home sessions are looked at")
        return self


class For(Checked):
    """The steps a rule is for; what is not named does not matter."""

    keys: frozenset[str] = frozenset()
    families: frozenset[str] = frozenset()
    kinds: frozenset[str] = Field(min_length=1)
    growths: frozenset[Growth] = Field(min_length=1)
    strong: bool | None = None
    by_effort: bool | None = None

    @model_validator(mode="after")
    def _known(self) -> Self:
        unknown = self.kinds - set(task_kinds()) | self.families - set(FAMILY_WORDS)
        if unknown:
            raise ValueError(f"unknown: {', '.join(sorted(unknown))}")
        return self

    def fits(self, step: Step, family: str) -> bool:
        """Whether it is for that step of that family (A–K)."""
        grade = step.grade
        return (
            grade is not None
            and (not self.keys or grade.key in self.keys)
            and (not self.families or family in self.families)
            and step.kind in self.kinds
            and grade.growth in self.growths
            and self.strong in (None, step.level is not None)
            and self.by_effort in (None, step.level is not None and step.level.over_db is None)
        )


class Common(Checked):
    """What holds for every step, whatever its rule.

    Days are days of the calendar, shares are of 1 where they are of practice and % of the goal of a
    taper; strain is throat strain, 0–10.
    """

    days_between_climbs: Annotated[Number, Field(ge=1, le=60)]
    kept_to_climb: Annotated[Number, Field(ge=0, le=1)]
    away_days: Annotated[Number, Field(ge=2, le=60)]
    away_missed: Annotated[Number, Field(ge=1, le=60)]
    probe_days: Annotated[Number, Field(ge=2, le=180)]
    flat_days: Annotated[Number, Field(ge=7, le=180)]
    flat_sessions: Annotated[Number, Field(ge=1, le=60)]
    unchanged_days: Annotated[Number, Field(ge=14, le=365)]
    unchanged_kept: Annotated[Number, Field(ge=0, le=1)]
    twice_days: Annotated[Number, Field(ge=1, le=60)]
    taper_back_percent: Annotated[Number, Field(ge=1, le=100)]
    taper_back_days: Annotated[Number, Field(ge=1, le=14)]
    visits_apart_days: Annotated[Number, Field(ge=1, le=365)]
    pitch_review_semitones: Annotated[Number, Field(ge=1, le=12)]
    discomfort_rise: Annotated[Number, Field(ge=1, le=10)]
    strain_rise: Annotated[Number, Field(ge=1, le=10)]
    strain_days: Annotated[Number, Field(ge=2, le=60)]
    strain_answers: Annotated[Number, Field(ge=1, le=40)]
    strain_high: Annotated[Number, Field(ge=1, le=10)]
    strain_over_baseline: Annotated[Number, Field(ge=0, le=10)]
    strain_contact: Annotated[Number, Field(ge=1, le=10)]
    strain_sessions_since: Annotated[Number, Field(ge=1, le=40)]
    strain_floor: Annotated[Number, Field(ge=0, le=10)]
    strain_contact_over: Annotated[Number, Field(ge=0, le=10)]
    strain_contact_most: Annotated[Number, Field(ge=1, le=10)]
    strain_nothing_from: Annotated[Number, Field(ge=1, le=10)]
    event_days: Annotated[Number, Field(ge=0, le=60)]
    event_days_often: Annotated[Number, Field(ge=0, le=60)]
    event_often_days: Annotated[Number, Field(ge=1, le=60)]
    too_much_share: Annotated[Number, Field(ge=1, le=10)]
    too_much_extra: Annotated[Number, Field(ge=1, le=60)]
    evening_rise: Annotated[Number, Field(ge=1, le=10)]
    evening_days: Annotated[Number, Field(ge=1, le=7)]

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if self.probe_days < self.away_days:
            raise ValueError("probing again comes after going one rung down")
        if self.unchanged_days < self.flat_days:
            raise ValueError("examining again comes after teaching again")
        if self.event_days_often > self.event_days:
            raise ValueError("frequent events hold back longer than rare ones")
        if self.strain_contact < self.strain_high:
            raise ValueError("the strain at which nothing climbs is not over the one to call at")
        return self


@dataclass(frozen=True, slots=True)
class Rules:
    """All of the rules: one a kind of step, and what holds for every step."""

    common: Common
    steps: tuple["StepRule", ...]

    def of(self, step: Step, family: str) -> "StepRule | None":
        """The first rule for a step; None where none is, then the clinician decides."""
        return next((rule for rule in self.steps if rule.for_.fits(step, family)), None)


class StepRule(Checked):
    """When the steps it is for climb, ease or are taught again; contact_strain: throat strain from
    which the client is called, where it is less than the common one; goal_figure: the figure that a
    taper watches, % of the goal."""

    code: str
    name: Annotated[str, Field(min_length=1, max_length=80)]
    for_: For = Field(alias="for")
    goal_figure: Literal["share"] | None = None
    contact_strain: Annotated[Number, Field(ge=1, le=10)] | None = None
    climb: RulePart
    ease: RulePart | None = None
    teach: RulePart | None = None

    @model_validator(mode="after")
    def _climb_above_ease(self) -> Self:
        """Nothing may climb by figures that also ease it."""
        crossed = [
            (name, up, down)
            for name, up, down in (_facing(self.climb, self.ease) if self.ease else ())
            if down is not None and up is not None and down > up
        ]
        if crossed:
            name, up, down = crossed[0]
            raise ValueError(f"{name}: {abs(up):g} to climb crosses {abs(down):g} to ease")
        return self


def _facing(climb: RulePart, ease: RulePart) -> Iterator[tuple[str, float | None, float | None]]:
    """The numbers of climbing and easing that look at the same thing: climb from, ease under."""
    yield "share", climb.share, ease.under_share
    rises = {bound.figure: bound.least for bound in climb.when}
    falls = {bound.figure: bound.most for bound in climb.when}
    for bound in ease.when:
        if bound.under is not None:
            yield bound.figure, rises.get(bound.figure), bound.under
        if bound.over is not None and falls.get(bound.figure) is not None:
            yield bound.figure, -(falls[bound.figure] or 0.0), -bound.over


@dataclass(frozen=True, slots=True)
class Changed:
    """A number of the rules that a clinic or client has otherwise: its path and value."""

    path: str
    value: float


@cache
def _shipped() -> Mapping[str, Any]:
    return tomllib.loads(_TABLE.read_text(encoding="utf-8"))


def rules(changed: Iterable[Changed] = ()) -> Rules:
    """Every rule, with these numbers changed.

    PlanError("grading_rule_broken", rule, reason) for one that cannot be, PlanError("number_unknown",
    path) for a number no rule has.
    """
    return _with(frozenset((one.path, one.value) for one in changed))


@cache
def _with(changed: frozenset[tuple[str, float]]) -> Rules:
    table = {code: _copied(entry) for code, entry in _shipped().items()}
    for path, value in changed:
        _put(table, path, value)
    common = _checked(Common, "common", table.pop("common"))
    return Rules(common, tuple(checked_rule(code, entry) for code, entry in table.items()))


def checked_rule(code: str, entry: Mapping[str, Any]) -> StepRule:
    """One rule from its entry; PlanError("grading_rule_broken", rule, reason)."""
    return _checked(StepRule, code, {"code": code, **entry})


def _checked(model: type[Model], code: str, entry: Mapping[str, Any]) -> Model:
    try:
        return model.model_validate(entry)
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        where = ".".join(str(place) for place in first["loc"])
        reason = f"{where}: {first['msg'].removeprefix('Value error, ')}".removeprefix(": ")
        raise PlanError("grading_rule_broken", rule=code, reason=reason) from error


_NUMBERS = ("share", "under_share", "count", "of", "need", "days", "on_days")


def numbers(of: Rules) -> dict[str, float]:
    """Every number of the rules by its path, for example `sustained.climb.share`; of a bound
    `sustained.climb.when.pitch_sd.most`, of all steps `common.flat_days`."""
    found = {f"common.{name}": float(value) for name, value in of.common.model_dump().items()}
    for rule in of.steps:
        if rule.contact_strain is not None:
            found[f"{rule.code}.contact_strain"] = rule.contact_strain
        for name in ("climb", "ease", "teach"):
            part = getattr(rule, name)
            if part is None:
                continue
            for number in _NUMBERS:
                if getattr(part, number) is not None:
                    found[f"{rule.code}.{name}.{number}"] = getattr(part, number)
            for listed in ("when", "besides"):
                for bound in getattr(part, listed):
                    for side in (*_BOUNDS, "own", "over_baseline"):
                        if getattr(bound, side) is not None:
                            path = f"{rule.code}.{name}.{listed}.{bound.figure}.{side}"
                            found[path] = getattr(bound, side)
    return found


def named_figures() -> frozenset[str]:
    """The figures that are kept of a home session: those the rules name, those that are followed from
    session to session, and what tells a broken key."""
    bounds = [
        bound.figure
        for rule in rules().steps
        for part in (rule.climb, rule.ease, rule.teach)
        if part is not None
        for bound in (*part.when, *part.besides)
    ]
    courses = (kind.course for kind in kinds().values())
    return frozenset((*bounds, *courses, "done", "missing"))


def _put(table: dict[str, Any], path: str, value: float) -> None:
    """Change one number of the table where it stands; PlanError("number_unknown")."""
    at: Any = table
    *way, last = path.split(".")
    for name in way:
        if isinstance(at, list):
            at = next((one for one in at if one["figure"] == name and last in one), None)
        else:
            at = at.get(name) if isinstance(at, dict) else None
    of_part = isinstance(at, dict) and "each" in at and last in _NUMBERS
    if not of_part and (
        not isinstance(at, dict) or isinstance(at.get(last, {}), (dict, list, bool))
    ):
        raise PlanError("number_unknown", path=path)
    at[last] = int(value) if value == int(value) else value


def _copied(entry: Any) -> Any:
    if isinstance(entry, dict):
        return {name: _copied(value) for name, value in entry.items()}
    return [_copied(one) for one in entry] if isinstance(entry, list) else entry
