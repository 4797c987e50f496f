"""Contraindications and precautions: one table of data, applied to whatever a program does."""

import tomllib
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date
from enum import StrEnum
from functools import cache
from pathlib import Path
from typing import Any

from core.catalogue.touches import Touch
from core.errors import PlanError
from core.safety.condition import Condition, in_plain_words
from core.safety.gate import Finding, Gate, RedFlag

_TABLE = Path(__file__).parent / "conditions.toml"
_ROUNDING_MIN = 0.05


class Effect(StrEnum):
    """block: not at all; precaution: a written reason; limit: minutes a home session; remind: days
    until a baseline or probe is due."""

    BLOCK = "block"
    PRECAUTION = "precaution"
    LIMIT = "limit"
    REMIND = "remind"


_NUMBER_OF = {Effect.LIMIT: "most_min", Effect.REMIND: "every_days"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Rule:
    """Conditions, what they touch, what follows, why. `number`: minutes of a limit, days of a
    reminder; a limit that touches nothing holds for the whole home session."""

    key: str
    conditions: frozenset[Condition]
    touches: frozenset[Touch]
    effect: Effect
    reason: str
    source: str
    number: float | None = None


@dataclass(frozen=True, slots=True)
class Doing:
    """What a step of a program touches and how many minutes of a home session it takes."""

    touches: frozenset[Touch]
    minutes: float = 0.0


@cache
def rules() -> tuple[Rule, ...]:
    """Every rule of the table. Raises PlanError("rule_broken") with key and reason."""
    table = tomllib.loads(_TABLE.read_text(encoding="utf-8"))
    return tuple(checked_rule(key, entry) for key, entry in table.items())


def checked_rule(key: str, entry: dict[str, Any]) -> Rule:
    """One entry of the table as a rule; PlanError("rule_broken") where it does not hold."""
    wanted = {"conditions", "touches", "effect", "reason", "source"}
    number = _NUMBER_OF.get(entry.get("effect", ""))
    if number:
        wanted.add(number)
    if set(entry) != wanted:
        odd = sorted(set(entry) ^ wanted)
        raise PlanError("rule_broken", key=key, reason=f"missing or unknown: {odd}")
    try:
        rule = Rule(
            key=key,
            conditions=frozenset(Condition(name) for name in entry["conditions"]),
            touches=frozenset(Touch(name) for name in entry["touches"]),
            effect=Effect(entry["effect"]),
            reason=entry["reason"],
            source=entry["source"],
            number=float(entry[number]) if number else None,
        )
    except (ValueError, TypeError) as error:
        raise PlanError("rule_broken", key=key, reason=str(error)) from error
    if not (rule.conditions and rule.reason and rule.source):
        raise PlanError("rule_broken", key=key, reason="something is empty")
    if number is None and not rule.touches:
        raise PlanError("rule_broken", key=key, reason="it touches nothing")
    if rule.number is not None and not rule.number > 0:
        raise PlanError("rule_broken", key=key, reason=f"{number} is not above 0")
    return rule


def touching(conditions: Iterable[Condition], touch: Touch, effect: Effect) -> tuple[Rule, ...]:
    """The rules by which these conditions bear on something a task does."""
    known = frozenset(conditions)
    return tuple(
        rule
        for rule in rules()
        if rule.effect is effect and touch in rule.touches and rule.conditions & known
    )


def allows(conditions: Iterable[Condition], touch: Touch) -> bool:
    """Whether nothing blocks it: `allows(…, Touch.SIP)` before any prompt to drink."""
    return not touching(conditions, touch, Effect.BLOCK)


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
    known = frozenset(conditions)
    return tuple(r for r in rules() if r.effect is Effect.LIMIT and r.conditions & known)


def reminders(
    conditions: Iterable[Condition], *, measured_on: date | None, today: date
) -> tuple[Finding, ...]:
    """What is due again: a baseline or probe older than the table allows for these conditions."""
    known = frozenset(conditions)
    if measured_on is None:
        return ()
    days = (today - measured_on).days
    return tuple(
        Finding(rule.key, f"{_names(rule, known)}: {rule.reason}; the last is {days} days old.")
        for rule in rules()
        if rule.effect is Effect.REMIND and rule.conditions & known and days >= (rule.number or 0)
    )


def judged(conditions: Iterable[Condition], does: Mapping[str, Doing], gate: Gate) -> Gate:
    """The gate with what the conditions say of a program: `does` names what each step does.

    A blocked step and minutes over a limit admit no reason; a precaution needs one in writing.
    """
    known = frozenset(conditions)
    found: dict[Effect, list[Finding]] = {effect: [] for effect in Effect}
    for rule in rules():
        if not rule.conditions & known:
            continue
        if rule.effect is Effect.LIMIT:
            found[Effect.BLOCK] += _over(rule, known, does)
            continue
        for name, doing in does.items():
            if rule.touches & doing.touches:
                words = f"{name}: {_names(rule, known).lower()}, {rule.reason}."
                found[rule.effect].append(Finding(rule.key, words))
    return Gate(
        blocks=(*gate.blocks, *found[Effect.BLOCK]),
        needs_reason=(*gate.needs_reason, *found[Effect.PRECAUTION]),
    )


def limited_minutes(rule: Rule, does: Mapping[str, Doing]) -> float:
    """Minutes of a home session that count under a limit."""
    return sum(d.minutes for d in does.values() if not rule.touches or rule.touches & d.touches)


def _over(rule: Rule, known: frozenset[Condition], does: Mapping[str, Doing]) -> list[Finding]:
    minutes, most = limited_minutes(rule, does), rule.number or 0.0
    if minutes <= most + _ROUNDING_MIN:
        return []
    words = f"{_names(rule, known)}: {rule.reason}; these are {minutes:.1f} min. Leave out steps or repetitions."
    return [Finding(rule.key, words)]


def _names(rule: Rule, known: frozenset[Condition]) -> str:
    return in_plain_words(sorted(rule.conditions & known)[0])
