"""Hums of known length and level, and the simulated attempt."""

import numpy as np

from lab.kinds.attempt import SimulatedAttempt
from lab.kinds.bench_table import Spent, length_error_s, seeded_voice
from lab.simulate.voice import Sung, Voice, sing


def perform(voice: Voice, attempt: SimulatedAttempt) -> np.ndarray:
    """The voice as it is."""
    return sing(voice).samples


def hummed(seed: int) -> Sung:
    """A hum of 2–15 s; every third one fades by 8 dB."""
    random = np.random.default_rng((seed, 12))
    voice = seeded_voice(
        random,
        seed,
        seconds=float(random.uniform(2, 15)),
        trail_off_db=-8.0 if seed % 3 == 0 else 0.0,
    )
    return sing(voice)


def bench_rows(count: int) -> list[str]:
    """Measure `count` seeded attempts."""
    spent = Spent("hum")
    for seed in range(count):
        sung = hummed(seed)
        found = spent.measure(sung)
        spent.add("seconds, ms", 1000 * length_error_s(found, sung))
        pitch = (found.f0_median_hz or 1) / float(np.nanmedian(sung.f0_hz))
        spent.add("pitch, cents", 1200 * np.log2(pitch))
    return spent.rows("hum")
