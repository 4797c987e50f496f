"""The simulated voice and level meter that stand in for a microphone and a meter in the demo."""

import numpy as np

from core.kinds.registry import target_of
from lab.kinds.attempt import SimulatedAttempt
from lab.kinds.registry import simulated
from lab.simulate.meter import meter_reading_db
from lab.simulate.voice import Voice

__all__ = ["attempt_samples", "meter_reading_db"]
LOW_VOICE_HZ = 150.0


def attempt_samples(
    task: str, *, f0_hz: float, seconds: float, seed: int, end_hz: float | None, aim: str | None
) -> np.ndarray:
    """Samples at 16 kHz of one attempt at a task: `end_hz` of a glide, `aim` as `target_of` reads it.

    The errors of `target_of`.
    """
    voice = Voice(f0_hz=f0_hz, seconds=seconds, seed=seed, lead_s=1.2, glide_to_hz=end_hz)
    attempt = SimulatedAttempt(
        seconds=seconds,
        aim=target_of(task, aim),
        late=1.05,
        size="man" if f0_hz < LOW_VOICE_HZ else "woman",
    )
    return simulated(task).perform(voice, attempt)
