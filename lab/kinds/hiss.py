"""Hisses of known length, and the simulated attempt."""

import numpy as np

from lab.kinds.attempt import SimulatedAttempt
from lab.kinds.bench_table import Spent, length_error_s, seeded_voice
from lab.simulate.voice import Sung, Voice, sing

_ANY_HZ = 200.0


def perform(voice: Voice, attempt: SimulatedAttempt) -> np.ndarray:
    """A hiss as long as the voice."""
    hiss = Voice(f0_hz=_ANY_HZ, seconds=voice.seconds, hiss=True, seed=voice.seed)
    return sing(hiss).samples


def hissed(seed: int) -> Sung:
    """A hiss of 2–15 s, every third time with a swell."""
    random = np.random.default_rng((seed, 2))
    voice = seeded_voice(
        random,
        seed,
        hiss=True,
        seconds=float(random.uniform(2, 15)),
        swell_db=8.0 if seed % 3 == 0 else 0.0,
        attack_s=float(random.uniform(0.02, 0.2)),
        release_s=float(random.uniform(0.02, 0.3)),
    )
    return sing(voice, (16_000, 44_100)[seed % 2])


def bench_rows(count: int) -> list[str]:
    """Measure `count` seeded attempts."""
    spent = Spent("hiss")
    for seed in range(count):
        sung = hissed(seed)
        spent.add("seconds, ms", 1000 * length_error_s(spent.measure(sung), sung))
    return spent.rows("hiss")
