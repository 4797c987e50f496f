"""A simulated breath in and out."""

import numpy as np

from core.kinds.breath.aim import PaceTarget
from core.kinds.kind import Played
from core.simulate.tasks import breathe
from core.simulate.voice import Voice

_PACE = PaceTarget(in_s=2.4, out_s=4.8)
_SHORTEST_OUT_S = 1.0


def performed(voice: Voice, played: Played) -> np.ndarray:
    """One breath at the pace aimed at, the breath out so many times too long."""
    pace = played.aim if isinstance(played.aim, PaceTarget) else _PACE
    out_s = max(pace.out_s * played.late, _SHORTEST_OUT_S)
    return breathe(in_s=pace.in_s, out_s=out_s, cycles=1, seed=voice.seed).samples
