"""Contraindications and precautions: the one table, and what it does to a program."""

from datetime import date, timedelta

import pytest

from core.catalogue.tasks import shipped_tasks
from core.catalogue.touches import Touch
from core.errors import PlanError
from core.safety.condition import FROM_THE_AGE, Condition, in_plain_words
from core.safety.conditions import (
    Doing,
    Effect,
    allows,
    checked_rule,
    conditions_of,
    judged,
    reminders,
    rules,
    touching,
)
from core.safety.gate import Gate, RedFlag, Screening
from core.safety.program_gate import known_conditions, program_gate

TODAY = date(2026, 6, 15)


def sustained_tasks():
    tasks = (task for task in shipped_tasks().values() if task.family == "D")
    return {task.name: Doing(task.touches) for task in tasks}


PRESSURE = [
    "blood_pressure",
    "heart_disease",
    "aneurysm",
    "stroke",
    "glaucoma",
    "hernia",
    "pneumothorax",
    "recent_chest_surgery",
    "recent_abdominal_surgery",
    "recent_eye_surgery",
    "late_pregnancy",
    "severe_lung_disease",
]


def screening(**answers):
    return Screening(**{"asked_on": TODAY, "larynx_examined_on": TODAY} | answers)


@pytest.mark.parametrize("name", PRESSURE)
@pytest.mark.parametrize("touch", ["breath_hold", "balloon", "forceful_puffs", "deep_water"])
def test_what_raises_pressure_is_blocked_by_every_condition_it_can_hurt(name, touch):
    assert not allows({Condition(name)}, Touch(touch))
    assert allows({Condition(name)}, Touch.SUSTAINED)


@pytest.mark.parametrize("name", ["unsafe_swallowing", "fluid_limits"])
def test_unsafe_swallowing_silences_water_and_sips(name):
    for touch in (Touch.WATER, Touch.DEEP_WATER, Touch.SIP):
        assert not allows({Condition(name)}, touch)


@pytest.mark.parametrize("flag", [RedFlag.TROUBLE_SWALLOWING, RedFlag.PAINFUL_SWALLOWING])
def test_a_red_flag_of_swallowing_is_unsafe_swallowing(flag):
    assert Condition.UNSAFE_SWALLOWING in conditions_of((), {flag})
    assert conditions_of((), {RedFlag.EAR_PAIN}) == frozenset()


@pytest.mark.parametrize("name", ["anticoagulants", "osteoporosis"])
def test_a_precaution_asks_for_a_reason_and_does_not_block(name):
    known = {Condition(name)}
    assert allows(known, Touch.NECK_HANDLING)
    assert touching(known, Touch.NECK_HANDLING, Effect.PRECAUTION)
    gate = judged(known, {"Side of the neck": Doing(frozenset({Touch.NECK_HANDLING}))}, Gate())
    assert not gate.opens("")
    assert gate.opens("light touch shown in the visit")


def test_latex_blocks_the_balloon_only():
    blocked = {t for t in Touch if not allows({Condition.LATEX_ALLERGY}, t)}
    assert blocked == {Touch.BALLOON}


def test_acute_laryngitis_suspends_the_sustained_note_program_with_its_reason():
    does = sustained_tasks()
    ill = screening(conditions=frozenset({Condition.ACUTE_LARYNGITIS}))
    gate = program_gate(ill, does, TODAY)
    assert not gate.opens("any reason")
    assert {finding.words.split(":")[0] for finding in gate.blocks} == set(does)
    assert "semi-occluded" in gate.blocks[0].words
    assert program_gate(screening(), does, TODAY).opens("")


def test_a_program_that_touches_nothing_forbidden_is_not_held_up():
    known = frozenset(Condition) - {Condition.ACUTE_LARYNGITIS}
    assert program_gate(screening(conditions=known), sustained_tasks(), TODAY).opens("")


def test_without_a_screening_nothing_opens():
    assert not program_gate(None, {}, TODAY).opens("reason")


def test_every_condition_is_in_the_table_and_has_words():
    named = frozenset().union(*(rule.conditions for rule in rules()))
    assert named == frozenset(Condition)
    for condition in Condition:
        assert in_plain_words(condition)[0].isupper()
    assert all(rule.source and rule.reason for rule in rules())


GOOD = {
    "conditions": ["stroke"],
    "touches": ["balloon"],
    "effect": "block",
    "reason": "why",
    "source": "clinical default",
}


@pytest.mark.parametrize(
    "change",
    [
        {"conditions": ["hiccups"]},
        {"conditions": []},
        {"touches": ["juggling"]},
        {"effect": "maybe"},
        {"reason": ""},
        {"extra": 1},
    ],
)
def test_a_broken_rule_fails_with_its_key(change):
    with pytest.raises(PlanError) as broken:
        checked_rule("some_rule", GOOD | change)
    assert broken.value.code == "rule_broken"
    assert broken.value.params["key"] == "some_rule"


def minutes_of(**steps):
    return {name: Doing(frozenset(map(Touch, touches)), m) for name, (touches, m) in steps.items()}


def test_a_limit_of_minutes_blocks_above_it_and_says_by_how_much():
    ill = frozenset({Condition.ACUTE_LARYNGITIS})
    gentle = minutes_of(hum=(["semi_occluded"], 3.0), straw=(["semi_occluded"], 2.0))
    assert judged(ill, gentle, Gate()).opens("")
    more = gentle | minutes_of(siren=(["semi_occluded"], 1.0), nods=(["neck_handling"], 9.0))
    over = judged(ill, more, Gate())
    assert not over.opens("any reason")
    assert "these are 6.0 min" in over.blocks[0].words
    young = judged(frozenset({Condition.MINOR}), minutes_of(talk=([], 10.5)), Gate())
    assert "up to 10 minutes; these are 10.5 min" in young.blocks[0].words


def test_a_minor_is_known_by_age_and_never_asked_for():
    assert Condition.MINOR in known_conditions(screening(minor=True))
    assert Condition.MINOR not in known_conditions(screening())
    assert frozenset({Condition.MINOR}) == FROM_THE_AGE


@pytest.mark.parametrize(
    ("condition", "days"), [("testosterone", 56), ("minor", 30), ("progressive", 91)]
)
def test_what_is_due_again_is_said_on_its_day_and_not_before(condition, days):
    known = {Condition(condition)}

    def due(age):
        return reminders(known, measured_on=TODAY - timedelta(days=age), today=TODAY)

    assert not due(days - 1)
    assert f"{days} days old" in due(days)[0].words
    assert not reminders(known, measured_on=None, today=TODAY)
    assert not reminders(set(), measured_on=TODAY - timedelta(days=999), today=TODAY)


def test_loudness_with_dystonia_tremor_or_ataxia_needs_a_reason():
    for name in ("dystonia", "tremor", "ataxia"):
        gate = judged({Condition(name)}, minutes_of(ah=(["loudness"], 2.0)), Gate())
        assert not gate.opens("")
        assert gate.opens("mild, agreed with the neurologist")


@pytest.mark.parametrize(
    "odd",
    [
        {"effect": "limit"},
        {"effect": "limit", "most_min": 0},
        {"effect": "limit", "most_min": "five"},
        {"effect": "remind", "most_min": 5},
        {"touches": []},
    ],
)
def test_a_rule_with_a_number_must_have_a_good_one(odd):
    with pytest.raises(PlanError):
        checked_rule("some_rule", GOOD | odd)
