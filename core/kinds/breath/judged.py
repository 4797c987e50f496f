"""Breaths of known length."""

import numpy as np

from core.kinds.breath.figures import PacedBreath
from core.kinds.judging import Spent
from core.simulate.tasks import Played, breathe


def breathing(seed: int) -> Played:
    """Three breaths in and out, audible 16–26 dB over the room."""
    random = np.random.default_rng((seed, 5))
    return breathe(
        in_s=float(random.uniform(1.5, 3)),
        out_s=float(random.uniform(3, 9)),
        noise_db=float(random.uniform(-68, -58)),
        seed=seed,
    )


def judged(count: int) -> list[str]:
    """So many seeded attempts."""
    spent = Spent("breath")
    for seed in range(count):
        played = breathing(seed)
        own = spent.measure(played).own
        found = sorted((*own.ins, *own.outs)) if isinstance(own, PacedBreath) else []
        spent.add("breaths", len(found) - len(played.breaths))
        for seen, true in zip(found, played.breaths, strict=False):
            spent.add("length, s", seen[1] - seen[0] - (true[1] - true[0]))
    return spent.rows("breath")
