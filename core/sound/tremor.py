"""Tremor of the pitch: its rate and extent, where one rate stands out."""

import numpy as np

from core.sound.figures import Tremor
from core.sound.kernel import HOP_S

LOWEST_HZ, HIGHEST_HZ = 3.0, 12.0
LEAST_CENTS = 12.0
_LEAST_S = 1.0
_TRIM = 20
_SHARE = 0.55
_WITHIN_HZ = 1.2
_POINTS = 4096
# The pitch of a frame is a mean over the Hann window; this is the SD of the window's square.
_WINDOW_SD_S = 0.0071


def tremor_of(pitch_hz: np.ndarray) -> Tremor | None:
    """pitch_hz: Hz of the hold every 10 ms, NaN = unvoiced, shape (n,).

    None under 1 s, where no rate between 3 and 12 Hz stands out, or for an extent under 12 cents
    either side. Extent: half the distance from the lowest to the highest pitch of one swing.
    """
    inner = pitch_hz[_TRIM : len(pitch_hz) - _TRIM]
    known = np.flatnonzero(~np.isnan(inner))
    if len(known) * HOP_S < _LEAST_S or len(known) < 0.9 * len(inner):
        return None
    cents = 1200 * np.log2(np.interp(np.arange(len(inner)), known, inner[known]))
    usual = np.abs(cents - np.median(cents)) < 300
    if usual.mean() < 0.9:
        return None
    cents = np.interp(np.arange(len(cents)), np.flatnonzero(usual), cents[usual])
    time = np.linspace(-1, 1, len(cents))
    cents = cents - np.polyval(np.polyfit(time, cents, min(3, len(cents) // 50)), time)
    window = np.hanning(len(cents))
    power = np.abs(np.fft.rfft(cents * window, max(_POINTS, len(cents)))) ** 2
    hz = np.fft.rfftfreq(max(_POINTS, len(cents)), HOP_S)
    band = (hz >= LOWEST_HZ) & (hz <= HIGHEST_HZ)
    rate_hz = float(hz[band][power[band].argmax()])
    near = np.abs(hz - rate_hz) <= max(_WITHIN_HZ, 2 / (len(cents) * HOP_S))
    all_power = power[(hz >= 1.0) & (hz <= 25.0)].sum()
    variance = 2 * power[near].sum() / len(power) / 2 / (window**2).sum()
    extent = np.sqrt(2 * variance) * np.exp((2 * np.pi * rate_hz * _WINDOW_SD_S) ** 2 / 2)
    if power[near].sum() < _SHARE * all_power or extent < LEAST_CENTS:
        return None
    return Tremor(rate_hz=rate_hz, extent_cents=float(extent))
