"""The long level hum: length, level and how steady it is; fitted to the breath there is."""

from dataclasses import replace

import pytest

from core.grading.rule import rules
from core.kinds.in_session import TriedAttempt
from core.kinds.live import measure_sound
from core.kinds.registry import findings, kind_of
from core.notes.note import Note
from core.program.targets import Holds
from core.sound.reading import Sound
from lab.simulate.voice import Voice, sing
from tests.core.fitted import proposed

EVEN = Voice(f0_hz=220.0, seconds=8.0, level_db=-30.0, noise_db=-70.0, seed=4)


def heard(voice):
    sung = sing(voice)
    return measure_sound(Sound(sung.samples, sung.rate_hz), "hum", target=Note.named("A3")), sung


def codes(voice):
    return [one.code for one in findings(heard(voice)[0])]


def test_an_even_hum_is_as_long_as_it_was_and_level():
    found, sung = heard(EVEN)
    assert found.hold_s == pytest.approx(sung.offset_s - sung.onset_s, abs=0.05)
    assert found.level_sd_db < 2.0
    assert abs(found.trail_off_db) < 1.5
    assert codes(EVEN)[-2:] == ["level", "steady"]


def test_loud_at_first_and_thin_at_the_end_is_said_first():
    thin = replace(EVEN, trail_off_db=-9.0)
    assert heard(thin)[0].trail_off_db < -4
    assert codes(thin)[0] == "faded"
    assert "level" not in codes(thin)


def test_a_home_session_keeps_length_level_trail_off_and_pitch():
    tries = [
        TriedAttempt(place=0, seconds=found.hold_s, target_s=10.0, figures=found)
        for found in (heard(EVEN)[0], heard(replace(EVEN, seconds=5.0))[0])
    ]
    came = {one.code: one.value for one in kind_of("hum").in_session(tries)}
    assert came["best_s"] == pytest.approx(8.0, abs=0.1)
    assert came["share"] == pytest.approx(80, abs=1)
    assert came["level_sd"] < 2
    assert came["gaps"] == 0
    assert {"trail_off", "pitch_sd", "mean_s"} <= came.keys()


def hummed(**known):
    program = proposed("breath_support", options={"support": "hum"}, known=known).program
    return next(step for step in program.steps if step.task == "long_hum")


def test_it_begins_within_four_fifths_of_the_phonation_time_and_grows_to_all_of_it():
    step = hummed(phonation_s=(10.0,))
    assert isinstance(step.target, Holds)
    assert step.measured == "hum"
    # the task's own 6 s lie within 8 s; 10 s is the goal
    assert step.target.holds[0].seconds <= 6.0
    assert step.grade.goal == 10.0
    assert step.grade.rungs[-1] == 10.0
    assert all(rung <= 10.0 for rung in step.grade.rungs)


def test_without_a_phonation_time_it_is_short_and_does_not_grow():
    step = hummed(phonation_s=(), probes_s=(), strong_s=())
    assert step.grade is None
    assert step.target.holds[0].seconds <= 3.0


def test_it_advances_by_its_own_rule():
    step = hummed(phonation_s=(10.0,))
    assert rules().of(step, "B").name == "long level hum"
