"""Breaths of known length, and the simulated attempt."""

import numpy as np

from core.kinds.breath.aim import PaceTarget
from core.kinds.breath.figures import PacedBreath
from lab.kinds.attempt import SimulatedAttempt
from lab.kinds.bench_table import Spent
from lab.simulate.tasks import SimulatedSound, breathe
from lab.simulate.voice import Voice

_PACE = PaceTarget(in_s=2.4, out_s=4.8)
_SHORTEST_OUT_S = 1.0


def perform(voice: Voice, attempt: SimulatedAttempt) -> np.ndarray:
    """One breath at the pace aimed at, the breath out so many times too long."""
    pace = attempt.aim if isinstance(attempt.aim, PaceTarget) else _PACE
    out_s = max(pace.out_s * attempt.late, _SHORTEST_OUT_S)
    return breathe(in_s=pace.in_s, out_s=out_s, cycles=1, seed=voice.seed).samples


def breathing(seed: int) -> SimulatedSound:
    """Three breaths in and out, audible 16–26 dB over the room."""
    random = np.random.default_rng((seed, 5))
    return breathe(
        in_s=float(random.uniform(1.5, 3)),
        out_s=float(random.uniform(3, 9)),
        noise_db=float(random.uniform(-68, -58)),
        seed=seed,
    )


def bench_rows(count: int) -> list[str]:
    """Measure `count` seeded attempts."""
    spent = Spent("breath")
    for seed in range(count):
        played = breathing(seed)
        own = spent.measure(played).own
        found = sorted((*own.ins, *own.outs)) if isinstance(own, PacedBreath) else []
        spent.add("breaths", len(found) - len(played.breaths))
        for seen, true in zip(found, played.breaths, strict=False):
            spent.add("length, s", seen[1] - seen[0] - (true[1] - true[0]))
    return spent.rows("breath")
