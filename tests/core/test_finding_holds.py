"""Which sound is the hold: talk, tones, hum, coughs and rooms around it, and where it ends."""

import zlib

import numpy as np
import pytest
import soxr

from core.kinds.live import measure_sound
from core.sound.reading import Sound
from lab.bench.kinds import KINDS, NOTHING, plain
from lab.bench.score import score
from lab.simulate.glottis import RATE_HZ
from lab.simulate.surroundings import Surroundings, at_level, guide_tone, talk
from lab.simulate.voice import Voice, sing


def measured(samples, rate_hz=16_000):
    return measure_sound(Sound(samples, rate_hz), "hold")


@pytest.mark.parametrize("kind", sorted(set(KINDS) - {"echoing room", "babble"}))
def test_holds_of_every_kind_are_within_50_ms(kind):
    for seed in range(4):
        random = np.random.default_rng((seed, zlib.crc32(kind.encode()), 3))
        sung = sing(KINDS[kind](plain(random, seed), random), (16_000, 44_100)[seed % 2])
        found = score(sung, measured(sung.samples, sung.rate_hz))
        assert found.hold_s is not None, seed
        assert abs(found.hold_s) < 0.05, seed
        assert found.breaks_found == found.breaks_true
        assert found.breaks_false == 0


@pytest.mark.parametrize("kind", ["echoing room", "babble"])
def test_holds_in_hard_places_are_within_a_tenth_of_a_second(kind):
    for seed in range(4):
        random = np.random.default_rng((seed, 5))
        sung = sing(KINDS[kind](plain(random, seed), random))
        found = score(sung, measured(sung.samples))
        assert found.hold_s is not None, seed
        assert abs(found.hold_s) < 0.1, seed


@pytest.mark.parametrize("kind", sorted(NOTHING))
def test_no_hold_is_found_where_nobody_holds(kind):
    for seed in range(3):
        random = np.random.default_rng((seed, 11))
        sound = at_level(NOTHING[kind](6 * RATE_HZ, random), -28.0)
        assert not measured(np.clip(soxr.resample(sound, RATE_HZ, 16_000), -1, 1)).hold_s


def test_coughs_in_which_no_pitch_speaks_for_itself_are_no_hold():
    random = np.random.default_rng((1, zlib.crc32(b"coughs")))
    sound = NOTHING["coughs"](8 * RATE_HZ, random)
    sound = at_level(sound, float(random.uniform(-45, -22)))
    assert not measured(np.clip(soxr.resample(sound, RATE_HZ, 16_000), -1, 1)).hold_s


@pytest.mark.parametrize("before_s", [0.15, 0.2, 0.3])
@pytest.mark.parametrize("seed", range(3))
def test_a_guide_tone_of_the_same_pitch_is_not_the_hold(before_s, seed):
    around = Surroundings(tone_before_s=before_s, tone_hz=233.08)
    sung = sing(Voice(f0_hz=233.08, seconds=2.0, lead_s=1.8, around=around, seed=seed))
    found = measured(sung.samples)
    assert found.onset_s == pytest.approx(sung.onset_s, abs=0.03)
    assert found.hold_s == pytest.approx(sung.hold_s, abs=0.04)
    assert np.isnan(found.contour.f0_hz[: int(100 * (sung.onset_s - 0.05))]).all()


@pytest.mark.parametrize("before_s", [0.15, 0.2])
@pytest.mark.parametrize("seed", range(4))
def test_a_word_before_the_hold_is_not_the_hold(before_s, seed):
    around = Surroundings(talk_before_s=before_s)
    sung = sing(Voice(f0_hz=150.0, size="man", seconds=2.5, lead_s=1.4, around=around, seed=seed))
    found = measured(sung.samples)
    assert found.onset_s == pytest.approx(sung.onset_s, abs=0.04)
    assert found.hold_s == pytest.approx(sung.hold_s, abs=0.05)


def test_a_talker_beside_the_hold_is_said():
    sung = sing(Voice(f0_hz=262.0, seconds=3.0, tail_s=3.0))
    random = np.random.default_rng(4)
    spoken = soxr.resample(talk(2.0, random), RATE_HZ, 16_000)
    whole = sung.samples.copy()
    whole[-len(spoken) :] += at_level(spoken, -28.0)
    found = measured(whole)
    assert found.hold_s == pytest.approx(sung.hold_s, abs=0.04)
    assert "more_than_one_voice" in [reason.code for reason in found.quality.reasons]


def test_of_two_holds_the_longer_one_counts_and_both_are_drawn():
    short = sing(Voice(f0_hz=262.0, seconds=1.5, tail_s=0.4))
    long = sing(Voice(f0_hz=262.0, seconds=3.0, lead_s=0.4, seed=2))
    found = measured(np.concatenate((short.samples, long.samples)))
    assert found.hold_s == pytest.approx(long.hold_s, abs=0.03)
    drawn = ~np.isnan(found.contour.f0_hz)
    assert drawn[int(100 * short.onset_s) + 5 : int(100 * short.offset_s) - 5].all()


@pytest.mark.parametrize("hz", [100.0, 120.0, 240.0])
def test_a_voice_as_even_as_a_machine_is_still_a_voice(hz):
    voice = Voice(
        f0_hz=hz, seconds=3.0, wobble_semitones=0.0, jitter_percent=0.0, shimmer_percent=0.0
    )
    for lead_s in (0.0, 0.6):
        sung = sing(Voice(**{**_fields(voice), "lead_s": lead_s}))
        assert measured(sung.samples).hold_s == pytest.approx(sung.hold_s, abs=0.04)


def _fields(voice):
    return {name: getattr(voice, name) for name in Voice.__slots__}


def test_a_hold_that_the_recording_cuts_at_both_ends_is_as_long_as_the_recording():
    sung = sing(Voice(f0_hz=220.0, seconds=4.0, trail_off_db=-9.0))
    inner = sung.samples[int(1.0 * 16_000) : int(4.0 * 16_000)]
    assert measured(inner).hold_s == pytest.approx(3.0, abs=0.04)


def test_an_echo_does_not_lengthen_the_hold():
    plain_voice = Voice(f0_hz=220.0, seconds=2.0, seed=1)
    dry = measured(sing(plain_voice).samples).hold_s
    sung = sing(Voice(**{**_fields(plain_voice), "around": Surroundings(reverb_s=0.3)}))
    assert measured(sung.samples).hold_s == pytest.approx(dry, abs=0.06)


def test_a_tone_alone_after_the_voice_does_not_make_it_longer():
    sung = sing(Voice(f0_hz=196.0, seconds=2.0, tail_s=2.2))
    tone = soxr.resample(at_level(guide_tone(196.0, 1.5), -28.0), RATE_HZ, 16_000)
    whole = sung.samples.copy()
    at = int(16_000 * (sung.offset_s + 0.2))
    whole[at : at + len(tone)] += tone
    assert measured(whole).hold_s == pytest.approx(sung.hold_s, abs=0.05)


@pytest.mark.parametrize("seed", range(3))
def test_a_dark_vowel_among_other_voices_keeps_its_octave(seed):
    """Babble 10 dB under an "oo" fills the gaps between its few partials."""
    around = Surroundings(babble_db=-10.0)
    voice = Voice(f0_hz=241.0, seconds=4.0, vowel="oo", breath_db=-40.0, around=around, seed=seed)
    sung = sing(voice)
    found = score(sung, measured(sung.samples))
    assert found.gross <= 2
    assert abs(found.hold_s) < 0.1


def test_a_leap_to_a_far_softer_octave_and_back_is_one_hold():
    sung = sing(Voice(f0_hz=337.0, seconds=5.0, vowel="oo", jumps=((3.0, 0.3, 12.0),)))
    leap = slice(*(round(at * 16_000) for at in sung.jumps_s))
    samples = sung.samples.copy()
    samples[leap] *= 0.5
    found = measured(samples)
    assert found.hold_s == pytest.approx(sung.hold_s, abs=0.05)
    assert [b.kind for b in found.breaks] == ["jump", "jump"]


def test_a_voice_that_rises_out_of_a_hum_begins_where_it_begins():
    around = Surroundings(hum_db=-10.0, hum_hz=60.0)
    voice = Voice(f0_hz=125.5, seconds=2.5, size="man", attack_s=0.2, release_s=0.3, around=around)
    sung = sing(voice)
    found = measured(sung.samples)
    assert found.onset_s == pytest.approx(sung.onset_s, abs=0.04)
    assert found.offset_s == pytest.approx(sung.offset_s, abs=0.04)
