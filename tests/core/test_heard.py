"""What may be kept to be heard: at most one sound of a step in seven days, for thirty days, without loss."""

import io
from datetime import UTC, datetime, timedelta

import numpy as np
import pytest
import soundfile

from core.kinds.live import measure_sound
from core.sound.reading import Sound
from core.sound.recording import Recording, one_more, worth_hearing
from lab.simulate.voice import Voice, sing

NOW = datetime(2026, 6, 14, 10, 0, tzinfo=UTC)


def days(number):
    return timedelta(days=number)


@pytest.mark.parametrize(
    ("made", "agreed", "others", "may"),
    [
        (0, 1, [], True),
        (0, 1, [7], True),  # a week ago to the minute
        (0, 1, [6.99], False),
        (0, 30, [20, 13, 7], True),
        (8, 30, [2], False),  # sent late: six days before one that is kept
        (9, 30, [2], True),
        (3, 2, [], False),  # made before they agreed
        (29.9, 60, [], True),
        (30, 60, [], False),  # past its time when it comes
    ],
)
def test_one_sound_of_a_step_a_week_from_the_consent_on(made, agreed, others, may):
    kept = [NOW - days(other) for other in others]
    assert one_more(NOW - days(made), now=NOW, agreed_at=NOW - days(agreed), kept=kept) is may


@pytest.mark.parametrize("rate_hz", [16_000, 44_100, 48_000])
def test_the_sound_comes_back_sample_by_sample(rate_hz):
    samples = sing(Voice(f0_hz=220.0, seconds=1.0), rate_hz).samples
    pcm = np.round(samples * 32767).astype("<i2")
    flac = Recording(pcm.tobytes(), rate_hz).as_flac()
    back, rate = soundfile.read(io.BytesIO(flac), dtype="int16")
    assert (rate, back.tolist()) == (rate_hz, pcm.tolist())
    assert flac[:4] == b"fLaC"
    assert len(flac) < 2 * len(pcm)


def test_only_the_task_s_own_sound_is_worth_it():
    sung = sing(Voice(f0_hz=220.0, seconds=2.0))
    assert worth_hearing(measure_sound(Sound(sung.samples, 16_000), "hold"))
    room = np.random.default_rng(1).normal(0, 1e-4, 32_000)
    assert not worth_hearing(measure_sound(Sound(room, 16_000), "hold"))
    assert not worth_hearing(None)
