"""The worked case: school cook, woman, 52, 165 cm, number for number."""

import itertools
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.dose.minutes import session_length
from core.editing.change_rung import on_rung
from core.editing.step_order import without_step
from core.editing.step_targets import move_hold, with_repetitions
from core.errors import CoreError, PlanError
from core.fitting import baseline_arithmetic
from core.fitting.pitches import PitchSchool, fit_pitches
from core.notes.note import Note
from core.notes.range import ComfortableRange, VoiceGroup
from core.program.program import Program
from core.program.rungs import rungs_from
from tests.core.fitted import proposed, said

COMFORT = ComfortableRange(lowest=Note.named("G3"), highest=Note.named("G4"))
PROBES = (8.2, 8.4, 7.0)


def ladder(**options) -> Program:
    """The worked case's program: school cook, woman, 52, G3–G4, /s/ 17.6 s."""
    return proposed("sustained", options=options).program


def climbed(program: Program, rung: int) -> Program:
    return on_rung(program, program.main_step.step_id, rung)


def test_the_baseline_figures():
    assert baseline_arithmetic.sz_ratio(17.6, 11.0) == pytest.approx(1.60)
    capacity = baseline_arithmetic.vital_capacity_ml(baseline_arithmetic.LungSex.FEMALE, 52, 165)
    assert capacity == pytest.approx(2727, abs=0.5)  # (21.78 − 0.101·52)·165
    assert baseline_arithmetic.phonation_quotient_ml_per_s(capacity, 9.4) == pytest.approx(
        290, abs=0.5
    )
    assert baseline_arithmetic.airflow_goal_s(capacity) == pytest.approx(34.1, abs=0.05)


def test_the_notes_are_moved_down_two_semitones():
    fitted = fit_pitches(COMFORT, VoiceGroup.WOMEN, PitchSchool.SHIFTED)
    assert [note.name for note in fitted.notes] == ["B♭3", "C4", "D4", "E♭4", "F4"]
    assert fitted.warm_up.name == "E♭4"
    assert fitted.shift_semitones == -2
    with pytest.raises(PlanError) as refused:
        fit_pitches(COMFORT, VoiceGroup.WOMEN, PitchSchool.STANDARD)
    assert refused.value.code == "standard_outside"


def test_the_rungs():
    # median 8.2 × 0.8 = 6.56 → 6.5; each next × 1.15 floored to 0.5 s or + 0.5 s; last 17.6 floored
    expected = (6.5, 7, 8, 9, 10, 11.5, 13, 14.5, 16.5, 17.5)
    assert rungs_from(PROBES, 17.6) == expected


def test_one_home_session():
    length = session_length(ladder().routines[0])
    assert length.attempts == 16
    assert length.voiced_s == pytest.approx(110)  # 2·6.5 + 4·8 + 10·6.5
    assert length.rest_s == 15 * 15
    assert length.tones_s == 16 * 6
    assert length.total_s == pytest.approx(431)
    assert length.minutes == pytest.approx(7.2, abs=0.05)


@pytest.mark.parametrize("goal_s", [0, 1000, -3, float("nan"), float("inf")])
def test_impossible_hold_goals_are_refused(goal_s):
    with pytest.raises(PlanError) as refused:
        rungs_from(PROBES, goal_s)
    assert refused.value.code == "hold_out_of_limits"


hundredths = st.integers(50, 6000).map(lambda n: n / 100)
probes = st.lists(hundredths, min_size=1, max_size=6)


@given(probes, hundredths)
def test_rungs_climb_from_within_reach_to_the_goal(bests, goal_s):
    rungs = rungs_from(bests, goal_s)
    assert rungs[0] <= max(min(bests), 0.5)
    assert all(low < high for low, high in itertools.pairwise(rungs))
    assert rungs[-1] <= goal_s < rungs[-1] + 0.5
    assert all(rung * 2 == int(rung * 2) for rung in rungs)


@given(
    st.integers(36, 76),
    st.integers(1, 30),
    st.sampled_from(VoiceGroup),
    st.sampled_from(PitchSchool),
)
def test_no_fitted_note_ever_lies_outside_the_range(low, span, group, school):
    if low + span > 83:
        return
    comfort = ComfortableRange(lowest=Note(low), highest=Note(low + span))
    try:
        fitted = fit_pitches(comfort, group, school)
    except PlanError as refused:
        codes = ("range_too_small", "standard_outside", "speaking_missing")
        assert refused.code in codes
        assert school is not PitchSchool.SHIFTED or span < 6
        return
    assert fitted.margin_semitones >= 1
    assert all(comfort.holds(note, fitted.margin_semitones) for note in fitted.notes)
    assert fitted.warm_up in fitted.notes


def test_small_ranges_get_margin_1_then_three_notes_then_nothing():
    def fit(semitones):
        comfort = ComfortableRange(lowest=Note(57), highest=Note(57 + semitones))
        return fit_pitches(comfort, VoiceGroup.WOMEN, PitchSchool.SHIFTED)

    assert (len(fit(11).notes), fit(11).margin_semitones) == (5, 2)
    assert (len(fit(9).notes), fit(9).margin_semitones) == (5, 1)
    assert (len(fit(8).notes), fit(8).margin_semitones) == (3, 2)
    assert (len(fit(6).notes), fit(6).margin_semitones) == (3, 1)
    with pytest.raises(PlanError) as refused:
        fit(5)
    assert refused.value.code == "range_too_small"


def test_moving_a_head_out_of_the_range_is_a_problem_and_back_is_none():
    program = ladder()
    power = program.steps[3].step_id
    moved = move_hold(program, power, 4, semitones=3, seconds=0.5)
    assert moved.steps[3].holds[4].note.name == "A♭4"
    assert moved.steps[3].holds[4].seconds == 7.0
    assert said(moved.problems(), "above_comfort").params["highest"] == "G4"
    assert move_hold(moved, power, 4, semitones=-3).problems() == ()


@pytest.mark.parametrize(("seconds", "semitones"), [(-6.5, 0), (90, 0), (0, 40), (0, -40)])
def test_a_head_cannot_leave_the_limits(seconds, semitones):
    program = ladder()
    with pytest.raises(CoreError):
        move_hold(program, program.steps[3].step_id, 0, seconds=seconds, semitones=semitones)


def test_editing_keeps_the_rest_of_the_program():
    program = ladder()
    power = program.steps[3].step_id
    assert with_repetitions(program, power, 3).step(power).repetitions == 3
    assert len(without_step(program, power).steps) == 3
    with pytest.raises(PlanError):
        with_repetitions(program, power, 11)
    with pytest.raises(PlanError):
        without_step(program, "no such step")
    assert program.step(power).repetitions == 2


def test_a_hold_longer_than_shown_is_noticed():
    program = climbed(ladder(), 3)
    assert program.main_step.grade.value == 9
    assert len(program.notices()) == 6  # five notes and the warm-up, which climbs along
    assert not ladder().notices()


@pytest.mark.parametrize("odd", [900.0, 3600.1, -5.0, float("nan"), float("inf")])
def test_no_rung_or_goal_beyond_its_limits_can_be_made(odd):
    grade = ladder().main_step.grade
    for change in ({"rungs": (6.5, odd), "words": ("a", "b")}, {"goal": odd}, {"shown": odd}):
        with pytest.raises(PlanError) as refused:
            replace(grade, rung=0, **change)
        assert refused.value.code == "a_number_out_of_limits"
