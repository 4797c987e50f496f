"""The state of voice and airway, colds, surgery, injections, and what nobody asked: each rule with its opposite."""

import json
from dataclasses import replace
from datetime import date, timedelta

import pytest

from core.catalogue.touches import Touch
from core.errors import PlanError
from core.formats.reading import FileRefused
from core.proposing.aims import Want
from core.proposing.client_file import client_data, read_client
from core.safety.condition import Condition
from core.safety.conditions import allows, known_conditions
from core.safety.gate import Occasion, activation_gate
from core.safety.inferred import inferred_reasons
from core.safety.program_gate import program_gate
from core.safety.screening import RedFlag, Screening
from core.safety.state import Airway, Release, VoiceState
from tests.core.fitted import propose_for, request, screened, step
from tests.factories.condition_checks import does

TODAY = date(2026, 6, 15)
FOLDS = frozenset({Condition.FOLD_SURGERY})


def ago(days):
    return TODAY - timedelta(days=days)


def asked(**answers):
    usual = {"asked_on": TODAY, "larynx_examined_on": None, "trouble_began_on": ago(90)}
    return Screening(**usual | answers)


def known(**answers):
    return known_conditions(asked(**answers), TODAY)


def codes(reasons):
    return [one.code for one in reasons]


# what was not asked


def test_a_red_flag_that_nobody_asked_about_shuts_the_gate_for_a_new_program_only():
    unasked = asked(larynx_examined_on=ago(1), unasked=frozenset({RedFlag.EAR_PAIN, RedFlag.BLOOD}))
    gate = activation_gate(unasked, TODAY)
    assert not gate.opens("a reason")
    (found,) = gate.blocks
    assert tuple(map(str, found.params["flags"])) == ("Coughing or spitting blood", "Ear pain")
    running = activation_gate(unasked, TODAY, Occasion(first=False))
    assert running.opens("")
    assert "red_flags_unasked" in codes(running.reminds)  # asked at the next visit
    everything = replace(unasked, unasked=frozenset())
    assert activation_gate(everything, TODAY).opens("")


@pytest.mark.parametrize(
    ("answers", "code"), [({"voice": None}, "voice_unasked"), ({"airway": None}, "airway_unasked")]
)
def test_state_of_voice_and_airway_are_asked_before_a_first_program(answers, code):
    told = asked(larynx_examined_on=ago(1), **answers)
    assert codes(activation_gate(told, TODAY).blocks) == [code]
    assert activation_gate(told, TODAY, Occasion(first=False)).opens("")


def test_a_flag_cannot_be_both_present_and_not_asked_about():
    blood = frozenset({RedFlag.BLOOD})
    with pytest.raises(PlanError, match="flag_asked_and_not"):
        asked(red_flags=blood, unasked=blood)


# no complaint


def test_without_complaint_and_red_flag_no_examination_and_no_reason_is_asked_for():
    fine = asked(voice=VoiceState.NO_COMPLAINT, trouble_began_on=None)
    assert activation_gate(fine, TODAY).opens("")
    # the clinic may demand one
    assert not activation_gate(fine, TODAY, Occasion(always_examined=True)).opens("")
    assert not activation_gate(asked(), TODAY).opens("")
    flagged = replace(fine, red_flags=frozenset({RedFlag.EAR_PAIN}), larynx_examined_on=ago(300))
    assert not activation_gate(flagged, TODAY).opens("")


def test_strong_voice_always_needs_an_examination_and_no_reason_stands_in():
    fine = asked(voice=VoiceState.NO_COMPLAINT, trouble_began_on=None)
    strong = [does("ah", 2.0, touches=["loudness", "voiced"])]
    soft = [does("hum", 2.0, touches=["semi_occluded", "voiced"])]
    assert program_gate(fine, soft, TODAY).opens("")
    assert codes(program_gate(fine, strong, TODAY).blocks) == ["strong_unexamined"]
    seen = replace(fine, larynx_examined_on=TODAY)
    assert program_gate(seen, strong, TODAY).opens("")
    # a program that has it already goes on
    running = Occasion(first=False, strong_runs=True)
    assert program_gate(fine, strong, TODAY, running).opens("")


@pytest.mark.parametrize(
    ("began", "clear", "complains"),
    [
        (22, 2, False),  # 20 days, gone for two
        (22, 1, True),  # gone for one day only
        (23, 2, True),  # 21 days are three weeks
        (200, 30, True),  # was long: as if it were there
    ],
)
def test_a_short_trouble_gone_for_two_days_counts_as_none(began, clear, complains):
    told = asked(voice=VoiceState.CLEAR_AGAIN, trouble_began_on=ago(began), clear_since=ago(clear))
    assert told.has_complaint(TODAY) is complains
    assert activation_gate(told, TODAY).opens("") is not complains


# no voice, another airway


def test_without_a_voice_an_examination_comes_first_then_gentle_work_only():
    lost = asked(voice=VoiceState.NO_VOICE)
    assert not activation_gate(lost, TODAY).opens("a very good reason")
    seen = replace(lost, larynx_examined_on=TODAY)
    assert activation_gate(seen, TODAY).opens("")
    wanted = screened(
        request("resonance", "semi_fatigue", "sustained", "loudness_vowels"),
        voice=VoiceState.NO_VOICE,
        trouble_began_on=ago(90),
        larynx_examined_on=TODAY,
    )
    found = propose_for(wanted)
    tasks = {one.task for one in found.program.steps}
    assert "easy_lead" in tasks
    # the siren's place is taken by a lip trill: air, then one easy note
    assert tasks <= {"easy_lead", "straw_air", "hum", "lip_trill"}
    assert step(propose_for(screened(wanted, voice=VoiceState.TROUBLED)), "sustained_power")


DATES = ("cuff_safe_on", "valve_tolerated_on", "upper_airway_seen_on")


def test_a_tracheostomy_is_shut_until_its_three_dates_then_asks_a_reason():
    told = asked(airway=Airway.TRACHEOSTOMY, larynx_examined_on=TODAY)
    missing = activation_gate(told, TODAY).blocks[0].params["missing"]
    assert tuple(map(str, missing)) == (
        "the cuff deflated or gone",
        "a valve or cap tolerated",
        "the upper airway examined",
    )
    two = replace(told, cuff_safe_on=ago(3), valve_tolerated_on=ago(2))
    assert not activation_gate(two, TODAY).opens("reason")
    ahead = replace(two, upper_airway_seen_on=ago(-1))
    assert not activation_gate(ahead, TODAY).opens("reason")
    all_three = replace(two, upper_airway_seen_on=TODAY)
    assert not activation_gate(all_three, TODAY).opens("")
    assert activation_gate(all_three, TODAY).opens("agreed with the surgeon")


@pytest.mark.parametrize(
    "touch", ["water", "straw", "balloon", "forceful_puffs", "breath_hold", "neck_handling"]
)
def test_what_a_tracheostomy_blocks(touch):
    assert not allows(known(airway=Airway.TRACHEOSTOMY), Touch(touch))
    assert allows(known(), Touch(touch))


def test_without_a_larynx_only_speaking_is_left_and_only_by_choice():
    gone = {"airway": Airway.NO_LARYNX, "voice": None}
    # neither the state of the voice nor an examination is asked for
    assert activation_gate(asked(**gone), TODAY).opens("")
    every = request("articulation", "carry_over", "release", "breath_hiss", "semi_fatigue")
    found = propose_for(screened(every, **gone)).program
    families = {one.phase for one in found.steps}
    assert families <= {"articulation", "carry_over", "release"}
    assert not {"shoulder_circle", "neck_side_stretch"} & {one.task for one in found.steps}
    with pytest.raises(PlanError) as nothing:
        propose_for(screened(request(wants=(Want.CLEARER,)), **gone))
    assert nothing.value.code == "nothing_fits"


# newly hoarse


@pytest.mark.parametrize(
    ("answers", "ill"),
    [
        ({"trouble_began_on": ago(4), "cold": True}, True),
        ({"trouble_began_on": None, "hoarse_weeks": 0.5, "cold": True}, True),
        ({"trouble_began_on": ago(4), "cold": False}, True),
        ({"trouble_began_on": ago(1), "cold": False}, False),  # a single day without a cold
        ({"trouble_began_on": ago(1), "cold": True}, True),
        ({"trouble_began_on": ago(20), "cold": False}, True),
        ({"trouble_began_on": ago(21), "cold": False}, False),
        ({"trouble_began_on": ago(4), "cold": True, "larynx_examined_on": ago(4)}, False),
        ({"trouble_began_on": ago(4), "cold": True, "larynx_examined_on": ago(5)}, True),
        ({"trouble_began_on": ago(4), "cold": True, "usual_voice_since": ago(1)}, False),
        ({"trouble_began_on": ago(4), "cold": True, "usual_voice_since": TODAY}, True),
        ({"voice": VoiceState.NO_COMPLAINT, "trouble_began_on": None, "cold": True}, False),
    ],
)
def test_newly_hoarse_is_acute_laryngitis_by_date_and_by_weeks_until_cleared(answers, ill):
    assert (Condition.ACUTE_LARYNGITIS in known(**answers)) is ill
    said = codes(inferred_reasons(asked(**answers), TODAY))
    assert any(code.startswith("found_laryngitis") for code in said) is ill


def test_newly_hoarse_and_the_cold_not_asked_voices_nothing():
    unasked = {"trouble_began_on": ago(4), "cold": None}
    assert not allows(known(**unasked), Touch.VOICED)
    assert allows(known(trouble_began_on=ago(60), cold=None), Touch.VOICED)
    found = propose_for(
        screened(request("release", "sustained"), **unasked, larynx_examined_on=None)
    )
    assert not any(one.voiced for one in found.program.steps)


def test_laryngitis_says_from_which_answers_what_lifts_it_and_when_to_examine():
    told = asked(trouble_began_on=ago(13), cold=True)
    (words,) = map(str, inferred_reasons(told, TODAY))
    for part in ("has a cold", "June 2, 2026", "laryngeal exam", "two days in a row"):
        assert part in words
    later = inferred_reasons(told, TODAY + timedelta(days=1))
    assert codes(later)[1:] == ["found_laryngitis_long"]
    wanted = screened(request("semi_fatigue"), trouble_began_on=ago(4), cold=True)
    wanted = screened(wanted, larynx_examined_on=None)
    assert "found_laryngitis_cold" in codes(propose_for(wanted).notices)


# operated folds


@pytest.mark.parametrize(
    ("answers", "voiced"),
    [
        ({"folds_operated_on": ago(35)}, False),
        ({"folds_operated_on": ago(35), "larynx_examined_on": ago(1)}, False),
        ({"folds_operated_on": ago(35), "released_on": ago(1)}, True),
        ({"folds_operated_on": ago(84)}, False),
        ({"folds_operated_on": ago(84), "larynx_examined_on": ago(1)}, True),
        ({"folds_operated_on": ago(83), "larynx_examined_on": ago(1)}, False),
        (
            {
                "folds_operated_on": ago(100),
                "surgeons_date": ago(-1),
                "larynx_examined_on": ago(1),
            },
            False,
        ),
        ({}, False),  # the day is not known, nobody has looked
        ({"larynx_examined_on": TODAY}, True),
    ],
)
def test_operated_folds_wait_for_release_or_later_an_examination(answers, voiced):
    assert allows(known(conditions=FOLDS, **answers), Touch.VOICED) is voiced


def test_a_gentle_release_leaves_semi_occlusion_hum_and_resonance():
    operated = {"conditions": FOLDS, "folds_operated_on": ago(35), "released_on": ago(1)}
    wanted = screened(
        request("semi_fatigue", "resonance", "sustained", "breath_support", "speaking_pitch"),
        larynx_examined_on=ago(1),
        release=Release.GENTLE,
        **operated,
    )
    tasks = {one.task for one in propose_for(wanted).program.steps if one.voiced}
    assert tasks
    assert tasks <= {"straw_air", "hum", "hum_to_words", "ng_text"}
    # a hum found by coughing does not stand in for what the clinic does not use
    without = replace(wanted, hidden=frozenset({"hum_to_words", "ng_text", "bright_call"}))
    assert "easy_lead" not in {one.task for one in propose_for(without).program.all_steps}
    full = screened(wanted, release=Release.FULL)
    assert step(propose_for(full), "sustained_power")


# breathless, injected, paralysed


def test_breathless_presses_nothing_and_holds_at_most_80_percent_of_the_best_ah():
    breathless = frozenset({Condition.BREATHLESS})
    best = {"phonation_s": (6.0,), "probes_s": (6.0, 6.0, 6.0), "strong_s": (6.0,)}
    wanted = request("sustained", "breath_counts", "breath_support", known=best)
    found = propose_for(screened(wanted, conditions=breathless)).program
    assert not {"puffed_breath", "pulses", "paired_counting"} & {s.task for s in found.steps}
    for one in found.steps:
        seconds = [hold.seconds for hold in one.holds] if one.kind == "hold" else []
        seconds += [one.target.seconds] if one.kind == "glide" else []
        assert all(value <= 4.8 for value in seconds)
        codes_of = one.grade.codes if one.grade else ()
        assert not {"bent_forward", "lying"} & set(codes_of)
    well = propose_for(wanted).program
    assert step(propose_for(wanted), "puffed_breath")
    assert max(one.target.seconds for one in well.steps if one.kind == "glide") == 6.0


@pytest.mark.parametrize(
    ("answers", "water"),
    [
        ({"botulinum_on": ago(3)}, False),
        ({"botulinum_on": ago(14)}, True),  # asked today, after it
        ({"botulinum_on": ago(14), "asked_on": ago(14)}, False),
        ({"botulinum_on": ago(20), "unasked": frozenset({RedFlag.TROUBLE_SWALLOWING})}, False),
        ({"paralysis_since": ago(20)}, True),
        ({"paralysis_since": ago(20), "asked_on": ago(30)}, False),
        ({"paralysis_since": ago(20), "unasked": frozenset({RedFlag.PAINFUL_SWALLOWING})}, False),
    ],
)
def test_water_after_an_injection_or_a_new_paralysis_waits_for_the_question(answers, water):
    for touch in (Touch.WATER, Touch.SIP):
        assert allows(known(**answers), touch) is water


# files


def text_of(wanted, **changes):
    return json.dumps(client_data(wanted) | changes)


def test_format_two_keeps_unasked_and_format_one_means_asked():
    wanted = screened(request("sustained"), unasked=frozenset({RedFlag.BLOOD}))
    data = client_data(wanted)
    assert "blood" not in data["screening"]["red_flags"]
    assert data["screening"]["red_flags"]["ear_pain"] is False
    assert read_client(json.dumps(data)) == wanted
    bare = {"asked_on": "2026-06-15", "larynx_examined_on": "2026-06-10"}
    two = read_client(text_of(wanted, screening=bare)).screening
    assert (two.unasked, two.voice, two.airway, two.cold) == (frozenset(RedFlag), None, None, None)
    one = read_client(text_of(wanted, format=1, screening=bare)).screening
    assert (one.unasked, one.voice, one.airway, one.cold) == (
        frozenset(),
        VoiceState.TROUBLED,
        Airway.LARYNX,
        False,
    )


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"red_flags": ["blood"]}, "red flags are an object"),
        ({"red_flags": {"hiccups": True}}, "hiccups is not a red flag"),
        ({"red_flags": {"blood": "perhaps"}}, "red flags are an object"),
        ({"unasked": ["blood"]}, "not known here"),
        ({"voice": "singing"}, "voice"),
    ],
)
def test_odd_answers_of_format_two_are_refused_in_words(changes, words):
    bare = {"asked_on": "2026-06-15", "larynx_examined_on": None}
    with pytest.raises(FileRefused) as refused:
        read_client(text_of(request("sustained"), screening=bare | changes))
    assert words in str([str(one) for one in refused.value.problems])


def test_format_one_does_not_know_the_questions_of_format_two():
    bare = {"asked_on": "2026-06-15", "larynx_examined_on": None, "voice": "no_voice"}
    with pytest.raises(FileRefused):
        read_client(text_of(request("sustained"), format=1, screening=bare))


def test_a_refusal_names_everything_that_is_missing():
    bare = {"probes_s": (), "phonation_s": (), "s_s": ()}
    with pytest.raises(PlanError) as nothing:
        propose_for(
            request("sustained", "semi_fatigue", known=bare | {"lowest": None, "highest": None})
        )
    asked_for = {one.code for one in nothing.value.params["asked"]}
    assert {"measure_range"} <= asked_for
    assert "Straw" in str(nothing.value.params["why"]) or "straw" in str(
        nothing.value.params["why"]
    )
    assert "Power notes" in str(nothing.value.params["why"])
