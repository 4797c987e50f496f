"""What must not be missed when deciding (D1–D10, and what C and S ask of decisions): each rule with its opposite."""

from dataclasses import replace
from datetime import time

import pytest

from core.editing.change_rung import on_rung
from core.grading.act import Dimension
from core.grading.apply_proposal import accepted
from core.safety.screening import RedFlag
from core.safety.stop import OpenSign, StopSign
from tests.core.fitted import proposed
from tests.core.histories import (
    TODAY,
    acts,
    ago,
    codes,
    decisions,
    done,
    held,
    history,
    loud_program,
    proposal,
    sitting,
    soft,
    step_of,
)
from tests.factories.deciding_safely import COOK, DAYS, POWER, answered, fine

# D1


def strong(trials, days=(5, 4, 3, 2, 1)):
    program = loud_program()
    ah = step_of(program, "loud_ah")
    program = on_rung(program, ah.step_id, 1)
    ah = program.step(ah.step_id)
    return program, ah, [sitting(program, ago(d), done(ah, trials)) for d in days]


def test_a_level_that_falls_short_is_eased_and_not_the_seconds():
    weak = [{"share": 101.0, "over_aim": -3.0, "trail_off": -1.0}] * 5
    program, ah, sittings = strong(weak)
    found = proposal(history(program, sittings), "ease")
    assert (found.dimension, found.rung) == (Dimension.LEVEL, None)
    eased = accepted(program, found, TODAY).step(ah.step_id)
    assert eased.level.over_db == ah.level.over_db - 2
    assert eased.rung == ah.rung
    short = [{"share": 60.0, "over_aim": 1.0, "trail_off": -1.0}] * 5
    program, ah, sittings = strong(short)
    found = proposal(history(program, sittings), "ease")
    assert (found.dimension, found.rung) == (Dimension.RUNG, ah.rung - 1)


def test_a_tube_in_water_stands_less_deep_then_is_wider_before_its_form_goes_back():
    program = proposed("semi_deep").program  # 3 cm deep, 10 mm wide
    tube = program.steps[0]
    program = on_rung(program, tube.step_id, 1)

    def eased(now):
        own = now.step(tube.step_id)
        cut = [sitting(now, ago(d), done(own, [{"gaps": 3.0}] * 3, gaps_each=3.0)) for d in (2, 1)]
        found = proposal(history(now, cut), "ease")
        return found, accepted(now, found, TODAY)

    for depth in (2.0, 1.0):
        found, program = eased(program)
        assert found.dimension is Dimension.DEPTH
        assert program.step(tube.step_id).tube.depth_cm == depth
        assert program.step(tube.step_id).rung == 1
    found, program = eased(program)
    assert found.dimension is Dimension.BORE
    assert program.step(tube.step_id).tube.bore_mm == 12
    found, program = eased(program)
    assert program.step(tube.step_id).rung == 0


# D2


@pytest.mark.parametrize(
    ("sign", "act"),
    [
        ("breathing", "emergency"),
        ("chest_pain", "emergency"),
        ("fainting", "emergency"),
        ("pain", "contact"),
        ("light_headed", "contact"),
    ],
)
def test_every_stop_sign_is_called_for_by_its_own_code(sign, act):
    record = history(COOK, fine(*DAYS), open_signs=(OpenSign(StopSign(sign), None),))
    assert acts(decisions(record, TODAY))[0] == act


@pytest.mark.parametrize(
    ("flag", "act"),
    [
        ("blood", "emergency"),
        ("face_or_speech_sudden", "emergency"),
        ("noisy_breathing", "emergency"),
        ("ear_pain", "contact"),
    ],
)
def test_a_red_flag_that_was_said_is_called_for_until_it_is_answered(flag, act):
    flags = {RedFlag(flag): True}
    said = [*fine(*DAYS), *fine(0, flags=flags)]
    found = decisions(history(COOK, said), TODAY)
    assert acts(found)[0] == act
    assert "climb" not in acts(found)
    assert acts(decisions(history(COOK, fine(*DAYS), open_flags=frozenset(flags)), TODAY))[0] == act
    no = [*fine(*DAYS), *fine(0, flags={RedFlag(flag): False})]
    assert acts(decisions(history(COOK, no), TODAY))[0] == "climb"
    assert acts(decisions(history(COOK, fine(*DAYS)), TODAY))[0] == "climb"
    closed = history(COOK, said, decided=(answered("contact", 0),))
    assert act not in acts(decisions(closed, TODAY))


def test_a_health_question_left_open_raises_no_emergency_and_lets_nothing_advance():
    open_question = [*fine(*DAYS), *fine(0, flags={RedFlag.BLOOD: None})]
    found = decisions(history(COOK, open_question), TODAY)
    assert {"emergency", "climb"}.isdisjoint(acts(found))


# D3


def rising(weeks, *, usual=1.0, up=4.0):
    """Two weeks at the usual, then so many weeks well over it, a session every day."""
    days = range(14 + 7 * weeks, 0, -1)
    return [
        sitting(COOK, ago(d), soft(POWER, 5, strain=up if d <= 7 * weeks else usual)) for d in days
    ]


@pytest.mark.parametrize("weeks", [1, 2, 4])
def test_a_rise_of_strain_stands_until_somebody_answers_it(weeks):
    record = history(COOK, rising(weeks, up=3.0), active_since=ago(60))
    assert proposal(record, "ease")
    assert proposal(record, "climb") is None
    after = replace(record, changed_on=TODAY)
    assert proposal(after, "ease") is None


# D4


def test_a_running_taper_is_never_flat_and_a_goal_held_is_never_taught_again():
    program = on_rung(COOK, POWER.step_id, 9)
    routine = program.routines[0]
    started = replace(routine.dose, starts_on=ago(6 * 7 + 3))
    program = program.with_routine(replace(routine, dose=started))
    power = program.step(POWER.step_id)
    days = range(30, 0, -1)
    sittings = [sitting(program, ago(d), soft(power, 5)) for d in days]
    found = decisions(history(program, sittings, active_since=ago(45)), TODAY)
    assert {"teach", "swap"}.isdisjoint(acts(found))
    short = [sitting(program, ago(d), soft(power, 3)) for d in days]
    assert {"teach", "swap"}.isdisjoint(
        acts(decisions(history(program, short, active_since=ago(45)), TODAY))
    )


def test_after_the_taper_a_goal_that_is_held_waits_for_discharge():
    program = on_rung(COOK, POWER.step_id, 9)
    routine = program.routines[0]
    # six weeks and a taper of seven are over
    started = replace(routine.dose, starts_on=ago(7 * 13 + 2))
    program = program.with_routine(replace(routine, dose=started))
    power = program.step(POWER.step_id)
    trials = [held() | {"best_s": 18.0}] * 5
    sittings = [
        sitting(program, ago(d), done(power, trials, over_db=1.0))
        for d in (21, 14, 7, 6, 5, 4, 3, 2, 1)
    ]
    found = decisions(history(program, sittings, active_since=ago(93)), TODAY)
    assert {"teach", "swap", "taper", "stage_back"}.isdisjoint(acts(found))
    (stays,) = [one for one in found if power.step_id in one.steps]
    assert "taper_done" in codes(stays.reasons)


# D5


def test_a_contact_closes_when_it_is_answered_and_then_five_calm_sessions_are_waited_for():
    sore = [sitting(COOK, ago(d), soft(POWER, 5, strain=5)) for d in (9, 8)]
    calm = [sitting(COOK, ago(d), soft(POWER, 5, strain=2)) for d in (6, 5, 4, 3)]
    record = history(COOK, [*sore, *calm], strain=2.0)
    assert proposal(record, "contact")
    closed = replace(record, decided=(answered("contact", 7),), changed_on=ago(7))
    found = decisions(closed, TODAY)
    assert "contact" not in acts(found)
    waits = [reason for one in found for reason in one.against]
    assert "strain_was_up" in codes(waits)
    one_more = [sitting(COOK, ago(d), soft(POWER, 5, strain=2)) for d in (2, 1, 1, 1)]
    calm_again = replace(closed, sittings=(*sore, *calm, *one_more))
    waits = [reason for one in decisions(calm_again, TODAY) for reason in one.against]
    assert "strain_was_up" not in codes(waits)


def test_light_headed_twice_is_answered_too():
    signs = [
        sitting(COOK, ago(d), soft(POWER, 5), sign=StopSign.LIGHT_HEADED, sign_step=POWER.step_id)
        for d in (5, 4)
    ]
    assert proposal(history(COOK, signs), "contact")
    assert proposal(history(COOK, signs, decided=(answered("contact", 3),)), "contact") is None


# D7


def test_far_more_practice_than_prescribed_is_asked_about_before_anything_advances():
    days = [d for d in (7, 6, 5, 4, 3, 2, 1) for _ in range(4)]  # 28 where 14 are asked for
    keen = [sitting(COOK, ago(d), soft(POWER, 5), number=n) for n, d in enumerate(days)]
    found = decisions(history(COOK, keen), TODAY)
    assert "practiced_too_much" in codes(reason for one in found for reason in one.reasons)
    assert "climb" not in acts(found)
    usual = [sitting(COOK, ago(d), soft(POWER, 5), number=n) for n, d in enumerate(days[::2])]
    assert "climb" in acts(decisions(history(COOK, usual), TODAY))


def test_strain_in_the_evening_well_over_the_mornings_is_asked_about():
    def days_of(count, evening, hour=18):
        found = []
        for d in range(count, 0, -1):
            found.append(sitting(COOK, ago(d), soft(POWER, 5, strain=1), begun=time(8)))
            found.append(
                sitting(COOK, ago(d), soft(POWER, 5, strain=evening), begun=time(hour), number=1)
            )
        return found

    def asks(*args, **more):
        found = decisions(history(COOK, days_of(*args, **more)), TODAY)
        return "evening_strain" in codes(reason for one in found for reason in one.reasons)

    assert asks(3, 3)
    assert not asks(2, 3)
    assert not asks(3, 2)
    assert not asks(3, 3, hour=16)


# D8


def test_what_could_not_be_scored_names_its_cause_and_the_way_out():
    unknown = [held(over=None)] * 5
    phone = [
        sitting(COOK, ago(d), replace(done(POWER, unknown), device="the new phone"))
        for d in (5, 4, 3, 2, 1)
    ]
    found = proposal(history(COOK, phone), "stay")
    (why,) = [one for one in found.against if one.code == "unknown_reference"]
    assert str(why).startswith("5 home sessions could not be scored: no loudness reference for the")
    assert "ten seconds of usual talk" in str(why)


# D9


def by_effort(task="loud_ah", *, share=101.0, effort=8, strain=2.0, days=DAYS[:5], **figures):
    known = {"strong_s": (9.0, 8.5), "speaking": "A3"}
    program = proposed("loudness_longest", options={"aim": "effort"}, known=known).program
    step = step_of(program, task)
    trials = [{"share": share, "ends": share, **figures}] * step.attempts
    said = {} if effort is None else {"effort": effort}
    return program, [
        sitting(program, ago(d), done(step, trials, strain=strain, said=said, spoken=share))
        for d in days
    ]


@pytest.mark.parametrize("task", ["loud_ah", "loud_glides", "loud_reading", "own_phrases"])
def test_loudness_by_effort_climbs_by_a_rule_of_its_own(task):
    program, sittings = by_effort(task)
    found = proposal(history(program, sittings), "climb")
    assert found
    assert program.step(found.steps[0]).task == task
    accepted(program, found, TODAY)
    for spoilt in ({"effort": 10}, {"strain": 3.0}, {"effort": None}):
        other, kept = by_effort(task, **spoilt)
        assert proposal(history(other, kept), "climb") is None, spoilt


def test_effort_under_seven_prompts_the_cue_and_fails_nothing_ten_twice_is_taught_again():
    program, sittings = by_effort(effort=5)
    found = proposal(history(program, sittings), "climb")
    assert "effort_low" in codes(found.reasons)
    program, sittings = by_effort(effort=10, days=(2, 1))
    assert proposal(history(program, sittings), "teach")
    program, sittings = by_effort(effort=10, days=(1,))
    assert proposal(history(program, sittings), "teach") is None
    program, sittings = by_effort(share=50.0)
    assert proposal(history(program, sittings), "ease")


def test_steps_that_no_rule_can_move_say_so():
    found = decisions(history(COOK, fine(*DAYS)), TODAY)
    (said,) = [one for one in found if "no_rule" in codes(one.reasons)]
    assert {COOK.step(key).task for key in said.steps} == {
        "sustained_stretch",
        "sustained_contract",
    }
    assert "does not change by rule" in str(said.reasons[0])


# D10


def test_high_strain_from_the_start_has_its_own_limits():
    def strained(value, baseline, program=COOK, step=POWER):
        days = (6, 5, 4, 3, 2, 1, 1)
        sittings = [sitting(program, ago(d), soft(step, 5, strain=value)) for d in days]
        return history(program, sittings, strain=baseline)

    # called at the lower of baseline + 2 and 9
    assert proposal(strained(6.0, 5.0), "contact") is None
    assert proposal(strained(7.0, 5.0), "contact")
    assert proposal(strained(9.0, 8.0), "contact")
    # the sustained notes stay, whatever it is
    assert proposal(strained(4.0, 5.0), "climb") is None
    hum = proposed("semi_fatigue").program
    own = on_rung(hum, step_of(hum, "hum").step_id, 0)
    step = step_of(own, "hum")

    def soft_work(value, baseline):
        good = [{"gaps": 0.0}] * step.attempts
        sittings = [sitting(own, ago(d), done(step, good, strain=value)) for d in DAYS]
        return proposal(history(own, sittings, strain=baseline), "climb")

    assert soft_work(5.0, 5.0)
    assert soft_work(6.0, 5.0) is None
    assert soft_work(9.0, 9.0) is None
    assert soft_work(4.0, 2.0) is None
    # a baseline of 9 or 10 stops everything, however calm the sessions are
    assert soft_work(4.0, 8.0)
    assert soft_work(4.0, 9.0) is None
    assert soft_work(4.0, 10.0) is None
