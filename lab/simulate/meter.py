"""A sound-level meter that stands beside the simulated voice."""

import numpy as np

FULL_SCALE_DB = 96.0
_READING_SD_DB = 0.3


def meter_reading_db(level_dbfs: float, *, distance_cm: float = 30.0, seed: int = 0) -> float:
    """What the meter shows (dB, one decimal) at a distance (cm) for a voice that a microphone at
    30 cm takes as `level_dbfs`; every reading wavers by 0.3 dB (SD)."""
    waver = np.random.default_rng(seed).normal() * _READING_SD_DB
    return round(float(level_dbfs + FULL_SCALE_DB - 20 * np.log10(distance_cm / 30) + waver), 1)
