"""Hisses that turn to buzz at a known moment, and the simulated attempt."""

from dataclasses import replace

import numpy as np

from core.kinds.sz.figures import Joined
from lab.kinds.attempt import SimulatedAttempt
from lab.kinds.bench_table import Spent, seeded_voice
from lab.simulate.tasks import SimulatedSound, hiss_to_buzz
from lab.simulate.voice import Voice

_SHORTEST_BUZZ_S = 0.5


def perform(voice: Voice, attempt: SimulatedAttempt) -> np.ndarray:
    """Every third with a silence of 70 ms at the join."""
    hiss_s = voice.seconds / 2 if attempt.hiss_s is None else attempt.hiss_s
    buzz = replace(voice, seconds=max(voice.seconds - hiss_s, _SHORTEST_BUZZ_S))
    gap_s = 0.07 if voice.seed % 3 == 0 else 0.0
    return hiss_to_buzz(buzz, hiss_s=hiss_s, gap_s=gap_s).samples


def joining(seed: int) -> SimulatedSound:
    """A hiss that turns into a buzz within 4–100 ms, every second time with a silence between."""
    random = np.random.default_rng((seed, 3))
    seconds, attack_s = float(random.uniform(1, 4)), float(random.uniform(0.004, 0.1))
    gap_s = float(random.uniform(0.04, 0.3)) if seed % 2 else 0.0
    voice = seeded_voice(random, seed, seconds=seconds, attack_s=attack_s)
    hiss_s = float(random.uniform(1, 4))
    return hiss_to_buzz(voice, hiss_s=hiss_s, gap_s=gap_s, softer_db=float(random.uniform(3, 12)))


def bench_rows(count: int) -> list[str]:
    """Measure `count` seeded attempts."""
    spent = Spent("sz")
    for seed in range(count):
        played = joining(seed)
        own = spent.measure(played).own
        switch = own.switch_s if isinstance(own, Joined) and own.switch_s else 0.0
        gap = own.gap_s if isinstance(own, Joined) and own.gap_s else 0.0
        spent.add("switch, ms", 1000 * (switch - (played.switch_s or 0.0)))
        spent.add("silence, ms", 1000 * (gap - played.gap_s))
    return spent.rows("hiss to buzz")
