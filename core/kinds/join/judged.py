"""Hisses that turn to buzz at a known moment."""

import numpy as np

from core.kinds.join.figures import Joined
from core.kinds.judging import Spent, seeded_voice
from core.simulate.tasks import Played, hiss_to_buzz


def joining(seed: int) -> Played:
    """A hiss that turns into a buzz within 4–100 ms, every second time with a silence between."""
    random = np.random.default_rng((seed, 3))
    seconds, attack_s = float(random.uniform(1, 4)), float(random.uniform(0.004, 0.1))
    gap_s = float(random.uniform(0.04, 0.3)) if seed % 2 else 0.0
    voice = seeded_voice(random, seed, seconds=seconds, attack_s=attack_s)
    hiss_s = float(random.uniform(1, 4))
    return hiss_to_buzz(voice, hiss_s=hiss_s, gap_s=gap_s, softer_db=float(random.uniform(3, 12)))


def judged(count: int) -> list[str]:
    """So many seeded attempts."""
    spent = Spent("sz")
    for seed in range(count):
        played = joining(seed)
        own = spent.measure(played).own
        switch = own.switch_s if isinstance(own, Joined) and own.switch_s else 0.0
        gap = own.gap_s if isinstance(own, Joined) and own.gap_s else 0.0
        spent.add("switch, ms", 1000 * (switch - (played.switch_s or 0.0)))
        spent.add("silence, ms", 1000 * (gap - played.gap_s))
    return spent.rows("hiss to buzz")
