"""Formants of a simulated voice: vowels as resonances in cascade, scaled by the speaker's size."""

import numpy as np
from scipy.signal import sosfilt

from lab.simulate.glottis import RATE_HZ

VOWELS_HZ = {
    "ah": (730, 1150, 2500, 3400, 4400),
    "oh": (480, 850, 2450, 3300, 4300),
    "ee": (290, 2250, 2950, 3500, 4400),
    "eh": (540, 1850, 2500, 3450, 4400),
    "oo": (320, 800, 2300, 3300, 4300),
}
SIZES = {"man": 1.0, "woman": 1.16, "child": 1.33, "sung": 1.1}


def resonances(formants_hz: tuple[float, ...]) -> np.ndarray:
    """Second-order sections of formants in Hz at 48 kHz, each of gain 1 at 0 Hz."""
    sections = []
    for hz in formants_hz:
        radius = np.exp(-np.pi * (50 + 0.035 * hz) / RATE_HZ)
        turn = 2 * radius * np.cos(2 * np.pi * hz / RATE_HZ)
        sections.append([1 - turn + radius**2, 0, 0, 1, -turn, radius**2])
    return np.array(sections)


def shaped(source: np.ndarray, vowel: str, size: str) -> np.ndarray:
    """The source through a vowel of a man's, woman's, child's or singer's tract."""
    return sosfilt(resonances(tuple(hz * SIZES[size] for hz in VOWELS_HZ[vowel])), source)


def gliding(source: np.ndarray, vowels: list[str], size: str, block: int = 480) -> np.ndarray:
    """The source through a tract that moves from vowel to vowel, as talk does."""
    path = np.array([VOWELS_HZ[vowel] for vowel in vowels]) * SIZES[size]
    blocks = -(-len(source) // block)
    places = np.linspace(0, len(path) - 1, blocks)
    state, parts = np.zeros((path.shape[1], 2)), []
    for number, place in enumerate(places):
        formants = [np.interp(place, np.arange(len(path)), path[:, k]) for k in range(5)]
        piece = source[number * block : (number + 1) * block]
        piece, state = sosfilt(resonances(tuple(formants)), piece, zi=state)
        parts.append(piece)
    return np.concatenate(parts)
