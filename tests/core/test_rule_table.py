"""The table of rules: every number by its path, and what cannot be is refused with its place."""

import pytest

from core.errors import PlanError
from core.grading.rule import Changed, checked_rule, named_figures, numbers, rules

PART = {
    "each": "note",
    "when": [{"figure": "share", "least": 100}],
    "share": 80,
    "of": 5,
    "need": 4,
}
WHO = {"kinds": ["hold"], "growths": ["seconds"]}


def rule(**more):
    return {"name": "made up", "for": WHO, "climb": PART, **more}


def why(**more):
    with pytest.raises(PlanError) as refused:
        checked_rule("made_up", rule(**more))
    assert refused.value.code == "grading_rule_broken"
    assert refused.value.params["rule"] == "made_up"
    return refused.value.params["reason"]


def test_a_whole_rule_is_read():
    read = checked_rule("made_up", rule(ease={**PART, "when": [{"figure": "share", "under": 70}]}))
    assert (read.code, read.name) == ("made_up", "made up")
    assert (read.climb.share, read.climb.days, read.climb.on_days, read.climb.by) == (
        80,
        1,
        1,
        "session",
    )


@pytest.mark.parametrize(
    ("more", "reason"),
    [
        ({"climb": {**PART, "when": []}}, "climb.when: Tuple should have at least 1 item"),
        (
            {"climb": {**PART, "when": [{"figure": "shape", "least": 1}]}},
            "climb.when.0: no figure is called shape",
        ),
        (
            {"climb": {**PART, "when": [{"figure": "share", "least": 1, "most": 2}]}},
            "climb.when.0: share needs one of least, most, under, over",
        ),
        (
            {"climb": {**PART, "when": [{"figure": "share"}]}},
            "climb.when.0: share needs one of least, most, under, over",
        ),
        (
            {"climb": {**PART, "when": [{"figure": "share", "least": "NO_SUCH_VALUE"}]}},
            "climb.when.0.least: NO_SUCH_VALUE is no reference value",
        ),
        (
            {"climb": {**PART, "share": 101}},
            "climb.share: Input should be less than or equal to 100",
        ),
        ({"climb": {**PART, "share": 0}}, "climb.share: Input should be greater than 0"),
        ({"climb": {**PART, "of": 3}}, "climb: more home sessions are needed than looked at"),
        ({"climb": {**PART, "days": 6}}, "climb: more days are needed than home sessions"),
        ({"climb": {**PART, "on_days": 6}}, "climb: more days are needed than home sessions"),
        (
            {"climb": {**PART, "count": 4}},
            "climb: notes and attempts need one of share, under_share",
        ),
        (
            {"climb": {**PART, "each": "session"}},
            "climb: notes and attempts need one of share, under_share",
        ),
        ({"for": {**WHO, "kinds": ["humming"]}}, "for: unknown: humming"),
        ({"for": {**WHO, "families": ["Z"]}}, "for: unknown: Z"),
        ({"extra": 1}, "extra: Extra inputs are not permitted"),
        ({"name": ""}, "name: String should have at least 1 character"),
        ({"contact_strain": 11}, "contact_strain: Input should be less than or equal to 10"),
    ],
)
def test_what_cannot_be_is_refused_with_its_place(more, reason):
    assert why(**more).startswith(reason)


@pytest.mark.parametrize(
    ("climb", "ease", "reason"),
    [
        (
            {"share": 60},
            {"share": None, "under_share": 61},
            "share: 60 to climb crosses 61 to ease",
        ),
        (
            {"when": [{"figure": "done", "least": 50}]},
            {"when": [{"figure": "done", "under": 51}]},
            "done: 50 to climb crosses 51 to ease",
        ),
        (
            {"when": [{"figure": "stops", "most": 3}]},
            {"when": [{"figure": "stops", "over": 2}]},
            "stops: 3 to climb crosses 2 to ease",
        ),
    ],
)
def test_nothing_climbs_by_what_also_eases_it(climb, ease, reason):
    up = {key: value for key, value in {**PART, **climb}.items() if value is not None}
    down = {key: value for key, value in {**PART, **ease}.items() if value is not None}
    assert why(climb=up, ease=down) == reason


@pytest.mark.parametrize(
    ("climb", "ease"),
    [
        ({"share": 60}, {"share": None, "under_share": 60}),
        ({"when": [{"figure": "done", "least": 50}]}, {"when": [{"figure": "done", "under": 50}]}),
        ({"when": [{"figure": "stops", "most": 2}]}, {"when": [{"figure": "stops", "over": 2}]}),
        ({"when": [{"figure": "done", "least": 50}]}, {"when": [{"figure": "stops", "over": 2}]}),
    ],
)
def test_what_only_touches_is_allowed(climb, ease):
    down = {key: value for key, value in {**PART, **ease}.items() if value is not None}
    assert checked_rule("made_up", rule(climb={**PART, **climb}, ease=down)).ease is not None


@pytest.mark.parametrize(
    ("path", "shipped", "other"),
    [
        ("common.flat_days", 21, 28),
        ("common.kept_to_climb", 0.5, 0.6),
        ("common.days_between_climbs", 7, 10),
        ("sustained.climb.share", 80, 100),
        ("sustained.climb.need", 4, 5),
        ("sustained.climb.when.pitch_sd.most", 0.5, 0.4),
        ("sustained.climb.when.pitch_sd.own", 1.1, 1.2),
        ("sustained.climb.when.trail_off.least", -4, -3),
        ("sustained.ease.when.share.under", 70, 65),
        ("sustained.ease.count", 3, 2),
        ("strong_holds.climb.besides.strain.most", 2, 1),
        ("strong_holds.ease.under_share", 60, 50),
        ("target_pitch.contact_strain", 4, 3),
    ],
)
def test_a_number_is_changed_by_its_path(path, shipped, other):
    assert numbers(rules())[path] == shipped
    changed = numbers(rules([Changed(path, other)]))
    assert changed[path] == other
    assert {name for name, value in changed.items() if value != numbers(rules())[name]} == {path}


@pytest.mark.parametrize(
    "path",
    [
        "",
        "common",
        "common.nothing",
        "nothing.climb.share",
        "sustained.name",
        "sustained.climb",
        "sustained.climb.when",
        "sustained.climb.when.share",
        "sustained.climb.when.share.most",
        "sustained.climb.when.gaps.most",
        "sustained.climb.each.share",
        "sustained.share",
        "sustained.ease.every",
    ],
)
def test_a_number_that_no_rule_has_is_refused(path):
    with pytest.raises(PlanError) as refused:
        rules([Changed(path, 1.0)])
    assert refused.value.code in ("number_unknown", "grading_rule_broken")
    assert numbers(rules())["common.flat_days"] == 21


@pytest.mark.parametrize(
    ("path", "value", "reason"),
    [
        ("common.probe_days", 6, "probing again comes after going one rung down"),
        ("common.unchanged_days", 20, "examining again comes after teaching again"),
        ("common.strain_contact", 3, "the strain at which nothing climbs is not over"),
        ("common.flat_days", 6, "flat_days: Input should be greater than or equal to 7"),
        ("sustained.climb.need", 4.5, "climb.need: Input should be a valid integer"),
    ],
)
def test_numbers_that_contradict_each_other_are_refused(path, value, reason):
    with pytest.raises(PlanError) as refused:
        rules([Changed(path, value)])
    assert refused.value.code == "grading_rule_broken"
    assert refused.value.params["reason"].startswith(reason)


def test_at_the_edge_they_stand():
    same = [
        Changed("common.probe_days", 7),
        Changed("common.unchanged_days", 21),
        Changed("common.strain_contact", 4),
    ]
    assert numbers(rules(same))["common.unchanged_days"] == 21


def test_what_is_kept_of_a_session_is_what_rules_and_courses_read():
    kept = named_figures()
    assert {
        "share",
        "pitch_sd",
        "trail_off",
        "over_db",
        "strain",
        "best_s",
        "done",
        "missing",
    } <= kept
    assert "rate" not in kept
