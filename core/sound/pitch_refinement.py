"""The pitch of a held voice, drawn together over neighbouring frames.

A frame's guess is a mean over its own 50 ms: single uneven periods shake it, and a swing of the
pitch comes out a little too small. Over nine frames a parabola is laid (Anal Chem
1964;36:1627–1639), and what the window took off a bend is given back.
"""

import itertools

import numpy as np

from core.sound.kernel import HOP_S
from core.sound.settings.refinement import REFINEMENT
from core.sound.voicing import runs

# Half the variance in time of what a frame hears, s², found on additive voices swinging at 5.3 Hz,
# once for the frame and once for the parabola.


def _weights() -> np.ndarray:
    at = np.arange(-REFINEMENT.reach, REFINEMENT.reach + 1) * HOP_S
    value, _slope, half_bend = np.linalg.pinv(np.vander(at, 3, increasing=True))
    return value - REFINEMENT.bend_s2 * 2 * half_bend


_WEIGHTS = _weights()


def refined(semitones: np.ndarray) -> np.ndarray:
    """Pitch of frames in semitones, shape (n,), NaN = none; the same with each run of voice drawn
    together. The four frames at either end of a run, and beside a leap of a semitone and more, stay
    as they are."""
    found = semitones.copy()
    leaps = np.abs(np.diff(semitones, prepend=np.nan)) >= REFINEMENT.leap_semitones
    for first, after in runs(~np.isnan(semitones)):
        cuts = [first, *(first + 1 + np.flatnonzero(leaps[first + 1 : after])).tolist(), after]
        for begin, end in itertools.pairwise(cuts):
            if end - begin > 2 * REFINEMENT.reach:
                drawn = np.convolve(semitones[begin:end], _WEIGHTS, "valid")
                found[begin + REFINEMENT.reach : end - REFINEMENT.reach] = drawn
    return found
