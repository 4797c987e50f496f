"""Bubbles of air only, the first rung of a tube in water: measured without a voice."""

import numpy as np
import pytest

from core.kinds.live import LiveMeasurement, measure_sound
from core.kinds.registry import target_of
from core.sound.reading import Sound
from lab.simulate.tasks import bubble
from lab.simulate.voice import Voice


def air_bubbles(seed, **changes):
    voice = Voice(f0_hz=200.0, seconds=5.0, level_db=-30.0, noise_db=-66.0, seed=seed)
    return bubble(voice, bubble_hz=14.0, air_only=True, **changes)


@pytest.mark.parametrize("seed", range(4))
def test_bubbles_of_air_only_are_measured_without_a_voice(seed):
    played = air_bubbles(seed, stops=((2.0, 0.6),) if seed == 1 else ())
    air = target_of("bubbles", "air only")
    found = measure_sound(Sound(played.samples, 16_000), "bubbles", target=air)
    assert found.hold_s == pytest.approx(played.offset_s - played.onset_s, abs=0.25)
    assert found.own.rate_hz == pytest.approx(played.bubble_hz, rel=0.04)
    assert len(found.own.stops) == len(played.stops)
    assert (found.f0_median_hz, found.onset, found.breaks) == (None, None, ())
    assert found.target == "air only"
    live = LiveMeasurement(16_000, "bubbles", target=air)
    states = [
        live.feed(played.samples[at : at + 1_600]) for at in range(0, len(played.samples), 1_600)
    ]
    assert states[-1].hold_s > 1.5
    assert live.stop().hold_s == pytest.approx(found.hold_s, abs=0.001)


def test_nothing_in_the_tube_is_nothing_and_a_voice_aims_at_nothing():
    room = np.random.default_rng(1).normal(size=48_000) * 10 ** (-66 / 20)
    air = target_of("bubbles", "air only")
    assert measure_sound(Sound(room, 16_000), "bubbles", target=air).hold_s == 0
    assert target_of("bubbles", "B♭3") is None
    assert target_of("hiss", "air only") is None


@pytest.mark.parametrize("aim", ["air only", None])
@pytest.mark.parametrize("bubble_hz", [6.5, 7.0])
def test_bubbles_too_slow_to_be_counted_keep_their_time_and_have_no_rate(aim, bubble_hz):
    """Slower than 7.5 a second nothing repeats at the lags that are searched."""
    voice = Voice(f0_hz=220.0, seconds=4.0, noise_db=-66.0)
    played = bubble(voice, bubble_hz=bubble_hz, air_only=aim is not None)
    target = target_of("bubbles", aim)
    found = measure_sound(Sound(played.samples, 16_000), "bubbles", target=target)
    assert found.hold_s == pytest.approx(4.0, abs=0.3)
    assert found.own.rate_hz is None or found.own.rate_hz == pytest.approx(bubble_hz, rel=0.2)
