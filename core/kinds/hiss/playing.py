"""A simulated hiss."""

import numpy as np

from core.kinds.kind import Played
from core.simulate.voice import Voice, sing

_ANY_HZ = 200.0


def performed(voice: Voice, played: Played) -> np.ndarray:
    """A hiss as long as the voice."""
    hiss = Voice(f0_hz=_ANY_HZ, seconds=voice.seconds, hiss=True, seed=voice.seed)
    return sing(hiss).samples
