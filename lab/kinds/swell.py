"""Swells of known size, length and pitch, and the simulated attempt."""

import math
from dataclasses import replace

import numpy as np

from core.kinds.swell_figures import Swell
from lab.kinds.attempt import SimulatedAttempt
from lab.kinds.bench_table import Spent, length_error_s, seeded_voice
from lab.simulate.voice import Sung, Voice, sing

_SWELL_DB = 9.0


def perform(voice: Voice, attempt: SimulatedAttempt) -> np.ndarray:
    """The voice growing by 9 dB to its middle and fading again."""
    return sing(replace(voice, swell_db=_SWELL_DB, trail_off_db=0.0)).samples


_ENDS_LEFT_OUT_S = 0.1


def swelling(seed: int) -> tuple[Sung, float]:
    """One note that grows by 5–12 dB to its middle and fades again, and how much of it is to be seen
    between its outer 0.1 s, dB."""
    random = np.random.default_rng((seed, 8))
    swell_db = float(random.uniform(5, 12))
    voice = seeded_voice(random, seed, swell_db=swell_db, noise_db=-75.0)
    seen = 1 - math.sin(math.pi * _ENDS_LEFT_OUT_S / voice.seconds)
    return sing(voice, (16_000, 44_100)[seed % 2]), swell_db * seen


def bench_rows(count: int) -> list[str]:
    """Measure `count` seeded attempts."""
    spent = Spent("swell")
    for seed in range(count):
        sung, seen_db = swelling(seed)
        found = spent.measure(sung)
        own = found.own
        rise, fall = (own.rise_db, own.fall_db) if isinstance(own, Swell) else (0.0, 0.0)
        spent.add("rise, dB", rise - seen_db)
        spent.add("fall, dB", fall - seen_db)
        spent.add("seconds, ms", 1000 * length_error_s(found, sung))
    return spent.rows("swell")
