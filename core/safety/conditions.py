"""Contraindications and precautions: one table of data, applied to whatever a program does."""

import tomllib
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from pathlib import Path
from typing import Any

from core.catalogue.touches import Touch
from core.errors import PlanError
from core.safety.condition import Condition, in_plain_words
from core.safety.gate import Finding, Gate, RedFlag

_TABLE = Path(__file__).parent / "conditions.toml"


class Effect(StrEnum):
    BLOCK = "block"
    PRECAUTION = "precaution"


@dataclass(frozen=True, slots=True, kw_only=True)
class Rule:
    """Conditions, what they touch, whether that is blocked or needs a written reason, and why."""

    key: str
    conditions: frozenset[Condition]
    touches: frozenset[Touch]
    effect: Effect
    reason: str
    source: str


@cache
def rules() -> tuple[Rule, ...]:
    """Every rule of the table. Raises PlanError("rule_broken") with key and reason."""
    table = tomllib.loads(_TABLE.read_text(encoding="utf-8"))
    return tuple(checked_rule(key, entry) for key, entry in table.items())


def checked_rule(key: str, entry: dict[str, Any]) -> Rule:
    """One entry of the table as a rule; PlanError("rule_broken") where it does not hold."""
    wanted = {"conditions", "touches", "effect", "reason", "source"}
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
        )
    except ValueError as error:
        raise PlanError("rule_broken", key=key, reason=str(error)) from error
    if not (rule.conditions and rule.touches and rule.reason and rule.source):
        raise PlanError("rule_broken", key=key, reason="something is empty")
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


def judged(
    conditions: Iterable[Condition], does: Mapping[str, frozenset[Touch]], gate: Gate
) -> Gate:
    """The gate with what the conditions say of a program: `does` names what each step touches.

    A blocked step admits no reason; a precaution needs one in writing.
    """
    known = frozenset(conditions)
    found: dict[Effect, list[Finding]] = {effect: [] for effect in Effect}
    for name, touches in does.items():
        for rule in rules():
            having = sorted(rule.conditions & known)
            if having and rule.touches & touches:
                words = f"{name}: {in_plain_words(having[0]).lower()}, {rule.reason}."
                found[rule.effect].append(Finding(rule.key, words))
    return Gate(
        blocks=(*gate.blocks, *found[Effect.BLOCK]),
        needs_reason=(*gate.needs_reason, *found[Effect.PRECAUTION]),
    )
