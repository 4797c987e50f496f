"""Where a voice is held: level and timbre follow the pitch, not words.

In a held note the level and the shape of the spectrum hardly change, and what changes goes with
the pitch (tremor, vibrato, drift); in talk they change on their own with every sound. The limits
were set between simulated holds, shaky ones too (0.99 and less), and synthetic speech (1.7 and
more): docs/measuring.md.
"""

import numpy as np

from core.sound.kernel import Frames
from core.sound.settings.steadiness import STEADINESS


def shape_of(frames: Frames) -> np.ndarray:
    """Power of each band relative to all, dB, not under −35; shape (n, 10)."""
    power = 10 ** (frames.bands_db / 10)
    total = 10 * np.log10(power.sum(axis=1, keepdims=True) + 1e-12)
    return np.maximum(frames.bands_db - total, STEADINESS.shape_floor_db)


def held_mask(
    semitones: np.ndarray, level_db: np.ndarray, shape_db: np.ndarray, *, alone: bool = False
) -> np.ndarray:
    """Frames of an unbroken run of voice that are held, shape (n,), bool.

    semitones: pitch, (n,); level_db: (n,); shape_db: (n, bands). Runs under 0.25 s: none. A run
    under 0.6 s is judged as a whole, and without its rise and fall if it stands `alone`: the
    syllables of talk stand close together.
    """
    count = len(semitones)
    held = np.zeros(count, dtype=bool)
    if count < STEADINESS.shortest:
        return held
    signals = np.concatenate(
        (level_db[:, None] / STEADINESS.level_db, shape_db / STEADINESS.shape_db), axis=1
    )
    if count < STEADINESS.window:
        rise = min(STEADINESS.rise, (count - STEADINESS.shortest) // 2) if alone else 0
        inner = slice(rise, count - rise)
        unsteady = _unsteadiness(semitones[None, inner], signals[None, inner])
        held[:] = unsteady[0] < STEADINESS.unsteady_short
        return held
    starts = np.unique(
        np.append(
            np.arange(0, count - STEADINESS.window + 1, STEADINESS.every), count - STEADINESS.window
        )
    )
    for begin in range(0, len(starts), STEADINESS.together):
        some = starts[begin : begin + STEADINESS.together]
        rows = some[:, None] + np.arange(STEADINESS.window)
        for start in some[_unsteadiness(semitones[rows], signals[rows]) < STEADINESS.unsteady]:
            held[start : start + STEADINESS.window] = True
    return held


def _unsteadiness(semitones: np.ndarray, signals: np.ndarray) -> np.ndarray:
    """How much of level and timbre does not go with the pitch, one number a window, (m,).

    semitones: (m, window); signals: level and bands in their own units, (m, window, 1 + bands).
    """
    signals = signals - signals.mean(axis=1, keepdims=True)
    for part in _known(semitones, bend=semitones.shape[1] == STEADINESS.window):
        signals -= part[:, :, None] * np.einsum("ij,ijk->ik", part, signals)[:, None, :]
    power = (signals**2).mean(axis=1)
    return np.sqrt(power[:, 0]) + np.sqrt(power[:, 1:].mean(axis=1))


def _known(semitones: np.ndarray, *, bend: bool) -> list[np.ndarray]:
    """Orthonormal time, pitch and (for whole windows) squared pitch of each window, (m, w) each."""
    time = np.broadcast_to(np.linspace(-1, 1, semitones.shape[1]), semitones.shape)
    pitch = semitones - semitones.mean(axis=1, keepdims=True)
    parts: list[np.ndarray] = []
    for part in (time, pitch, pitch**2) if bend else (time, pitch):
        part = part - part.mean(axis=1, keepdims=True)
        for other in parts:
            part = part - other * (part * other).sum(axis=1, keepdims=True)
        norm = np.sqrt((part**2).sum(axis=1, keepdims=True))
        parts.append(np.where(norm > 1e-6, part / np.maximum(norm, 1e-6), 0.0))
    return parts
