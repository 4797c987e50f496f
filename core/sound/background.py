"""Tones that stand in the room before or after the voice: mains hum, a machine."""

import numpy as np

from core.sound.settings.standing_tone import STANDING_TONE
from core.sound.voicing import Voicing, spread_cents


def standing_tone(voicing: Voicing) -> np.ndarray:
    """Frames of a tone that sounds from the first frame or to the last, as still as no voice is.

    Shape (n,), bool. Stillness: spread of the pitch, against that of what else is
    voiced.
    """
    found = np.zeros(len(voicing.level_db), dtype=bool)
    for edge, outermost in (
        (slice(STANDING_TONE.skipped, STANDING_TONE.skipped + STANDING_TONE.looked), slice(0, 1)),
        (
            slice(-STANDING_TONE.skipped - STANDING_TONE.looked, -STANDING_TONE.skipped),
            slice(-1, None),
        ),
    ):
        pitch, level = voicing.semitones[edge], voicing.level_db[edge]
        if len(pitch) < STANDING_TONE.looked or np.isnan(pitch).any():
            continue
        if voicing.level_db[outermost].min() < np.median(level) - STANDING_TONE.rising_db:
            continue
        if pitch.std() > STANDING_TONE.steady_semitones or level.std() > STANDING_TONE.steady_db:
            continue
        with np.errstate(invalid="ignore"):
            same = np.abs(voicing.semitones - np.median(pitch)) < STANDING_TONE.same_semitones
        same &= np.abs(voicing.level_db - np.median(level)) < STANDING_TONE.same_db
        tone = spread_cents(voicing.semitones[same])
        rest = spread_cents(voicing.semitones[voicing.voiced & ~same])
        if tone < max(STANDING_TONE.still_cents, STANDING_TONE.still_share * rest):
            found |= same
    return found
