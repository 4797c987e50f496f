"""Tones that stand in the room before or after the voice: mains hum, a machine."""

import numpy as np

from core.sound.voicing import Voicing, spread_cents

_SKIPPED, _LOOKED = 3, 22
# The outermost frame lies half outside the sound: 3 dB less for what goes on there unchanged.
_RISING_DB = 4.5
_STEADY_SEMITONES = 0.15
_STEADY_DB = 1.0
_SAME_SEMITONES = 0.35
_SAME_DB = 3.0
_STILL_CENTS = 2.5
_STILL_SHARE = 0.2


def standing_tone(voicing: Voicing) -> np.ndarray:
    """Frames of a tone that sounds from the first frame or to the last, as still as no voice is.

    Shape (n,), bool. Stillness: spread of the pitch, against that of what else is
    voiced.
    """
    found = np.zeros(len(voicing.level_db), dtype=bool)
    for edge, outermost in (
        (slice(_SKIPPED, _SKIPPED + _LOOKED), slice(0, 1)),
        (slice(-_SKIPPED - _LOOKED, -_SKIPPED), slice(-1, None)),
    ):
        pitch, level = voicing.semitones[edge], voicing.level_db[edge]
        if len(pitch) < _LOOKED or np.isnan(pitch).any():
            continue
        if voicing.level_db[outermost].min() < np.median(level) - _RISING_DB:
            continue
        if pitch.std() > _STEADY_SEMITONES or level.std() > _STEADY_DB:
            continue
        with np.errstate(invalid="ignore"):
            same = np.abs(voicing.semitones - np.median(pitch)) < _SAME_SEMITONES
        same &= np.abs(voicing.level_db - np.median(level)) < _SAME_DB
        tone = spread_cents(voicing.semitones[same])
        rest = spread_cents(voicing.semitones[voicing.voiced & ~same])
        if tone < max(_STILL_CENTS, _STILL_SHARE * rest):
            found |= same
    return found
