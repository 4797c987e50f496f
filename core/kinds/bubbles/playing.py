"""A simulated voice through a tube in water."""

import numpy as np

from core.kinds.bubbles.aim import AirOnly
from core.kinds.kind import Played
from core.simulate.tasks import bubble
from core.simulate.voice import Voice


def performed(voice: Voice, played: Played) -> np.ndarray:
    """14–18 bubbles a second; in every fourth they stop for half a second."""
    bubble_hz, air_only = 14.0 + voice.seed % 5, isinstance(played.aim, AirOnly)
    stops = ((voice.seconds * 0.6, 0.5),) if voice.seed % 4 == 1 else ()
    return bubble(voice, bubble_hz=bubble_hz, stops=stops, air_only=air_only).samples
