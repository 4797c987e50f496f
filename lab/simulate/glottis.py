"""The source of a simulated voice: one flow pulse a period, each a little unlike the last."""

import numpy as np

RATE_HZ = 48_000
_OPENING, _CLOSING = 0.42, 0.18


def pulses(
    f0_hz: np.ndarray,
    random: np.random.Generator,
    *,
    jitter_percent: float,
    shimmer_percent: float,
    diplophonia: float,
    creak_s: float = 0.0,
) -> tuple[np.ndarray, np.ndarray]:
    """Flow derivative and open share of the glottis, both shape (n,), at 48 kHz.

    f0_hz: Hz at 48 kHz, shape (n,); jitter and shimmer: SD of period and amplitude, percent;
    diplophonia: 0–0.5, how much every second pulse is weaker and late; creak_s: seconds at either
    end in which pulses are weak, come unevenly and now and then not at all.
    """
    phase = np.cumsum(f0_hz) / RATE_HZ + random.random()
    count = int(phase[-1]) + 3
    shift = random.normal(size=count) * jitter_percent / 100
    strength = 1 + random.normal(size=count) * shimmer_percent / 100
    strength[1::2] *= 1 - diplophonia
    shift[1::2] += 0.1 * diplophonia
    if creak_s:
        edge = min(round(creak_s * RATE_HZ), len(phase) // 2)
        creaks = np.ones(count, dtype=bool)
        creaks[int(phase[edge]) : int(phase[-edge])] = False
        creaks[[int(phase[0]), int(phase[-1])]] = False
        shift[creaks] += random.uniform(-0.25, 0.25, creaks.sum())
        left_out = creaks & (random.random(count) < 0.5)
        left_out[1:] &= ~left_out[:-1]
        strength[creaks] *= 0.7
        strength[left_out] = 0.0
    phase = phase + np.interp(phase, np.arange(count), shift)
    number = np.clip(phase.astype(int), 0, count - 1)
    inside = phase - number
    opening = 0.5 * (1 - np.cos(np.pi * inside / _OPENING))
    closing = np.cos(0.5 * np.pi * (inside - _OPENING) / _CLOSING)
    flow = np.where(inside < _OPENING, opening, closing)
    flow = np.where(inside < _OPENING + _CLOSING, flow, 0.0) * strength[number]
    return np.diff(flow, prepend=flow[:1]) * RATE_HZ / f0_hz, flow
