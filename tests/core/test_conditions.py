"""Contraindications and precautions: the one table, and what it does to a program."""

from dataclasses import replace
from datetime import date, timedelta

import pytest

from core.catalogue.tasks import shipped_tasks
from core.catalogue.touches import Touch
from core.errors import PlanError
from core.safety.combined_screening import OneScreening, standing
from core.safety.condition import FROM_THE_RECORD, Condition, in_plain_words
from core.safety.conditions import (
    Effect,
    allows,
    checked_rule,
    conditions_of,
    judged,
    known_conditions,
    reminders,
    rules,
    touching,
)
from core.safety.gate import Gate
from core.safety.program_gate import program_gate
from core.safety.screening import RedFlag, Screening
from tests.factories.condition_checks import GOOD, TODAY, ago, does


def sustained_tasks():
    tasks = (task for task in shipped_tasks().values() if task.family == "D")
    return [does(task.name, touches=[*task.touches, "voiced"]) for task in tasks]


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
@pytest.mark.parametrize(
    "touch", ["breath_hold", "balloon", "forceful_puffs", "deep_water", "bending_forward"]
)
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
    assert touching(known, frozenset({Touch.NECK_HANDLING}), Effect.PRECAUTION)
    gate = judged(known, [does("Side of the neck", touches=["neck_handling"])], Gate())
    assert not gate.opens("")
    assert gate.opens("light touch shown in the visit")


def test_latex_blocks_the_balloon_only():
    blocked = {t for t in Touch if not allows({Condition.LATEX_ALLERGY}, t)}
    assert blocked == {Touch.BALLOON, Touch.UNKNOWN}


def test_acute_laryngitis_suspends_the_sustained_note_program_with_its_reason():
    doings = sustained_tasks()
    ill = screening(conditions=frozenset({Condition.ACUTE_LARYNGITIS}))
    gate = program_gate(ill, doings, TODAY)
    assert not gate.opens("any reason")
    assert {one.params["step"] for one in gate.blocks} == {d.name for d in doings}
    assert {one.code for one in gate.blocks} == {"acute_laryngitis"}
    assert "semi-occluded" in str(gate.blocks[0])
    assert program_gate(screening(), doings, TODAY).opens("")


def test_a_program_that_touches_nothing_forbidden_is_not_held_up():
    known = frozenset(Condition) - FROM_THE_RECORD - {Condition.ACUTE_LARYNGITIS}
    known -= {Condition.DYSTONIA, Condition.TREMOR, Condition.FOLD_SURGERY}
    assert program_gate(screening(conditions=known), sustained_tasks(), TODAY).opens("")


def test_without_a_screening_nothing_opens():
    assert not program_gate(None, (), TODAY).opens("reason")


def test_every_condition_is_in_the_table_and_has_words():
    named = frozenset().union(*(rule.conditions for rule in rules()))
    # slowed movement forbids nothing: it is what leads to strong voice
    assert named == frozenset(Condition) - {Condition.SLOWED_MOVEMENT}
    for condition in Condition:
        assert str(in_plain_words(condition))[0].isupper()
    assert all(rule.source and rule.reason for rule in rules())


@pytest.mark.parametrize(
    "change",
    [
        {"conditions": ["hiccups"]},
        {"conditions": []},
        {"touches": ["juggling"]},
        {"effect": "maybe"},
        {"reason": ""},
        {"extra": 1},
        {"effect": ["block"]},
        {"touches": []},
        {"most_min": 5, "per": "day"},
        {"effect": "limit", "most_min": 5},
        {"effect": "limit", "most_min": 0, "per": "day"},
        {"effect": "limit", "most_min": float("inf"), "per": "day"},
        {"effect": "remind", "every_days": -1},
        {"effect": "remind"},
    ],
)
def test_a_broken_rule_fails_with_its_key(change):
    with pytest.raises(PlanError) as broken:
        checked_rule("some_rule", GOOD | change)
    assert broken.value.code == "rule_broken"
    assert broken.value.params["key"] == "some_rule"


def test_a_limit_of_minutes_blocks_above_it_and_says_by_how_much():
    ill = frozenset({Condition.ACUTE_LARYNGITIS})
    soft = ["semi_occluded", "voiced", "gentle"]
    gentle = [does("hum", 3.0, touches=soft), does("straw", 2.0, touches=soft)]
    assert judged(ill, gentle, Gate()).opens("")
    more = [*gentle, does("air", 1.0, touches=["semi_occluded"]), does("nods", 9.0)]
    over = judged(ill, more, Gate())
    assert not over.opens("any reason")
    assert over.blocks[0].params["minutes"] == pytest.approx(6.0)
    assert over.blocks[0].params["most"] == 5
    assert over.blocks[0].params["having"] == in_plain_words(Condition.ACUTE_LARYNGITIS)
    # 5 minutes a day over all: 2.6 minutes twice a day are 5.2
    assert judged(ill, [does("hum", 2.5, sessions_a_day=2, touches=soft)], Gate()).opens("")
    twice = judged(ill, [does("hum", 2.6, sessions_a_day=2, touches=soft)], Gate())
    assert twice.blocks[0].params["minutes"] == pytest.approx(5.2)
    young = judged(frozenset({Condition.UNDER_TWELVE}), [does("talk", 10.5)], Gate())
    assert (young.blocks[0].code, young.blocks[0].params["most"]) == ("minors_minutes", 10)
    assert young.blocks[0].params["minutes"] == pytest.approx(10.5)
    # a minor's limit is of each session, the version for a bad day is one of its own, and a day has
    # room for two such sessions, whatever they are
    minor = frozenset({Condition.UNDER_TWELVE})
    assert judged(minor, [does("talk", 9.9, sessions_a_day=2)], Gate()).opens("")
    thrice = judged(minor, [does("talk", 9.9, sessions_a_day=3)], Gate())
    assert (thrice.blocks[0].code, thrice.blocks[0].params["most"]) == ("minors_day", 20)
    assert judged(minor, [does("talk", 9.0), does("read", 5.0, short_day=True)], Gate()).opens("")
    assert not judged(minor, [does("talk", 1.0), does("read", 11.0, short_day=True)], Gate()).opens(
        ""
    )


def test_a_minor_is_known_by_age_and_never_asked_for():
    assert Condition.MINOR in known_conditions(screening(minor=True), TODAY)
    assert Condition.MINOR not in known_conditions(screening(), TODAY)
    assert Condition.MINOR in FROM_THE_RECORD


@pytest.mark.parametrize(
    ("condition", "days"), [("testosterone", 56), ("minor", 30), ("progressive", 91)]
)
def test_what_is_due_again_is_said_on_its_day_and_not_before(condition, days):
    known = {Condition(condition)}

    def due(age):
        return reminders(known, measured_on=TODAY - timedelta(days=age), today=TODAY)

    assert not due(days - 1)
    assert due(days)[0].params["days"] == days
    assert due(days)[0].params["having"] == in_plain_words(Condition(condition))
    assert f"{days} days old" in str(due(days)[0])
    assert due(days)[0].code in {rule.key for rule in rules()}
    assert not reminders(known, measured_on=None, today=TODAY)
    assert not reminders(set(), measured_on=TODAY - timedelta(days=999), today=TODAY)


def test_loudness_with_dystonia_tremor_or_ataxia_needs_a_reason():
    for name in ("dystonia", "tremor", "ataxia"):
        gate = judged({Condition(name)}, [does("ah", 2.0, touches=["loudness"])], Gate())
        assert gate.needs_reason[0].params["step"] == "ah"
        assert gate.needs_reason[0].params["having"] == in_plain_words(Condition(name))
        assert not gate.opens("")
        assert gate.opens("mild, agreed with the neurologist")


@pytest.mark.parametrize(
    "odd",
    [
        {"effect": "limit"},
        {"effect": "limit", "most_min": 0, "per": "day"},
        {"effect": "limit", "most_min": 5},
        {"effect": "limit", "most_min": 5, "per": "month"},
        {"unless": ["juggling"]},
        {"effect": "limit", "most_min": "five"},
        {"effect": "remind", "most_min": 5},
        {"touches": []},
    ],
)
def test_a_rule_with_a_number_must_have_a_good_one(odd):
    with pytest.raises(PlanError):
        checked_rule("some_rule", GOOD | odd)


@pytest.mark.parametrize("name", [*PRESSURE, "fold_lesions"])
def test_loudness_under_pressure_or_on_lesions_needs_a_reason(name):
    gate = judged({Condition(name)}, [does("ah", 2.0, touches=["loudness"])], Gate())
    assert not gate.opens("")
    assert gate.opens("agreed with the physician")


def test_loudness_after_surgery_of_the_folds_waits_for_the_release():
    operated = screening(conditions=frozenset({Condition.FOLD_SURGERY}))
    strong = [does("ah", 2.0, touches=["loudness", "voiced"])]
    assert not program_gate(operated, strong, TODAY).opens("reason")
    soft = [does("hum", 2.0, touches=["semi_occluded", "voiced"])]
    # the day is not known, and the larynx was examined after it was told
    assert program_gate(operated, soft, TODAY).opens("")
    assert not program_gate(replace(operated, larynx_examined_on=ago(1)), soft, TODAY).opens(
        "reason"
    )
    released = replace(operated, released_on=TODAY)
    assert program_gate(released, strong, TODAY).opens("")
    ahead = replace(operated, released_on=TODAY + timedelta(days=1))
    assert not program_gate(ahead, strong, TODAY).opens("reason")


def test_a_release_of_an_earlier_surgery_does_not_open_for_a_later_one():
    strong = [does("ah", 2.0, touches=["loudness", "voiced"])]

    def opens(told):
        return program_gate(told, strong, TODAY).opens("reason")

    def operated(days_ago, **answers):
        conditions = frozenset({Condition.FOLD_SURGERY})
        return screening(asked_on=ago(days_ago), conditions=conditions, **answers)

    # told today, its day not known; the release is from years ago
    assert not opens(operated(0, released_on=ago(900)))
    assert opens(operated(0, released_on=ago(20), folds_operated_on=ago(60)))
    assert opens(operated(0, released_on=ago(20), folds_operated_on=ago(20)))
    assert not opens(operated(0, released_on=ago(20), folds_operated_on=ago(19)))
    # the release of the first operation stays in the record, the second has none yet
    first = OneScreening(screening=operated(300, released_on=ago(290), folds_operated_on=ago(320)))
    again = OneScreening(screening=operated(5, folds_operated_on=ago(15)))
    assert not opens(standing([first, again]))
    # the same operation told again stays released, though nobody repeats its day
    assert opens(standing([first, OneScreening(screening=operated(5))]))
    undated = OneScreening(screening=operated(300, released_on=ago(290)))
    told = [OneScreening(screening=operated(320)), undated, OneScreening(screening=operated(5))]
    assert opens(standing(told))


@pytest.mark.parametrize(
    ("name", "touch"),
    [
        ("late_pregnancy", "lying_flat"),
        ("breathless", "lying_flat"),
        ("unsafe_swallowing", "lying_flat"),
        ("fall_risk", "bending_forward"),
        ("fall_risk", "standing"),
        ("unstable_neck", "neck_handling"),
        ("carotid_disease", "neck_handling"),
        ("recent_jaw_surgery", "jaw_handling"),
    ],
)
def test_how_a_body_may_not_be_put_or_touched(name, touch):
    assert not allows({Condition(name)}, Touch(touch))
    assert allows({Condition.TESTOSTERONE}, Touch(touch))


def test_what_nobody_has_said_is_suspended_by_every_condition_that_blocks():
    blocking = {c for rule in rules() if rule.effect is Effect.BLOCK for c in rule.conditions}
    own = does("Own task", 1.0, touches=["unknown"])
    for condition in blocking - {Condition.UNDER_TWELVE, Condition.UNDER_SIXTEEN}:
        gate = judged({condition}, [own], Gate())
        assert not gate.opens("reason")
        assert "nobody has said" in str(gate.blocks[0])
    assert judged({Condition.SLOWED_MOVEMENT}, [own], Gate()).opens("")


@pytest.mark.parametrize(
    ("answers", "ill"),
    [
        ({"cold": True, "hoarse_weeks": 1.0, "larynx_examined_on": None}, True),
        ({"cold": True, "hoarse_weeks": 2.9, "larynx_examined_on": None}, True),
        ({"cold": True, "hoarse_weeks": 3.0, "larynx_examined_on": None}, False),
        ({"cold": True, "hoarser": True, "hoarse_weeks": 40.0}, False),  # examined today
        (
            {
                "cold": True,
                "hoarser": True,
                "hoarse_weeks": 40.0,
                "larynx_examined_on": date(2026, 6, 14),
            },
            True,
        ),
        ({"cold": True, "larynx_examined_on": None}, False),
        ({"hoarse_weeks": 0.2, "larynx_examined_on": None}, False),  # hoarse without a cold
        ({"cold": True, "hoarse_weeks": 1.0, "larynx_examined_on": date(2026, 6, 8)}, False),
        ({"cold": True, "hoarse_weeks": 1.0, "larynx_examined_on": date(2026, 6, 7)}, True),
    ],
)
def test_a_cold_that_makes_newly_hoarse_or_hoarser_is_acute_laryngitis(answers, ill):
    known = known_conditions(screening(**answers), TODAY)
    assert (Condition.ACUTE_LARYNGITIS in known) is ill
