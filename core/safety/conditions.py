"""Contraindications and precautions: one table of data, applied to whatever a program does."""

import tomllib
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from enum import StrEnum
from functools import cache, lru_cache
from pathlib import Path
from typing import Annotated, Any, Literal, Self

from pydantic import BaseModel, ConfigDict, Field, ValidationError, model_validator

from core.catalogue.touches import Touch
from core.errors import PlanError
from core.reason import Reason, Saying, Value, says
from core.reference.values import (
    OWN_MINUTES_FROM_AGE,
    STRAIN_HIGH,
    STRONG_FROM_AGE,
    THROAT_HEALS_DAYS,
    VOICE_CHANGES_FROM_AGE,
)
from core.safety.condition import Condition, in_plain_words
from core.safety.gate import Gate
from core.safety.inferred import inferred
from core.safety.screening import RedFlag, Screening
from core.safety.state import Release

_TABLE = Path(__file__).parent / "conditions.toml"
ADULT_AGE = 18
_PROGRESSIVE = frozenset({Condition.MOTOR_NEURONE, Condition.MYASTHENIA})
_ROUNDING_MIN = 0.05
_NOT_DESCRIBED = says(
    "task_not_described",
    "{step} ({having}): nobody has said what this task involves. Say it in the Library.",
)


class Effect(StrEnum):
    """block: not at all; precaution: a written reason; limit: minutes a home session; remind: days
    until a baseline or probe is due."""

    BLOCK = "block"
    PRECAUTION = "precaution"
    LIMIT = "limit"
    REMIND = "remind"


_OF_A_STEP = "{step} ({having}): {why}."
_SENTENCES = {
    Effect.BLOCK: _OF_A_STEP,
    Effect.PRECAUTION: _OF_A_STEP,
    Effect.LIMIT: "{having}: {why}; these are {minutes:.1f} min, {most:g} at most. Leave out steps or repetitions.",
    Effect.REMIND: "{having}: {why}; the last is {days} days old.",
}
_NUMBERS = {Effect.LIMIT: {"most_min", "per"}, Effect.REMIND: {"every_days"}}


@dataclass(frozen=True, slots=True, kw_only=True)
class Rule:
    """Conditions, what they touch, what follows, why. `number`: minutes of a limit, days of a
    reminder; a limit that touches nothing holds for everything, `a_day`: over all home sessions of
    a day; with_reason: a written reason goes over it. unless: a step that touches one of these is not meant."""

    key: str
    conditions: frozenset[Condition]
    touches: frozenset[Touch]
    effect: Effect
    reason: str
    source: str
    number: float | None = None
    unless: frozenset[Touch] = frozenset()
    a_day: bool = False
    with_reason: bool = False

    def meets(self, touches: frozenset[Touch]) -> bool:
        """Whether the rule means a step that touches these; what is unknown counts as touched."""
        if touches & self.unless:
            return False
        return bool(touches & (self.touches | {Touch.UNKNOWN}))

    @property
    def why(self) -> Reason:
        """The reason alone."""
        return says(f"{self.key}_why", self.reason)()

    @property
    def saying(self) -> Saying:
        """Makes its reason for one client, with the values that its effect has."""
        return says(self.key, _SENTENCES[self.effect])

    def register(self) -> None:
        """Make its sentences known to translators before any client has one."""
        says(f"{self.key}_why", self.reason)
        says(self.key, _SENTENCES[self.effect])

    def said_of(self, known: frozenset[Condition], **values: Value) -> Reason:
        """Its reason for a client with these conditions."""
        return self.saying(having=in_plain_words(self.having(known)), why=self.why, **values)

    def having(self, known: frozenset[Condition]) -> Condition:
        """The condition of these by which it holds."""
        return sorted(self.conditions & known)[0]


@dataclass(frozen=True, slots=True, kw_only=True)
class GatedStep:
    """What a step of a program touches, the minutes of a sitting it takes, the sittings on a day of
    the routine it stands in; short_day: it stands for a whole sitting on a bad day."""

    name: str
    touches: frozenset[Touch]
    minutes: float = 0.0
    sessions_a_day: int = 1
    short_day: bool = False
    routine: str = "practice"


@cache
def rules() -> tuple[Rule, ...]:
    """Every rule of the table. Raises PlanError("rule_broken") with key and reason."""
    table = tomllib.loads(_TABLE.read_text(encoding="utf-8"))
    found = tuple(checked_rule(key, entry) for key, entry in table.items())
    for rule in found:
        rule.register()
    return found


class _Entry(BaseModel):
    """One entry of the table; minutes and days only with the effect that has them."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)

    conditions: Annotated[frozenset[Condition], Field(min_length=1)]
    touches: frozenset[Touch]
    effect: Effect
    reason: Annotated[str, Field(min_length=1)]
    source: Annotated[str, Field(min_length=1)]
    unless: frozenset[Touch] = frozenset()
    most_min: Annotated[float, Field(gt=0)] | None = None
    per: Literal["session", "day"] | None = None
    every_days: Annotated[float, Field(gt=0)] | None = None
    with_reason: bool = False

    @model_validator(mode="after")
    def _whole(self) -> Self:
        given = {name for name in ("most_min", "per", "every_days") if getattr(self, name)}
        if given != _NUMBERS.get(self.effect, set()):
            raise ValueError(f"{self.effect.value} does not go with {sorted(given) or 'no number'}")
        if not given and not self.touches:
            raise ValueError("it touches nothing")
        return self


def checked_rule(key: str, entry: dict[str, Any]) -> Rule:
    """One entry of the table as a rule; PlanError("rule_broken") where it does not hold."""
    try:
        read = _Entry.model_validate(entry)
    except ValidationError as error:
        raise PlanError("rule_broken", key=key, reason=str(error)) from error
    return Rule(
        key=key,
        conditions=read.conditions,
        touches=read.touches,
        effect=read.effect,
        reason=read.reason,
        source=read.source,
        number=read.most_min or read.every_days,
        unless=read.unless,
        a_day=read.per == "day",
        with_reason=read.with_reason,
    )


def touching(
    conditions: Iterable[Condition], touches: frozenset[Touch], effect: Effect
) -> tuple[Rule, ...]:
    """The rules by which these conditions bear on a step that touches these."""
    bearing = _bearing(frozenset(conditions), effect)
    return tuple(rule for rule in bearing if rule.meets(touches))


@lru_cache(maxsize=1024)
def _bearing(conditions: frozenset[Condition], effect: Effect) -> tuple[Rule, ...]:
    """The rules of an effect that hold with these conditions."""
    return tuple(r for r in rules() if r.effect is effect and r.conditions & conditions)


def allows(conditions: Iterable[Condition], touch: Touch) -> bool:
    """Whether nothing blocks it: `allows(…, Touch.SIP)` before any prompt to drink."""
    return not touching(conditions, frozenset({touch}), Effect.BLOCK)


def known_conditions(screening: Screening, today: date) -> frozenset[Condition]:
    """The conditions of a screening, with what red flags, other answers and the age stand for, without
    a surgery of the folds that the surgeon has released without limits."""
    found = conditions_of(screening.conditions, screening.red_flags)
    if screening.released(today) and screening.release is Release.FULL:
        found -= {Condition.FOLD_SURGERY}
    if found & _PROGRESSIVE:
        found |= {Condition.PROGRESSIVE}
    if _movement_is_known(screening, today):
        found -= {Condition.THROAT_SURGERY}
    found |= frozenset(inferred(screening, today))
    if screening.minor:
        found |= {Condition.MINOR}
    return found | from_the_record(
        screening.age_years,
        screening.throat_strain,
        lesions=Condition.FOLD_LESIONS in found,
        voice_changing=screening.voice_changing,
    )


def from_the_record(
    age_years: int | None,
    throat_strain: int | None,
    *,
    lesions: bool = False,
    voice_changing: bool | None = None,
) -> frozenset[Condition]:
    """What follows from age and throat strain (0–10) alone; None = not known. From 10 to 17 years a
    voice counts as changing unless it was said that it is not."""
    found = set()
    if age_years is not None and age_years < ADULT_AGE:
        found.add(Condition.MINOR)
        if age_years < STRONG_FROM_AGE.number:
            found.add(Condition.UNDER_TWELVE)
        elif age_years < OWN_MINUTES_FROM_AGE.number:
            found.add(Condition.UNDER_SIXTEEN)
        if age_years >= VOICE_CHANGES_FROM_AGE.number and voice_changing is not False:
            found.add(Condition.VOICE_CHANGING)
    if throat_strain is not None and throat_strain >= STRAIN_HIGH.number:
        found.add(Condition.STRAINED)
        if lesions:
            found.add(Condition.LESIONS_STRAINED)
    return frozenset(found)


def _movement_is_known(screening: Screening, today: date) -> bool:
    """Whether the folds' movement was examined after a surgery of thyroid, neck or chest and six weeks
    have passed since it."""
    operated, examined = screening.throat_operated_on, screening.movement_examined_on
    if operated is None or examined is None or not operated <= examined <= today:
        return False
    return (today - operated).days >= THROAT_HEALS_DAYS.number


def conditions_of(
    conditions: Iterable[Condition], red_flags: Iterable[RedFlag]
) -> frozenset[Condition]:
    """The conditions with those that a red flag stands for: trouble swallowing is unsafe until it
    was looked at."""
    found = frozenset(conditions)
    swallowing = {RedFlag.TROUBLE_SWALLOWING, RedFlag.PAINFUL_SWALLOWING} & frozenset(red_flags)
    return found | {Condition.UNSAFE_SWALLOWING} if swallowing else found


def limits_of(conditions: Iterable[Condition]) -> tuple[Rule, ...]:
    """The rules that limit the minutes of a home session for these conditions."""
    return _bearing(frozenset(conditions), Effect.LIMIT)


def limits_a_day(conditions: Iterable[Condition]) -> bool:
    """Whether the minutes of a whole day are limited, so that no session comes on top."""
    return any(rule.a_day for rule in limits_of(conditions))


def reminders(
    conditions: Iterable[Condition], *, measured_on: date | None, today: date
) -> tuple[Reason, ...]:
    """What is due again: a baseline or probe older than the table allows for these conditions."""
    known = frozenset(conditions)
    if measured_on is None:
        return ()
    days = (today - measured_on).days
    return tuple(
        rule.said_of(known, days=days)
        for rule in rules()
        if rule.effect is Effect.REMIND and rule.conditions & known and days >= (rule.number or 0)
    )


def judged(conditions: Iterable[Condition], does: Sequence[GatedStep], gate: Gate) -> Gate:
    """The gate with what the conditions say of a program: `does` names what each step does.

    A blocked step and minutes over a limit admit no reason; a precaution needs one in writing.
    """
    known = frozenset(conditions)
    found: dict[Effect, list[Reason]] = {effect: [] for effect in Effect}
    for rule in rules():
        if not rule.conditions & known:
            continue
        if rule.effect is Effect.LIMIT:
            kind = Effect.PRECAUTION if rule.with_reason else Effect.BLOCK
            found[kind] += _over(rule, known, does)
            continue
        for doing in does:
            if rule.meets(doing.touches):
                found[rule.effect].append(_of_step(rule, known, doing))
    return Gate(
        blocks=_once(gate.blocks, found[Effect.BLOCK]),
        needs_reason=_once(gate.needs_reason, found[Effect.PRECAUTION]),
        reminds=gate.reminds,
    )


def limited_minutes(rule: Rule, does: Sequence[GatedStep]) -> float:
    """Minutes that count under a limit: of a day those of every routine together, of one sitting
    those of the longest; of each the longer of the whole sitting and of the one for a bad day."""
    sums: dict[str, dict[bool, float]] = {}
    for doing in does:
        if not rule.touches or rule.meets(doing.touches):
            times = doing.sessions_a_day if rule.a_day else 1
            own = sums.setdefault(doing.routine, {False: 0.0, True: 0.0})
            own[doing.short_day] += doing.minutes * times
    longest = [max(own.values()) for own in sums.values()]
    return sum(longest) if rule.a_day else max(longest, default=0.0)


def _over(rule: Rule, known: frozenset[Condition], does: Sequence[GatedStep]) -> list[Reason]:
    minutes, most = limited_minutes(rule, does), rule.number or 0.0
    if minutes <= most + _ROUNDING_MIN:
        return []
    return [rule.said_of(known, minutes=minutes, most=most)]


def _of_step(rule: Rule, known: frozenset[Condition], doing: GatedStep) -> Reason:
    if rule.touches & doing.touches:
        return rule.said_of(known, step=doing.name)
    return _NOT_DESCRIBED(step=doing.name, having=in_plain_words(rule.having(known)))


def _once(before: tuple[Reason, ...], more: Iterable[Reason]) -> tuple[Reason, ...]:
    return tuple(dict.fromkeys((*before, *more)))
