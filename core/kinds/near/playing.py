"""Simulated phrases near a note."""

import numpy as np

from core.kinds.kind import Played
from core.kinds.near.aim import NearTarget
from core.simulate.tasks import speak
from core.simulate.voice import Voice

_PHRASES = 5
MOVEMENT = 0.25
"""Of the movement of pitch in usual talk: phrases that come home to a tone move less."""


def performed(voice: Voice, played: Played) -> np.ndarray:
    """As many phrases as are aimed at, around the pitch of the voice."""
    aim = played.aim
    return speak(
        phrases=aim.phrases if isinstance(aim, NearTarget) else _PHRASES,
        level_db=voice.level_db,
        noise_db=voice.noise_db,
        size=played.size,
        seed=voice.seed,
        base_hz=voice.f0_hz,
        movement=MOVEMENT,
    ).samples
