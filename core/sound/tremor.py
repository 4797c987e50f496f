"""Tremor of the pitch: its rate and extent, where one rate stands out."""

import numpy as np

from core.sound.figures import Tremor
from core.sound.kernel import HOP_S
from core.sound.settings.tremor import TREMOR


def tremor_of(pitch_hz: np.ndarray) -> Tremor | None:
    """pitch_hz: Hz of the hold every 10 ms, NaN = unvoiced, shape (n,).

    None under 1 s, where no rate between 3 and 12 Hz stands out, or for an extent under 12 cents
    either side. Extent: half the distance from the lowest to the highest pitch of one swing.
    """
    inner = pitch_hz[TREMOR.trim : len(pitch_hz) - TREMOR.trim]
    known = np.flatnonzero(~np.isnan(inner))
    if len(known) * HOP_S < TREMOR.least_s or len(known) < TREMOR.least_known_share * len(inner):
        return None
    cents = 1200 * np.log2(np.interp(np.arange(len(inner)), known, inner[known]))
    usual = np.abs(cents - np.median(cents)) < TREMOR.odd_cents
    if usual.mean() < TREMOR.least_known_share:
        return None
    cents = np.interp(np.arange(len(cents)), np.flatnonzero(usual), cents[usual])
    time = np.linspace(-1, 1, len(cents))
    cents = cents - np.polyval(np.polyfit(time, cents, min(3, len(cents) // 50)), time)
    window = np.hanning(len(cents))
    power = np.abs(np.fft.rfft(cents * window, max(TREMOR.least_points, len(cents)))) ** 2
    hz = np.fft.rfftfreq(max(TREMOR.least_points, len(cents)), HOP_S)
    band = (hz >= TREMOR.lowest_hz) & (hz <= TREMOR.highest_hz)
    rate_hz = float(hz[band][power[band].argmax()])
    near = np.abs(hz - rate_hz) <= max(TREMOR.within_hz, 2 / (len(cents) * HOP_S))
    all_power = power[(hz >= TREMOR.all_from_hz) & (hz <= TREMOR.all_to_hz)].sum()
    variance = 2 * power[near].sum() / len(power) / 2 / (window**2).sum()
    extent = np.sqrt(2 * variance) * np.exp((2 * np.pi * rate_hz * TREMOR.window_sd_s) ** 2 / 2)
    if power[near].sum() < TREMOR.share * all_power or extent < TREMOR.least_cents:
        return None
    return Tremor(rate_hz=rate_hz, extent_cents=float(extent))
