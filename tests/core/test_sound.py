"""Holds of known truth through the kernel: lengths, pitch, breaks, quality, live state."""

import struct

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from core.errors import SoundError
from core.kinds.attempt import figures
from core.kinds.live import LiveMeasurement, measure_sound
from core.notes.note import Note
from core.sound.figures import QualityVerdict
from core.sound.kernel import Frames, FrameStream, analyse, frames_of
from core.sound.reading import Sound
from lab.simulate.voice import Voice, sing

NOTES = [Note(number) for number in (40, 48, 55, 60, 67, 74, 79)]


def measure(voice, task="hold", rate_hz=16_000, **options):
    sung = sing(voice, rate_hz)
    return sung, measure_sound(Sound(sung.samples, rate_hz), task, **options)


@pytest.mark.parametrize("note", NOTES, ids=str)
@pytest.mark.parametrize("level_db", [-48.0, -14.0])
def test_hold_and_pitch_of_every_voice(note, level_db):
    voice = Voice(
        f0_hz=note.hz() * 1.003,
        seconds=4.0,
        level_db=level_db,
        wobble_semitones=0.2,
        seed=note.number,
    )
    sung, found = measure(voice, target=note)
    assert found.hold_s == pytest.approx(sung.hold_s, abs=0.02)
    assert found.onset_s == pytest.approx(sung.onset_s, abs=0.015)
    assert 1200 * np.log2(found.f0_median_hz / sung.f0_median_hz) == pytest.approx(0, abs=2)
    assert found.pitch_error_cents == pytest.approx(5.2, abs=2)
    assert found.f0_sd_semitones == pytest.approx(0.2, abs=0.07)
    assert found.level_mean_db == pytest.approx(level_db, abs=0.6)
    assert not found.breaks
    assert found.quality.verdict is QualityVerdict.GOOD


@pytest.mark.parametrize("rate_hz", [8_000, 22_050, 44_100, 48_000, 96_000])
def test_any_rate_gives_the_same_figures(rate_hz):
    sung, found = measure(Voice(f0_hz=233.0, seconds=3.0), rate_hz=rate_hz)
    assert found.hold_s == pytest.approx(sung.hold_s, abs=0.02)
    assert found.f0_median_hz == pytest.approx(sung.f0_median_hz, rel=0.001)


@settings(max_examples=15)
@given(st.lists(st.integers(1, 4000), min_size=1, max_size=12), st.integers(0, 5))
def test_cut_anywhere_the_frames_are_the_same(cuts, seed):
    samples = sing(Voice(f0_hz=180.0, seconds=1.2, seed=seed)).samples
    whole = frames_of(samples)
    stream, parts, at = FrameStream(), [], 0
    for cut in [*cuts, len(samples)]:
        parts.append(analyse(stream.push(samples[at : at + cut])))
        at += cut
    parts.append(analyse(stream.push(samples[at:])))
    parts.append(analyse(stream.finish()))
    joined = Frames.joined(parts)
    assert len(joined) == len(whole)
    np.testing.assert_allclose(joined.pitch_hz, whole.pitch_hz, rtol=1e-4)
    np.testing.assert_allclose(joined.edge_db, whole.edge_db, atol=0.01)
    assert figures(joined, "hold").hold_s == pytest.approx(figures(whole, "hold").hold_s, abs=0.003)


def test_live_state_and_whole_file_agree():
    sung = sing(Voice(f0_hz=311.0, seconds=2.5))
    live = LiveMeasurement(16_000, "hold")
    states = [live.feed(sung.samples[at : at + 800]) for at in range(0, len(sung.samples), 800)]
    assert states[-1].hold_s == pytest.approx(sung.hold_s, abs=0.06)
    assert any(state.holding for state in states)
    assert sum(len(state.level_db) for state in states) <= len(sung.samples) / 160
    assert live.stop().hold_s == measure_sound(Sound(sung.samples, 16_000), "hold").hold_s


@pytest.mark.parametrize("size", [1, 7, 159, 161])
def test_pieces_too_short_for_a_frame_are_only_waited_for(size):
    sung = sing(Voice(f0_hz=311.0, seconds=0.5, lead_s=0.1, tail_s=0.1))
    live = LiveMeasurement(16_000, "hold")
    drawn = [
        f0
        for at in range(0, len(sung.samples), size)
        for f0 in live.feed(sung.samples[at : at + size]).f0_hz
    ]
    assert len(drawn) == (len(sung.samples) - 400) // 160 + 1
    assert live.stop().hold_s == pytest.approx(sung.hold_s, abs=0.02)


def test_the_drawn_pitch_has_no_stray_frames():
    for seed in range(6):
        sung = sing(Voice(f0_hz=311.0, seconds=1.5, seed=seed))
        live = LiveMeasurement(16_000, "hold")
        drawn = [
            f0
            for at in range(0, len(sung.samples), 800)
            for f0 in live.feed(sung.samples[at : at + 800]).f0_hz
            if f0
        ]
        assert len(drawn) > 130
        assert max(abs(12 * np.log2(f0 / 311.0)) for f0 in drawn) < 2


def test_the_page_may_stop_1_2_s_after_the_hold_and_not_before():
    sung = sing(Voice(f0_hz=220.0, seconds=2.0, lead_s=1.5, tail_s=2.0))
    live = LiveMeasurement(16_000, "hold")
    ended = []
    for at in range(0, len(sung.samples), 800):
        if live.feed(sung.samples[at : at + 800]).ended:
            ended.append(at / 16_000)
    assert ended[0] == pytest.approx(sung.offset_s + 1.2, abs=0.12)


def test_trail_off_and_slope_are_seen():
    _, found = measure(Voice(f0_hz=220.0, seconds=5.0, trail_off_db=-10.0))
    assert found.trail_off_db == pytest.approx(-8.0, abs=0.6)  # fifths lie 4/5 apart
    assert found.slope_db_per_s == pytest.approx(-2.0, abs=0.15)


def test_a_short_gap_is_a_break_and_a_long_one_ends_the_hold():
    _, short = measure(Voice(f0_hz=220.0, seconds=5.0, gaps=((2.0, 0.18),)))
    assert short.hold_s == pytest.approx(4.98, abs=0.03)
    assert [b.kind for b in short.breaks] == ["gap"]
    assert 2.6 < short.breaks[0].start_s < short.breaks[0].end_s < 2.8
    _, long = measure(Voice(f0_hz=220.0, seconds=5.0, gaps=((3.0, 0.4),)))
    assert long.hold_s == pytest.approx(3.0, abs=0.04)


def test_a_jump_of_an_octave_is_a_break_of_no_length():
    low = sing(Voice(f0_hz=200.0, seconds=2.0, tail_s=0.0))
    high = sing(Voice(f0_hz=400.0, seconds=2.0, lead_s=0.0))
    both = np.concatenate((low.samples, high.samples))
    found = measure_sound(Sound(both, 16_000), "hold")
    jumps = [b for b in found.breaks if b.kind == "jump"]
    assert len(jumps) == 1
    assert jumps[0].start_s == jumps[0].end_s == pytest.approx(2.6, abs=0.08)


def test_glide_span_and_direction():
    _, up = measure(Voice(f0_hz=200.0, glide_to_hz=400.0, seconds=6.0), "glide")
    assert up.glide.direction == "up"
    assert up.glide.span_semitones == pytest.approx(12, abs=0.4)
    _, down = measure(Voice(f0_hz=400.0, glide_to_hz=200.0, seconds=6.0), "glide")
    assert down.glide.direction == "down"


def test_a_hiss_is_held_and_a_voice_is_none():
    sung, found = measure(Voice(f0_hz=220.0, seconds=6.0, hiss=True), "hiss")
    assert found.hold_s == pytest.approx(sung.hold_s, abs=0.05)
    assert found.f0_median_hz is None
    _, voice = measure(Voice(f0_hz=220.0, seconds=3.0), "hiss")
    assert not voice.hold_s


def nothing(kind):
    random = np.random.default_rng(1)
    return {
        "silence": np.zeros(48_000),
        "room": random.normal(size=48_000) * 0.003,
        "one sample": np.zeros(1),
        "clicks": np.where(np.arange(48_000) % 8_000 == 0, 0.8, 0.0),
        "guide tone": 0.2 * np.sin(2 * np.pi * 440 * np.arange(48_000) / 16_000),
    }[kind]


@pytest.mark.parametrize("kind", ["silence", "room", "one sample", "clicks", "guide tone"])
def test_no_hold_is_found_where_none_is(kind):
    found = measure_sound(Sound(nothing(kind), 16_000), "hold")
    assert found.hold_s == 0.0
    assert found.f0_median_hz is None
    assert found.quality.reasons


def test_clipped_sound_is_said_so():
    sung = sing(Voice(f0_hz=220.0, seconds=3.0, level_db=-14.0))
    loud = np.clip(sung.samples * 6, -1, 1)
    found = measure_sound(Sound(loud, 16_000), "hold")
    assert found.quality.verdict is not QualityVerdict.GOOD
    assert "clipped" in [reason.code for reason in found.quality.reasons]


def test_noise_near_the_voice_is_measured_as_such():
    _, found = measure(Voice(f0_hz=220.0, seconds=3.0, level_db=-30.0, noise_db=-38.0))
    assert found.quality.verdict is not QualityVerdict.GOOD
    assert "noisy" in [reason.code for reason in found.quality.reasons]


def test_a_live_attempt_has_an_end():
    live = LiveMeasurement(8_000, "hold", max_seconds=1.0)
    live.feed(np.zeros(8_000))
    with pytest.raises(SoundError) as refused:
        live.feed(np.zeros(1))
    assert refused.value.code == "sound_too_long"


def test_the_simulator_tells_the_same_sound_for_the_same_seed():
    one, two = (sing(Voice(f0_hz=220.0, seconds=1.0, seed=7)).samples for _ in range(2))
    other = sing(Voice(f0_hz=220.0, seconds=1.0, seed=8)).samples
    assert np.array_equal(one, two)
    assert not np.array_equal(one, other)
    assert struct.unpack("<4s", sing(Voice(f0_hz=220.0, seconds=1.0)).as_wav()[:4]) == (b"RIFF",)
