"""A simulated swell."""

from dataclasses import replace

import numpy as np

from core.kinds.kind import Played
from core.simulate.voice import Voice, sing

_SWELL_DB = 9.0


def performed(voice: Voice, played: Played) -> np.ndarray:
    """The voice growing by 9 dB to its middle and fading again."""
    return sing(replace(voice, swell_db=_SWELL_DB, trail_off_db=0.0)).samples
