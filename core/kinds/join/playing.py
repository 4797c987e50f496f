"""A simulated hiss that turns into a buzz."""

from dataclasses import replace

import numpy as np

from core.kinds.kind import Played
from core.simulate.tasks import hiss_to_buzz
from core.simulate.voice import Voice

_SHORTEST_BUZZ_S = 0.5


def performed(voice: Voice, played: Played) -> np.ndarray:
    """Every third with a silence of 70 ms at the join."""
    hiss_s = voice.seconds / 2 if played.hiss_s is None else played.hiss_s
    buzz = replace(voice, seconds=max(voice.seconds - hiss_s, _SHORTEST_BUZZ_S))
    gap_s = 0.07 if voice.seed % 3 == 0 else 0.0
    return hiss_to_buzz(buzz, hiss_s=hiss_s, gap_s=gap_s).samples
