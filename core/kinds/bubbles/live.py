"""Bubbles as they rise, for the page to draw; the figures count them anew at stop."""

import numpy as np

from core.kinds.aim import AttemptTarget
from core.kinds.bubbles.aim import AirOnly
from core.kinds.bubbles.settings import RISING
from core.kinds.kind import HearsVoice, Newest
from core.kinds.loud_follower import HearsWhatStandsOut
from core.sound.edges import STEP_S
from core.sound.kernel import HOP_S


class RisingBubbles(HearsVoice):
    """Times (s) at which the envelope rises through its own slow mean, piece by piece."""

    def __init__(self, aim: AttemptTarget | None = None) -> None:
        self._air = HearsWhatStandsOut() if isinstance(aim, AirOnly) else None
        self._mean_db: float | None = None
        self._low = False
        self._last_s = -1.0

    def heard(self, newest: Newest) -> list[bool]:
        """A voice, or with air only whatever stands out."""
        return self._air.heard(newest) if self._air else newest.voiced

    def bubbles(self, newest: Newest, start_s: float) -> tuple[float, ...]:
        """Bubbles of the newest frames, which begin at `start_s`."""
        powers = newest.frames.edge_bands.sum(axis=2)
        levels = (10 * np.log10(powers + 1e-12)).tolist()
        found = []
        for place, steps in enumerate(levels):
            for step, level in enumerate(steps):
                time_s = start_s + place * HOP_S + step * STEP_S - HOP_S / 2
                mean = level if self._mean_db is None else self._mean_db
                self._mean_db = mean + (level - mean) * STEP_S / RISING.slow_s
                if level < mean - RISING.swing_db:
                    self._low = True
                elif self._low and level > mean + RISING.swing_db:
                    self._low = False
                    if newest.loud[place] and time_s - self._last_s >= RISING.soonest_s:
                        found.append(round(time_s, 3))
                        self._last_s = time_s
        return tuple(found)
