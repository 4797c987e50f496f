"""Tremor, onset, breaks, slope, glides and what the figures say in words."""

import dataclasses

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from core.kinds.live import measure_sound
from core.kinds.registry import findings
from core.sound.figures import Break, Contour, Figures, Glide, Quality, QualityVerdict, Tremor
from core.sound.reading import Sound
from lab.simulate.voice import Voice, sing


def measured(voice, task="hold"):
    sung = sing(voice)
    return sung, measure_sound(Sound(sung.samples, 16_000), task)


@settings(max_examples=12)
@given(rate_hz=st.floats(3.5, 9.0), cents=st.floats(30, 120), seed=st.integers(0, 50))
def test_tremor_has_its_rate_and_extent(rate_hz, cents, seed):
    voice = Voice(
        f0_hz=196.0, seconds=4.0, wobble_semitones=0.02, tremor_hz=rate_hz, tremor_cents=cents,
        tremor_db=1.5, seed=seed,
    )  # fmt: skip
    _, found = measured(voice)
    assert found.tremor.rate_hz == pytest.approx(rate_hz, abs=0.3)
    assert found.tremor.extent_cents == pytest.approx(cents, rel=0.12)


def test_a_voice_that_only_drifts_has_no_tremor():
    _, found = measured(Voice(f0_hz=196.0, seconds=4.0, wobble_semitones=0.03, drift_semitones=1.5))
    assert found.tremor is None


@pytest.mark.parametrize("seconds", [0.07, 0.1, 0.15, 0.22])
@pytest.mark.parametrize("hz", [110.0, 262.0])
def test_a_gap_is_as_long_as_it_was(seconds, hz):
    _, found = measured(Voice(f0_hz=hz, seconds=4.0, gaps=((1.7, seconds),)))
    (gap,) = found.breaks
    assert gap.kind == "gap"
    assert gap.end_s - gap.start_s == pytest.approx(seconds, abs=0.025)
    assert (gap.start_s + gap.end_s) / 2 == pytest.approx(0.6 + 1.7 + seconds / 2, abs=0.02)


def test_a_flicker_of_30_ms_is_no_break():
    _, found = measured(Voice(f0_hz=220.0, seconds=3.0, gaps=((1.5, 0.03),)))
    assert not found.breaks
    assert found.hold_s == pytest.approx(2.99, abs=0.03)


@pytest.mark.parametrize("semitones", [-12, -7, 5, 9])
def test_a_leap_of_the_voice_is_two_jumps_inside_one_hold(semitones):
    sung, found = measured(Voice(f0_hz=330.0, seconds=4.0, jumps=((1.5, 0.4, semitones),)))
    assert found.hold_s == pytest.approx(sung.hold_s, abs=0.03)
    assert [b.kind for b in found.breaks] == ["jump", "jump"]
    assert [b.start_s for b in found.breaks] == pytest.approx(sung.jumps_s, abs=0.03)


@pytest.mark.parametrize("trail_off_db", [-12.0, -6.0, 0.0, 4.0])
def test_the_slope_of_the_level_is_that_of_the_voice(trail_off_db):
    voice = Voice(
        f0_hz=196.0, seconds=5.0, wobble_semitones=0.03, trail_off_db=trail_off_db,
        level_db=-24.0, noise_db=-50.0,
    )  # fmt: skip
    sung, found = measured(voice)
    assert found.slope_db_per_s == pytest.approx(sung.slope_db_per_s, abs=0.1)


@pytest.mark.parametrize(
    ("changes", "kind"),
    [
        ({"hard_onset": True}, "hard"),
        ({"attack_s": 0.12}, "soft"),
        ({"attack_s": 0.08, "breathy_onset_s": 0.25}, "breathy"),
    ],
)
def test_the_onset_is_told(changes, kind):
    for seed in range(3):
        _, found = measured(Voice(f0_hz=220.0, seconds=2.0, level_db=-22.0, seed=seed, **changes))
        assert found.onset == kind


def test_no_onset_is_told_in_a_noisy_room():
    _, found = measured(Voice(f0_hz=220.0, seconds=2.0, level_db=-26.0, noise_db=-45.0))
    assert found.onset is None


@pytest.mark.parametrize(("low", "high"), [(110.0, 247.0), (196.0, 740.0)])
def test_a_glide_is_measured_from_end_to_end(low, high):
    sung, up = measured(Voice(f0_hz=low, glide_to_hz=high, seconds=5.0), "glide")
    truth = 12 * np.log2(np.nanmax(sung.f0_hz) / np.nanmin(sung.f0_hz))
    assert up.glide.span_semitones == pytest.approx(truth, abs=0.25)
    assert up.glide.low_hz == pytest.approx(np.nanmin(sung.f0_hz), rel=0.01)
    assert up.glide.evenness_semitones < 0.5
    assert up.glide.direction == "up"
    assert up.hold_s == pytest.approx(sung.hold_s, abs=0.04)


def test_a_glide_that_cracks_says_at_which_note():
    voice = Voice(f0_hz=200.0, glide_to_hz=400.0, seconds=5.0, gaps=((2.5, 0.15),))
    _, found = measured(voice, "glide")
    assert [b.kind for b in found.breaks] == ["gap"]
    assert found.glide.broke_at_hz == pytest.approx((200 * 2**0.5,), rel=0.03)
    assert found.as_data()["glide"]["broke_at_hz"] == [pytest.approx(282.8, rel=0.03)]


def heard(**changes):
    still = Figures(
        task="hold",
        target=None,
        quality=Quality(QualityVerdict.GOOD),
        contour=Contour(f0_hz=np.zeros(0), level_db=np.zeros(0)),
        hold_s=6.0,
        f0_sd_semitones=0.2,
        pitch_error_cents=4.0,
        trail_off_db=-1.0,
    )
    return [finding.code for finding in findings(dataclasses.replace(still, **changes))]


def test_what_the_figures_say():
    assert heard() == ["steady"]
    assert heard(hold_s=0.0) == heard(hold_s=None) == []
    assert heard(pitch_error_cents=80.0)[0] == "off_note"
    assert heard(pitch_error_cents=-1190.0)[0] == "other_octave"
    assert "faded" in heard(trail_off_db=-9.0)
    assert heard(tremor=Tremor(5.0, 60.0)) == ["tremor"]
    assert heard(f0_sd_semitones=1.2) == ["unsteady"]
    assert heard(onset="hard") == ["steady", "hard_onset"]
    breaks = (Break(1.0, 1.2, "gap"), Break(2.0, 2.0, "jump"))
    assert heard(breaks=breaks)[:2] == ["gaps", "jumps"]
    slide = Glide(200.0, 400.0, 12.0, "up", 0.3)
    assert heard(task="glide", glide=slide, pitch_error_cents=None) == ["glide"]
