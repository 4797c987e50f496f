"""The stand-in voice and its surroundings do what they say: levels, times, truths."""

import numpy as np
import pytest

from lab.simulate import surroundings
from lab.simulate.glottis import RATE_HZ, pulses
from lab.simulate.surroundings import Surroundings
from lab.simulate.tract import VOWELS_HZ, shaped
from lab.simulate.voice import Voice, sing


def level_db(samples):
    return 10 * np.log10(np.mean(samples**2) + 1e-20)


def inside(sung, trim_s=0.2):
    first, last = (
        round((at + way * trim_s) * sung.rate_hz)
        for at, way in ((sung.onset_s, 1), (sung.offset_s, -1))
    )
    return sung.samples[first:last]


@pytest.mark.parametrize("wanted", [-50.0, -30.0, -18.0])
@pytest.mark.parametrize("vowel", sorted(VOWELS_HZ))
def test_a_voice_is_as_loud_as_asked(wanted, vowel):
    sung = sing(Voice(f0_hz=180.0, seconds=1.5, level_db=wanted, vowel=vowel, noise_db=-90.0))
    assert level_db(inside(sung)) == pytest.approx(wanted, abs=0.7)


def test_before_and_after_the_voice_there_is_only_the_room():
    sung = sing(Voice(f0_hz=180.0, seconds=1.0, noise_db=-60.0))
    before = sung.samples[: round((sung.onset_s - 0.05) * sung.rate_hz)]
    after = sung.samples[round((sung.offset_s + 0.1) * sung.rate_hz) :]
    assert level_db(before) == pytest.approx(-60, abs=0.7)
    assert level_db(after) == pytest.approx(-60, abs=0.7)


def test_the_truth_of_the_pitch_stands_where_the_voice_is():
    sung = sing(Voice(f0_hz=200.0, seconds=2.0, wobble_semitones=0.0))
    voiced = np.flatnonzero(~np.isnan(sung.f0_hz))
    assert voiced[0] / 100 == pytest.approx(sung.onset_s, abs=0.011)
    assert voiced[-1] / 100 == pytest.approx(sung.offset_s, abs=0.011)
    assert np.nanmedian(sung.f0_hz) == pytest.approx(200.0, rel=1e-6)


def test_a_pulse_comes_every_period():
    source, open_share = pulses(
        np.full(RATE_HZ, 100.0),
        np.random.default_rng(0),
        jitter_percent=0,
        shimmer_percent=0,
        diplophonia=0,
    )
    closings = np.flatnonzero(source < 0.9 * source.min())
    starts = closings[np.insert(np.diff(closings) > 100, 0, True)]
    assert np.median(np.diff(starts)) == pytest.approx(RATE_HZ / 100, abs=1)
    assert 0.5 < (open_share > 0.01).mean() < 0.7


def test_diplophonia_makes_every_second_pulse_weaker():
    source, _ = pulses(
        np.full(RATE_HZ, 100.0),
        np.random.default_rng(0),
        jitter_percent=0,
        shimmer_percent=0,
        diplophonia=0.3,
    )
    peaks = -source[: RATE_HZ // 480 * 480].reshape(-1, 480).min(axis=1)
    strong, weak = sorted((np.median(peaks[::2]), np.median(peaks[1::2])), reverse=True)
    # Being late steepens the slope of the next pulse a little, hence the width.
    assert weak / strong == pytest.approx(0.7, abs=0.06)


def test_a_vowel_has_its_formants():
    noise = np.random.default_rng(1).normal(size=RATE_HZ)
    spectrum = np.abs(np.fft.rfft(shaped(noise, "ee", "man"))) ** 2
    hz = np.fft.rfftfreq(RATE_HZ, 1 / RATE_HZ)
    near = spectrum[(hz > 250) & (hz < 330)].mean()
    between = spectrum[(hz > 900) & (hz < 1500)].mean()
    second = spectrum[(hz > 2_200) & (hz < 2_300)].mean()
    assert near > 10 * between
    assert second > 3 * between


NOISES = {
    "white_db": -10.0,
    "fan_db": -10.0,
    "hum_db": -10.0,
    "babble_db": -10.0,
    "talker_db": -10.0,
    "ticks_db": -20.0,
}


@pytest.mark.parametrize("name", sorted(NOISES))
def test_a_noise_lies_as_far_under_the_voice_as_asked(name):
    samples = surroundings.surrounded(
        np.zeros(3 * RATE_HZ),
        Surroundings(**{name: NOISES[name]}),
        -25.0,
        RATE_HZ,
        np.random.default_rng(2),
    )
    assert level_db(samples) == pytest.approx(-25.0 + NOISES[name], abs=0.1)


@pytest.mark.parametrize("name", ["tone_before_s", "talk_before_s", "cough_before_s"])
def test_what_comes_before_ends_when_it_should(name):
    samples = surroundings.surrounded(
        np.zeros(3 * RATE_HZ),
        Surroundings(**{name: 0.2}),
        -25.0,
        2 * RATE_HZ,
        np.random.default_rng(3),
    )
    sounding = np.flatnonzero(np.abs(samples) > 0) / RATE_HZ
    assert sounding[-1] <= 1.8 + 1e-4
    assert sounding[0] > 0.5


def test_hum_stands_at_the_mains_frequency():
    spectrum = np.abs(np.fft.rfft(surroundings.hum(RATE_HZ, 60.0, np.random.default_rng(4))))
    assert sorted(np.argsort(spectrum)[-3:]) == [60, 120, 180]


def test_a_room_rings_on_and_falls_by_60_db_in_its_time():
    click = np.zeros(RATE_HZ)
    click[0] = 1.0
    wet = surroundings.reverberant(click, 0.5, np.random.default_rng(5))
    early, late = wet[480 : 480 + 2400], wet[480 + 12_000 : 480 + 14_400]
    assert level_db(early) - level_db(late) == pytest.approx(30.0, abs=2.0)
