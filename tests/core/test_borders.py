"""Sounds at the borders of the detectors: measured without an error, warnings included."""

import warnings

import numpy as np
import pytest

from core.kinds.live import LiveMeasurement, measure_sound
from core.kinds.registry import findings, kinds
from lab.bench.border_sounds import BORDERS

RATE_HZ = 16_000
RANDOM = np.random.default_rng(5)
TIME_S = np.arange(RATE_HZ) / RATE_HZ
ODD = {
    "nothing": np.zeros(0),
    "one sample": np.zeros(1),
    "silence": np.zeros(len(TIME_S)),
    "a constant": np.full(len(TIME_S), 0.5),
    "noise": RANDOM.normal(0, 0.1, len(TIME_S)),
    "a tone from the first sample on": 0.3 * np.sin(2 * np.pi * 220 * TIME_S),
    "a square wave at full scale": np.sign(np.sin(2 * np.pi * 150 * TIME_S)),
    "clicks": 0.8 * (np.arange(len(TIME_S)) % 1_600 == 0),
    "a trace of noise": RANDOM.normal(0, 1e-7, len(TIME_S)),
}


@pytest.fixture(autouse=True)
def _a_warning_is_an_error():
    with warnings.catch_warnings():
        warnings.simplefilter("error")
        yield


@pytest.mark.parametrize("name", BORDERS)
def test_no_sound_at_a_border_makes_its_task_fail(name):
    sound, task, aim = BORDERS[name]()
    found = measure_sound(sound, task, target=aim)
    assert all(finding.code for finding in findings(found))


@pytest.mark.parametrize("task", kinds())
@pytest.mark.parametrize("name", ODD)
def test_no_odd_sound_makes_a_task_fail(name, task):
    live = LiveMeasurement(RATE_HZ, task)
    for at in range(0, len(ODD[name]), RATE_HZ // 4):
        live.feed(ODD[name][at : at + RATE_HZ // 4])
    found = live.stop()
    assert all(finding.code for finding in findings(found))
    assert found.hold_s is None or found.hold_s <= len(ODD[name]) / RATE_HZ
