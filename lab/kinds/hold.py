"""Held notes of known length and pitch; harder ones are in `lab.bench`."""

import numpy as np

from lab.kinds.attempt import SimulatedAttempt
from lab.kinds.bench_table import Spent, length_error_s, seeded_voice
from lab.simulate.voice import Voice, sing


def perform(voice: Voice, attempt: SimulatedAttempt) -> np.ndarray:
    """The voice as it is."""
    return sing(voice).samples


def bench_rows(count: int) -> list[str]:
    """Measure `count` seeded attempts."""
    spent = Spent("hold")
    for seed in range(count):
        random = np.random.default_rng((seed, 6))
        sung = sing(seeded_voice(random, seed))
        found = spent.measure(sung)
        spent.add("seconds, ms", 1000 * length_error_s(found, sung))
        pitch = (found.f0_median_hz or 1) / float(np.nanmedian(sung.f0_hz))
        spent.add("pitch, cents", 1200 * np.log2(pitch))
    return spent.rows("hold")
