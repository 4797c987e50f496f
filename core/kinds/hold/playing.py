"""A simulated held note."""

import numpy as np

from core.kinds.kind import Played
from core.simulate.voice import Voice, sing


def performed(voice: Voice, played: Played) -> np.ndarray:
    """The voice as it is."""
    return sing(voice).samples
