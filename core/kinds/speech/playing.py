"""Simulated talk."""

import numpy as np

from core.kinds.kind import Played
from core.simulate.tasks import speak
from core.simulate.voice import Voice

_PHRASE_AND_PAUSE_S = 2.4
_FADE_DB = -3.5


def performed(voice: Voice, played: Played) -> np.ndarray:
    """Phrases of talk at the level of the voice, for about the seconds asked for."""
    return speak(
        phrases=max(round(played.seconds / _PHRASE_AND_PAUSE_S), 1),
        level_db=voice.level_db,
        fade_db=_FADE_DB,
        noise_db=voice.noise_db,
        size=played.size,
        seed=voice.seed,
    ).samples
