"""A simulated slide."""

from dataclasses import replace

import numpy as np

from core.kinds.kind import Played
from core.simulate.voice import Voice, sing


def performed(voice: Voice, played: Played) -> np.ndarray:
    """A slide to the voice's `glide_to_hz`, an octave up where it names none."""
    end_hz = voice.glide_to_hz or 2 * voice.f0_hz
    return sing(replace(voice, glide_to_hz=end_hz)).samples
