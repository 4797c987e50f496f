"""The first safety gate and what a client needs next."""

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.grading.need import ClientFacts, Need, need_of
from core.reference import values
from core.safety.gate import ABSOLUTE, RedFlag, Screening, activation_gate, in_words

TODAY = date(2026, 6, 15)


def screening(**answers):
    usual = {"asked_on": TODAY, "larynx_examined_on": TODAY - timedelta(days=10)}
    return Screening(**usual | answers)


def test_examined_and_clear_opens_without_a_word():
    assert activation_gate(screening(), TODAY).opens("")


def test_no_screening_never_opens():
    gate = activation_gate(None, TODAY)
    assert not gate.opens("a very good reason")
    assert "No screening" in gate.blocks[0].words


@pytest.mark.parametrize("flag", sorted(ABSOLUTE))
def test_absolute_flags_open_only_from_the_examiners_date(flag):
    flagged = screening(red_flags=frozenset({flag}))
    assert not activation_gate(flagged, TODAY).opens("reason")
    tomorrow = screening(red_flags=frozenset({flag}), cleared_from=TODAY + timedelta(days=1))
    assert not activation_gate(tomorrow, TODAY).opens("reason")
    cleared = screening(red_flags=frozenset({flag}), cleared_from=TODAY)
    assert activation_gate(cleared, TODAY).opens("")


@pytest.mark.parametrize("flag", sorted(set(RedFlag) - ABSOLUTE))
def test_other_red_flags_want_a_written_reason(flag):
    gate = activation_gate(screening(red_flags=frozenset({flag})), TODAY)
    assert not gate.opens("")
    assert not gate.opens("   ")
    assert gate.opens("seen by the ear, nose and throat clinic last week")
    assert in_words(flag).lower() in gate.needs_reason[0].words.lower()


def test_voice_rest_ends_on_its_day():
    resting = screening(voice_rest_until=TODAY + timedelta(days=2))
    assert not activation_gate(resting, TODAY).opens("reason")
    assert not activation_gate(resting, TODAY + timedelta(days=1)).opens("reason")
    assert activation_gate(resting, TODAY + timedelta(days=2)).opens("")


def test_a_minor_needs_the_guardians_consent():
    assert not activation_gate(screening(minor=True), TODAY).opens("reason")
    assert activation_gate(screening(minor=True, guardian_consent=True), TODAY).opens("")


def test_an_old_screening_is_asked_again():
    old = screening(asked_on=TODAY - timedelta(days=183))
    assert "183 days old" in activation_gate(old, TODAY).needs_reason[0].words
    assert activation_gate(screening(asked_on=TODAY - timedelta(days=182)), TODAY).opens("")


@given(
    st.frozensets(st.sampled_from(RedFlag)),
    st.booleans(),
    st.text(max_size=20),
    st.one_of(st.none(), st.floats(0, 500)),
)
def test_no_reason_whatever_opens_over_an_absolute_flag(flags, examined, reason, weeks):
    answers = screening(
        red_flags=flags,
        larynx_examined_on=TODAY if examined else None,
        hoarse_weeks=weeks,
    )
    gate = activation_gate(answers, TODAY)
    if flags & ABSOLUTE:
        assert not gate.opens(reason)
    if not examined or flags:
        assert not gate.opens("")


def facts(**changes):
    usual = {
        "has_baseline": True,
        "active_since": TODAY - timedelta(days=14),
        "last_session": TODAY - timedelta(days=1),
        "kept_14_days": 22,
        "prescribed_14_days": 26,
        "last_gain": TODAY - timedelta(days=5),
    }
    return ClientFacts(**usual | changes)


@pytest.mark.parametrize(
    ("changes", "need"),
    [
        ({}, Need.ON_COURSE),
        ({"stop_sign_open": True, "set_aside": 2, "ready_to_climb": True}, Need.STOP_SIGN),
        ({"set_aside": 1, "ready_to_climb": True}, Need.SET_ASIDE),
        ({"last_session": TODAY - timedelta(days=7)}, Need.LAPSED),
        ({"last_session": TODAY - timedelta(days=6)}, Need.ON_COURSE),
        ({"last_session": None}, Need.LAPSED),
        ({"last_session": None, "active_since": TODAY - timedelta(days=2)}, Need.ON_COURSE),
        ({"ready_to_climb": True}, Need.READY_TO_CLIMB),
        ({"kept_14_days": 26, "added_14_days": 12}, Need.OVER_KEEN),
        ({"active_since": TODAY - timedelta(days=40), "last_gain": None}, Need.PLATEAU),
        ({"active_since": TODAY - timedelta(days=40)}, Need.ON_COURSE),
        ({"active_since": None}, Need.PROGRAM),
        ({"active_since": None, "has_baseline": False}, Need.BASELINE),
        ({"active_since": None, "gate_closed": True}, Need.EXAMINATION),
    ],
)
def test_what_a_client_needs_next(changes, need):
    assert need_of(facts(**changes), TODAY) is need


def test_every_reference_value_has_unit_and_source():
    found = [v for v in vars(values).values() if isinstance(v, values.Reference)]
    assert len(found) > 25
    assert all(value.unit and value.source for value in found)
