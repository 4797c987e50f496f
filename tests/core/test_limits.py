"""Limits of minutes and the table of rules, field by field."""

import pytest

from core.catalogue.touches import Touch
from core.errors import PlanError
from core.reason import written
from core.safety.condition import Condition
from core.safety.conditions import (
    Effect,
    checked_rule,
    judged,
    limited_minutes,
    limits_a_day,
    rules,
)
from core.safety.gate import Gate
from tests.factories.condition_checks import GOOD, does


def test_an_entry_of_the_table_becomes_a_rule_field_by_field():
    rule = checked_rule("some_rule", GOOD | {"unless": ["gentle"]})
    assert rule.key == "some_rule"
    assert rule.conditions == {Condition(one) for one in GOOD["conditions"]}
    assert rule.touches == {Touch(one) for one in GOOD["touches"]}
    assert rule.effect is Effect(GOOD["effect"])
    assert (rule.reason, rule.source) == (GOOD["reason"], GOOD["source"])
    assert rule.unless == {Touch.GENTLE}
    assert (rule.number, rule.a_day) == (None, False)
    limit = GOOD | {"effect": "limit", "most_min": 5, "per": "day"}
    assert (checked_rule("a", limit).number, checked_rule("a", limit).a_day) == (5, True)
    assert not checked_rule("a", limit | {"per": "session"}).a_day
    due = {**GOOD, "effect": "remind", "every_days": 30}
    assert checked_rule("a", due).number == 30
    with pytest.raises(PlanError) as broken:
        checked_rule("some_rule", GOOD | {"touches": []})
    assert "it touches nothing" in broken.value.params["reason"]
    with pytest.raises(PlanError) as odd:
        checked_rule("some_rule", GOOD | {"effect": "limit"})
    assert "limit does not go with no number" in odd.value.params["reason"]


def test_minutes_of_a_day_are_limited_for_the_young_the_ill_and_progressive_conditions_only():
    assert limits_a_day({Condition.UNDER_TWELVE})
    assert limits_a_day({Condition.PROGRESSIVE})
    assert not limits_a_day({Condition.MINOR})
    assert limits_a_day({Condition.ACUTE_LARYNGITIS, Condition.TREMOR})
    limited = {
        *("under_twelve", "under_sixteen", "acute_laryngitis", "progressive"),
        *("motor_neurone", "myasthenia"),
    }
    assert not limits_a_day({one for one in Condition if one.value not in limited})


def test_what_the_gate_said_before_stays_first_and_nothing_is_said_twice():
    ill = {Condition.ACUTE_LARYNGITIS}
    before = Gate(blocks=(written("asked elsewhere"),), reminds=(written("look again"),))
    twice = [does("ah", 1.0, touches=["sustained", "voiced"])] * 2
    gate = judged(ill, twice, before)
    assert [one.code for one in gate.blocks] == ["written", "acute_laryngitis"]
    assert gate.reminds == before.reminds
    assert gate.blocks[1].params["step"] == "ah"


def test_minutes_just_at_a_limit_are_within_it():
    minor = {Condition.UNDER_TWELVE}
    assert judged(minor, [does("talk", 10.05)], Gate()).opens("")
    assert not judged(minor, [does("talk", 10.06)], Gate()).opens("")
    assert judged(minor, [], Gate()).opens("")
    # of a sitting and its version for a bad day the longer counts
    both = [does("talk", 4.0), does("read", 7.0, short_day=True)]
    limit = next(rule for rule in rules() if rule.key == "minors_minutes")
    assert limited_minutes(limit, both) == 7.0
    assert limited_minutes(limit, []) == 0.0
    day = next(rule for rule in rules() if rule.key == "minors_day")
    assert limited_minutes(day, [does("talk", 4.0, sessions_a_day=3)]) == 12.0
    laryngitis = next(rule for rule in rules() if rule.key == "laryngitis_minutes")
    loud = [
        does("talk", 4.0, touches=["loudness"]),
        does("hum", 1.0, touches=["semi_occluded", "gentle"]),
    ]
    assert limited_minutes(laryngitis, loud) == 1.0


def test_minutes_over_a_limit_are_told_with_what_to_do():
    over = judged({Condition.UNDER_TWELVE}, [does("talk", 11.0)], Gate()).blocks[0]
    assert str(over).startswith("Under 12 years: ")
    assert str(over).endswith("these are 11.0 min, 10 at most. Leave out steps or repetitions.")
