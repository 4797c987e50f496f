"""Bubbles of a voice through a tube in water: how many a second, and where they stop.

Each bubble makes the voice sink and splashes. The envelope that swings most regularly at 7.5–45 Hz,
of all bands or of one, is looked at: its phase counts bubbles, its swing says where none rise.
"""

import numpy as np
from scipy.ndimage import uniform_filter1d

from core.kinds.bubbles.figures import Bubbling
from core.kinds.bubbles.settings import RATE
from core.reference.values import BUBBLE_STOP
from core.sound.edges import STEP_S
from core.sound.kernel import HOP_S, Frames
from core.sound.voicing import runs

_RATE_HZ = 1 / STEP_S


def bubbles_in(frames: Frames, onset_s: float, offset_s: float) -> Bubbling:
    """Bubbles between onset and offset (s); a rate of None where none rise."""
    first, after = (round((at + HOP_S / 2) / STEP_S) for at in (onset_s, offset_s))
    power = frames.edge_bands.reshape(-1, frames.edge_bands.shape[2])[first:after]
    if len(power) * STEP_S < RATE.shortest_s:
        return Bubbling(rate_hz=None, swing_db=0.0)
    swings = _swings(power)
    best = max(swings, key=_regularity)
    regular, lag = _strongest(best)
    hz = _RATE_HZ / lag
    turning = _turning(best, hz)
    swing = uniform_filter1d(np.abs(turning), round(1 / hz / STEP_S) | 1, mode="nearest")
    usual = float(np.percentile(swing, RATE.swing_percentile))
    if usual * 2 < RATE.least_swing_db or regular < RATE.least_regular:
        return Bubbling(rate_hz=None, swing_db=_swing_db(swings[0], hz))
    rising = swing >= RATE.stopped_share * usual
    stops = tuple(
        (onset_s + a * STEP_S, onset_s + b * STEP_S)
        for a, b in runs(~rising)
        if (b - a) * STEP_S >= BUBBLE_STOP.number
    )
    turned = np.diff(np.unwrap(np.angle(turning)))
    sure = (swing[1:] >= RATE.sure_share * usual) & (turned > 0)
    rate = float(turned[sure].mean()) / (2 * np.pi) * _RATE_HZ
    return Bubbling(rate_hz=rate, swing_db=_swing_db(swings[0], hz), stops=stops)


def _turning(swing: np.ndarray, hz: float) -> np.ndarray:
    """The analytic signal of the swing around a rate in Hz: its angle counts bubbles, its size is
    how far it swings. A bell over the logarithm of frequency, positive ones only."""
    count, room = len(swing), round(RATE.padded_s * _RATE_HZ)
    padded = np.pad(swing, min(room, count - 1), mode="reflect")
    spectrum = np.fft.fft(padded)
    frequency = np.fft.fftfreq(len(padded), STEP_S)
    octaves = np.log2(np.maximum(frequency, 1e-3) / hz)
    bell = np.exp(-0.5 * (octaves / RATE.band_octaves) ** 2)
    narrow = np.fft.ifft(2 * spectrum * bell * (frequency > 0))
    start = (len(padded) - count) // 2
    return narrow[start : start + count]


def _swing_db(whole: np.ndarray, hz: float) -> float:
    """From trough to crest of the whole sound's envelope at a rate in Hz, dB."""
    return 2 * float(np.percentile(np.abs(_turning(whole, hz)), RATE.swing_percentile))


def _swings(power: np.ndarray) -> list[np.ndarray]:
    """Envelopes of all bands together and of each, dB, without what changes slowly."""
    found = []
    for one in (power.sum(axis=1), *power.T):
        level = 10 * np.log10(one + 1e-12)
        level = np.maximum(level, np.median(level) - RATE.floor_under_db)
        found.append(
            level - uniform_filter1d(level, round(RATE.slow_s / STEP_S) | 1, mode="nearest")
        )
    return found


def _regularity(swing: np.ndarray) -> float:
    return _strongest(swing)[0]


def _strongest(swing: np.ndarray) -> tuple[float, float]:
    """How well an envelope repeats at its best lag of 1/45–1/7.5 s (0–1), and that lag in steps.

    Autocorrelation over windows of a second, the middle of all, so that a stop does not hide it. 0 where it
    repeats at none of these lags, as bubbles slower than that.
    """
    size = round(RATE.window_s / STEP_S)
    size = min(size, len(swing))
    longest = round(_RATE_HZ / RATE.slowest_hz)
    starts = np.arange(0, len(swing) - size + 1, max(size // 2, 1))
    alike = np.array([_autocorrelation(swing[at : at + size], longest + 2) for at in starts])
    middle = np.percentile(alike, 60, axis=0)
    lags = np.arange(int(_RATE_HZ / RATE.fastest_hz), longest + 1)
    peaks = [k for k in lags if 0 < middle[k] >= middle[k + 1] and middle[k] > middle[k - 1]]
    if not peaks:
        return 0.0, float(longest)
    top = max(middle[k] for k in peaks)
    lag = next(k for k in peaks if middle[k] >= RATE.as_good * top)
    left, here, right = middle[lag - 1 : lag + 2]
    bend = 2 * here - left - right
    return float(here), lag + (0.5 * (right - left) / bend if bend > 0 else 0.0)


def _autocorrelation(part: np.ndarray, lags: int) -> np.ndarray:
    part = part - part.mean()
    power = np.abs(np.fft.rfft(part, 2 * len(part))) ** 2
    alike = np.fft.irfft(power)[: lags + 1]
    return alike / (alike[0] + 1e-9) * len(part) / (len(part) - np.arange(lags + 1))
