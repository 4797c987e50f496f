"""A simulated slide."""

import numpy as np

from core.kinds.kind import Played
from core.simulate.voice import Voice, sing


def performed(voice: Voice, played: Played) -> np.ndarray:
    """The voice as it is: its `glide_to_hz` makes the slide."""
    return sing(voice).samples
