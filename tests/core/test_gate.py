"""The first safety gate and what a client needs next."""

from datetime import timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.grading.act import Act, Proposal
from core.grading.need import Need, Needed, coming, need_of
from core.reference import values
from core.safety.combined_screening import OneScreening, standing
from core.safety.gate import Occasion, activation_gate
from core.safety.screening import RedFlag, Screening, in_words
from tests.factories.gate import TODAY, facts


def screening(**answers):
    usual = {
        "asked_on": TODAY,
        "larynx_examined_on": TODAY - timedelta(days=10),
        "trouble_began_on": TODAY - timedelta(days=30),
    }
    return Screening(**usual | answers)


def test_examined_and_clear_opens_without_a_word():
    assert activation_gate(screening(), TODAY).opens("")


def test_no_screening_never_opens():
    gate = activation_gate(None, TODAY)
    assert not gate.opens("a very good reason")
    assert gate.blocks[0].code == "not_screened"


ABSOLUTE = ["blood", "fresh_haemorrhage", "noisy_breathing"]
EXAMINED = [
    "painful_swallowing",
    "ear_pain",
    "neck_lump",
    "trouble_swallowing",
    "weight_loss",
    "sudden_loss",
    "smoking_hoarse",
]


def ago(days):
    return TODAY - timedelta(days=days)


def flagged(name, *, noted, **answers):
    flag = RedFlag(name)
    return screening(red_flags=frozenset({flag}), noted_on={flag: noted}, **answers)


@pytest.mark.parametrize("name", ABSOLUTE)
def test_blood_noise_and_haemorrhage_open_by_a_clearance_after_the_finding_only(name):
    assert not activation_gate(flagged(name, noted=ago(5)), TODAY).opens("reason")
    # an old clearance, valid for years, clears nothing that was noted after it
    old = flagged(name, noted=ago(5), cleared_on=ago(90), cleared_from=ago(80))
    assert not activation_gate(old, TODAY).opens("reason")
    # given before, valid from a day after: it was still given for something else
    before = flagged(name, noted=ago(5), cleared_on=ago(6), cleared_from=ago(1))
    assert not activation_gate(before, TODAY).opens("reason")
    ahead = flagged(name, noted=ago(5), cleared_on=ago(1), cleared_from=TODAY + timedelta(days=1))
    assert not activation_gate(ahead, TODAY).opens("reason")
    for day in (ago(5), ago(1)):  # the same day counts as after
        cleared = flagged(name, noted=ago(5), cleared_on=day, cleared_from=TODAY)
        assert activation_gate(cleared, TODAY).opens("")
    # where only one day of a clearance is known it stands for both
    assert activation_gate(flagged(name, noted=ago(5), cleared_from=ago(4)), TODAY).opens("")
    assert not activation_gate(flagged(name, noted=ago(5), cleared_from=ago(6)), TODAY).opens("x")


@pytest.mark.parametrize("name", EXAMINED)
def test_other_red_flags_open_by_an_examination_after_the_finding_and_by_no_reason(name):
    before = flagged(name, noted=ago(5), larynx_examined_on=ago(6))
    gate = activation_gate(before, TODAY)
    assert not gate.opens("seen by the ear, nose and throat clinic last week")
    assert gate.blocks[0].code == name
    assert gate.blocks[0].params["noted"] == ago(5).isoformat()
    assert str(gate.blocks[0]).startswith(str(in_words(RedFlag(name))))
    assert not activation_gate(flagged(name, noted=ago(5), cleared_on=ago(1)), TODAY).opens("x")
    after = flagged(name, noted=ago(5), larynx_examined_on=ago(5), trouble_began_on=ago(30))
    assert activation_gate(after, TODAY).opens("")


def test_recent_surgery_opens_by_the_surgeons_release():
    seen = flagged("recent_surgery", noted=ago(20), larynx_examined_on=ago(1))
    assert not activation_gate(seen, TODAY).opens("reason")
    early = flagged("recent_surgery", noted=ago(20), released_on=ago(21))
    assert not activation_gate(early, TODAY).opens("reason")
    released = flagged("recent_surgery", noted=ago(20), released_on=ago(2))
    assert activation_gate(released, TODAY).opens("")


def test_a_drooping_face_shows_the_emergency_number_and_opens_only_by_a_new_screening():
    name = "face_or_speech_sudden"
    here = activation_gate(screening(red_flags=frozenset({RedFlag(name)})), TODAY)
    assert not here.opens("reason")
    assert here.emergency
    assert here.blocks[0].code == name
    assert "emergency number" in str(here.blocks[0])
    # looked at, but this is still the screening in which it was noted
    same = flagged(name, noted=TODAY, looked_at_on=TODAY)
    assert not activation_gate(same, TODAY).opens("reason")
    # asked again before it was looked at
    soon = flagged(name, noted=ago(9), looked_at_on=ago(1), asked_on=ago(3))
    assert not activation_gate(soon, TODAY).opens("reason")
    anew = flagged(name, noted=ago(9), looked_at_on=ago(4), asked_on=ago(3))
    assert activation_gate(anew, TODAY).opens("")


def test_an_examination_counts_from_the_day_the_trouble_began():
    before = screening(larynx_examined_on=ago(40), trouble_began_on=ago(39))
    gate = activation_gate(before, TODAY)
    assert not gate.opens("")
    assert gate.opens("a colleague looked by mirror")
    began = gate.needs_reason[0]
    assert began.code == "examined_before_it_began"
    assert dict(began.params) == {"on": ago(40).isoformat(), "began": ago(39).isoformat()}
    assert activation_gate(
        screening(larynx_examined_on=ago(40), trouble_began_on=ago(40)), TODAY
    ).opens("")
    # hoarse for 6 weeks = 42 days tells when it began, where the day was not asked
    weeks = {"trouble_began_on": None, "hoarse_weeks": 6}
    assert activation_gate(screening(larynx_examined_on=ago(40), **weeks), TODAY).opens("")
    early = screening(larynx_examined_on=ago(43), **weeks)
    assert not activation_gate(early, TODAY).opens("")
    # not known when it began: an examination before the day of asking may be too old
    unknown = activation_gate(screening(larynx_examined_on=ago(2), trouble_began_on=None), TODAY)
    assert unknown.needs_reason[0].code == "examined_began_unknown"
    assert unknown.needs_reason[0].params["on"] == ago(2).isoformat()


def test_an_examination_years_old_satisfies_no_first_activation_and_later_only_reminds():
    old = screening(larynx_examined_on=ago(183), trouble_began_on=ago(2000))
    first = activation_gate(old, TODAY)
    assert not first.opens("")
    assert dict(first.needs_reason[0].params) == {"days": 183, "most_days": 182}
    later = activation_gate(old, TODAY, Occasion(first=False))
    assert later.opens("")
    assert later.reminds[0].code == "examination_old"
    fresh = screening(larynx_examined_on=ago(182), trouble_began_on=ago(2000))
    assert activation_gate(fresh, TODAY).opens("")
    # the clinic's own number
    assert not activation_gate(fresh, TODAY, Occasion(examination_days=90)).opens("")
    assert activation_gate(old, TODAY, Occasion(examination_days=366)).opens("")


def test_the_weeks_of_hoarseness_set_the_urgency():
    def why(weeks, **numbers):
        never = screening(larynx_examined_on=None, hoarse_weeks=weeks)
        return activation_gate(never, TODAY, Occasion(**numbers)).needs_reason[0]

    assert why(2.0).code == "not_examined"
    assert (why(2.5).code, why(2.5).params["weeks"]) == ("hoarse_not_examined", 2.5)
    assert why(3.0, hoarse_weeks=4).code == "not_examined"
    tomorrow = screening(larynx_examined_on=ago(-1), hoarse_weeks=None)
    assert activation_gate(tomorrow, TODAY).needs_reason[0].code == "not_examined"


def asked(days_ago, *flags, mistaken=(), **answers):
    day = ago(days_ago)
    noted = {RedFlag(flag): day for flag in flags}
    return OneScreening(
        screening=screening(asked_on=day, red_flags=frozenset(noted), noted_on=noted, **answers),
        mistaken=frozenset(RedFlag(flag) for flag in mistaken),
    )


def test_a_red_flag_nobody_ticks_again_stays_until_something_opens_it():
    still = standing([asked(30, "blood"), asked(10)])
    assert still.noted(RedFlag.BLOOD) == ago(30)
    assert not activation_gate(still, TODAY).opens("reason")
    cleared = standing([asked(30, "blood"), asked(10, cleared_on=ago(20), cleared_from=ago(20))])
    assert activation_gate(cleared, TODAY).opens("")
    # bleeding again, after that clearance: the old one opens nothing, asked twice or three times
    again = [
        asked(30, "blood"),
        asked(10, cleared_on=ago(20), cleared_from=ago(20)),
        asked(2, "blood"),
    ]
    assert not activation_gate(standing(again), TODAY).opens("reason")
    assert not activation_gate(standing([*again, asked(0)]), TODAY).opens("reason")
    error = standing([asked(30, "blood"), asked(10, mistaken=["blood"])])
    assert activation_gate(error, TODAY).opens("")
    assert standing([]) is None


def test_a_drooping_face_is_gone_once_it_was_looked_at_and_asked_again():
    name = "face_or_speech_sudden"
    assert not activation_gate(standing([asked(9, name), asked(3)]), TODAY).opens("x")
    seen = standing([asked(9, name), asked(3, looked_at_on=ago(5))])
    assert activation_gate(seen, TODAY).opens("")
    late = standing([asked(9, name), asked(6), asked(3, name), asked(1, looked_at_on=ago(5))])
    assert not activation_gate(late, TODAY).opens("x")


def test_voice_rest_ends_on_its_day():
    resting = screening(voice_rest_until=TODAY + timedelta(days=2))
    rest = activation_gate(resting, TODAY).blocks[0]
    assert (rest.code, dict(rest.params)) == ("voice_rest", {"until": "2026-06-17"})
    assert not activation_gate(resting, TODAY).opens("reason")
    assert not activation_gate(resting, TODAY + timedelta(days=1)).opens("reason")
    assert activation_gate(resting, TODAY + timedelta(days=2)).opens("")


def test_a_minor_needs_the_guardians_consent():
    young = activation_gate(screening(minor=True), TODAY)
    assert [one.code for one in young.blocks] == ["consent_missing"]
    assert not young.opens("reason")
    assert activation_gate(screening(minor=True, guardian_consent=True), TODAY).opens("")


def test_an_old_screening_is_asked_again():
    old = screening(asked_on=TODAY - timedelta(days=183))
    asked_again = activation_gate(old, TODAY).needs_reason[0]
    assert (asked_again.code, asked_again.params["days"]) == ("screening_old", 183)
    assert activation_gate(screening(asked_on=TODAY - timedelta(days=182)), TODAY).opens("")


@given(
    st.frozensets(st.sampled_from(RedFlag), min_size=1),
    st.text(max_size=20),
    st.integers(0, 400),
    st.integers(0, 400),
)
def test_no_reason_whatever_opens_over_a_red_flag_newer_than_what_would_open_it(
    flags, reason, days, older
):
    """Everything that opens a flag was given a day or more before it was noted."""
    day = ago(days + older + 1)
    answers = screening(
        red_flags=flags,
        noted_on=dict.fromkeys(flags, ago(days)),
        larynx_examined_on=day,
        cleared_on=day,
        cleared_from=TODAY,
        released_on=day,
        looked_at_on=day,
        trouble_began_on=ago(900),
    )
    gate = activation_gate(answers, TODAY)
    assert not gate.opens(reason)
    assert len(gate.blocks) == len(flags)


@pytest.mark.parametrize(
    ("changes", "need"),
    [
        ({}, Need.ON_COURSE),
        ({"stop_sign_open": True, "set_aside": 2}, Need.STOP_SIGN),
        ({"set_aside": 1, "gate_closed": True}, Need.SET_ASIDE),
        ({"gate_closed": True, "last_session": None}, Need.EXAMINATION),
        ({"last_session": TODAY - timedelta(days=8)}, Need.LAPSED),
        ({"last_session": TODAY - timedelta(days=7)}, Need.ON_COURSE),
        ({"last_session": None}, Need.LAPSED),
        ({"last_session": None, "active_since": TODAY - timedelta(days=2)}, Need.ON_COURSE),
        ({"kept_14_days": 26, "added_14_days": 12}, Need.OVER_KEEN),
        ({"active_since": TODAY - timedelta(days=40)}, Need.ON_COURSE),
        ({"active_since": None}, Need.PROGRAM),
        ({"active_since": None, "has_baseline": False}, Need.BASELINE),
        ({"active_since": None, "gate_closed": True}, Need.EXAMINATION),
    ],
)
def test_what_a_client_needs_next(changes, need):
    assert need_of(facts(**changes), [], TODAY).need is need


@pytest.mark.parametrize(
    ("act", "need"),
    [
        ("emergency", Need.CALL),
        ("contact", Need.CALL),
        ("examine", Need.EXAMINATION),
        ("probe", Need.LOWER),
        ("rung_down", Need.LOWER),
        ("ease", Need.LOWER),
        ("stage_back", Need.LOWER),
        ("review", Need.REVIEW),
        ("remeasure", Need.REVIEW),
        ("swap", Need.REVIEW),
        ("teach", Need.REVIEW),
        ("taper", Need.READY_TO_CLIMB),
        ("discharge", Need.READY_TO_CLIMB),
        ("climb", Need.READY_TO_CLIMB),
        ("stay", Need.ON_COURSE),
    ],
)
def test_what_the_rules_propose_makes_the_need(act, need):
    (proposal, other) = Proposal(act=Act(act)), Proposal(act=Act.STAY)
    found = need_of(facts(), [other, proposal], TODAY)
    assert found.need is need
    assert (found.proposal is proposal) == (act != "stay")


def test_being_away_comes_before_what_would_climb_but_not_before_a_call():
    away = facts(last_session=TODAY - timedelta(days=9))
    climb, call = Proposal(act=Act.CLIMB), Proposal(act=Act.CONTACT)
    assert need_of(away, [climb], TODAY).need is Need.LAPSED
    assert need_of(away, [call, climb], TODAY).need is Need.CALL


def test_without_a_program_no_proposal_counts():
    new = facts(active_since=None)
    assert need_of(new, [Proposal(act=Act.CLIMB)], TODAY).need is Need.PROGRAM


def test_what_must_not_wait_is_never_put_off():
    assert [need for need in Need if not need.waits] == [
        Need.STOP_SIGN,
        Need.SET_ASIDE,
        Need.CALL,
    ]


def test_the_coming_days_are_stretches_and_the_last_holds_on():
    def needed_on(day):
        return Needed(Need.LAPSED if day >= TODAY + timedelta(days=6) else Need.ON_COURSE)

    found = coming(needed_on, TODAY, days=60)
    assert [(one.since, one.needed.need) for one in found] == [
        (TODAY, Need.ON_COURSE),
        (TODAY + timedelta(days=6), Need.LAPSED),
    ]


def test_every_reference_value_has_unit_and_source():
    found = [v for v in vars(values).values() if isinstance(v, values.Reference)]
    assert len(found) > 25
    assert all(value.unit and value.source for value in found)


def test_a_clearance_counts_on_the_day_it_is_given_and_either_day_alone_will_do():
    for answers in (
        {"cleared_on": TODAY, "cleared_from": TODAY},
        {"cleared_on": TODAY},
        {"cleared_from": TODAY},
    ):
        assert activation_gate(flagged("blood", noted=ago(3), **answers), TODAY).opens("")
    later = {"cleared_on": TODAY, "cleared_from": ago(-1)}
    assert not activation_gate(flagged("blood", noted=ago(3), **later), TODAY).opens("x")
    assert not activation_gate(flagged("blood", noted=ago(3)), TODAY).opens("x")
