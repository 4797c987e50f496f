"""Guesses at the pitch of each frame, from the autocorrelation of its windowed sound.

Method: autocorrelation divided by that of the window (Proc Inst Phonetic Sciences Amsterdam
1993;17:97–110), here over the spectrum below about 2 kHz, where voices repeat best.
"""

import numpy as np
import scipy.fft

from core.reference.values import HIGHEST_PITCH, LOWEST_PITCH
from core.sound.settings.candidates import CANDIDATE

CANDIDATES = 4
RATE_HZ = 16_000
SPAN, FFT = 800, 1_200
WINDOW = np.hanning(SPAN + 2)[1:-1].astype(np.float32)

_LONGEST_LAG = int(RATE_HZ / LOWEST_PITCH.number) + 2
_SHORTEST_LAG = int(RATE_HZ / HIGHEST_PITCH.number)
_LAGS = CANDIDATE.refined_to_lag + 3
_AROUND = np.array([-1, 0, 1])
_NONE = -1.0
_SILENCE = 1e-9

_HZ = np.fft.rfftfreq(FFT, 1 / RATE_HZ)
_PASS = (
    1
    / (1 + (_HZ / CANDIDATE.pass_to_hz) ** 6)
    / (1 + (CANDIDATE.pass_from_hz / np.maximum(_HZ, 1)) ** 8)
).astype(np.float32)
_PARTIALS = {
    times: np.arange(1, times * lines + 1) / times * FFT / RATE_HZ
    for times, lines in ((2, 5), (3, 4))
}
_BINS = int(2 * CANDIDATE.pass_to_hz * FFT / RATE_HZ)


def _window_autocorrelation() -> np.ndarray:
    own = np.fft.irfft(np.abs(np.fft.rfft(WINDOW, 2 * SPAN)) ** 2)[:_LAGS]
    return (own / own[0]).astype(np.float32)


_OWN = _window_autocorrelation()
_PENALTY = (
    CANDIDATE.shorter_is_better * np.log2(np.arange(1, _LONGEST_LAG) / _SHORTEST_LAG)
).astype(np.float32)


def pitch_candidates(power: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """The four best guesses of each frame: Hz, regularity and merit, best first.

    power: power spectrum of frames of 50 ms, Hann window, 1200 points, shape (n, 601).
    Each result has shape (n, 4); NaN Hz and 0 where there is no further guess. Regularity is how
    well the sound repeats at the guess, 0–1; merit is regularity less what speaks against it.
    """
    alike = scipy.fft.irfft(power * _PASS, FFT)[:, :_LAGS]
    alike = alike / (alike[:, :1] + np.float32(_SILENCE)) / _OWN
    inner = alike[:, 1:_LONGEST_LAG]
    peaks = (inner > alike[:, : _LONGEST_LAG - 1]) & (inner >= alike[:, 2 : _LONGEST_LAG + 1])
    peaks[:, : _SHORTEST_LAG - 2] = False
    worth = np.where(peaks & (inner > CANDIDATE.least_regular), inner - _PENALTY, _NONE)
    best = np.argpartition(worth, -CANDIDATES, axis=1)[:, -CANDIDATES:]
    rows = np.arange(len(power))[:, None]
    merit = worth[rows, best]
    lag = np.where(merit > _NONE, best + 1, _SHORTEST_LAG)
    regular = _held(alike[rows, lag], 0, 1)
    hz = RATE_HZ / _refined(alike, lag)
    there = (merit > _NONE) & (hz >= LOWEST_PITCH.number) & (hz <= HIGHEST_PITCH.number)
    merit = np.where(there, merit - CANDIDATE.doubt_cost * _doubt_of(power, hz), 0.0)
    order = np.argsort(-merit, axis=1)
    hz, regular = np.where(there, hz, np.nan), np.where(there, regular, 0.0)
    return hz[rows, order], regular[rows, order], merit[rows, order]


def _doubt_of(power: np.ndarray, hz: np.ndarray) -> np.ndarray:
    """How likely a guess is two or three times too high or too low by its partials, 0–1.

    Too high: the spectrum has partials between those of the guess. Too low: those between the
    partials of twice (three times) the guess are missing or weak, as when every second pulse is
    a little weaker than the others. Shape as `hz`.
    """
    level = 10 * np.log10(power[:, : _BINS + 1] + np.float32(_SILENCE))
    doubt = np.zeros(hz.shape)
    guesses = hz.shape[1]
    for times in (2, 3):
        high = hz >= times * LOWEST_PITCH.number
        low = times * hz <= HIGHEST_PITCH.number
        likely = _likely(_between(level, np.concatenate((hz, times * hz), axis=1), times))
        doubt = np.maximum(doubt, np.where(high, likely[:, :guesses], 0.0))
        doubt = np.maximum(doubt, np.where(low, 1 - likely[:, guesses:], 0.0))
    return doubt


def _likely(between_db: np.ndarray) -> np.ndarray:
    return _held(
        (between_db - CANDIDATE.likely_from_db)
        / (CANDIDATE.likely_to_db - CANDIDATE.likely_from_db),
        0,
        1,
    )


def _held(values: np.ndarray, low: float, high: float) -> np.ndarray:
    """Like np.clip, whose own overhead is most of its cost for the few frames of a piece."""
    return np.minimum(np.maximum(values, low), high)


def _between(level: np.ndarray, hz: np.ndarray, times: int) -> np.ndarray:
    """Partials at the halves (thirds) between those of `hz` over the weaker of their neighbours,
    mean dB of those up to the fifth (fourth): the stronger ones count for more, since the weak
    ones may be noise or other voices."""
    bins = np.rint(hz[:, :, None] * _PARTIALS[times]).astype(int)
    lines = level[np.arange(len(level))[:, None, None], np.minimum(bins, _BINS)]
    on = lines[:, :, times - 1 :: times]
    under = np.concatenate((on[:, :, :1], on[:, :, :-1]), axis=2)
    beside = np.minimum(on, under)
    between = lines[:, :, 0::times]
    for other in range(1, times - 1):
        between = np.maximum(between, lines[:, :, other::times])
    high = np.maximum(on, between)
    known = bins[:, :, times - 1 :: times] < _BINS
    under_db = high.max(axis=2, keepdims=True) - high
    weight = np.where(
        known & (under_db < CANDIDATE.heard_under_db), np.exp(-under_db / CANDIDATE.fades_db), 0.0
    )
    over = weight * _held(between - beside, -30, 10)
    return over.sum(axis=2) / np.maximum(weight.sum(axis=2), _SILENCE)


def _refined(alike: np.ndarray, lag: np.ndarray) -> np.ndarray:
    """Period in samples: parabola through the peak, sharpened at whole multiples of it."""
    period = _parabola(alike, lag)
    most = np.maximum(CANDIDATE.refined_to_lag // np.maximum(period, 1), 1).astype(int)
    for factor in (3, 16):
        reach = np.minimum(most, factor)
        there = np.rint(reach * period).astype(int)
        period = np.where(reach > 1, _parabola(alike, there) / reach, period)
    return period


def _parabola(alike: np.ndarray, lag: np.ndarray) -> np.ndarray:
    rows = np.arange(len(lag))[:, None, None]
    lag = _held(lag, 1, alike.shape[1] - 2)
    near = alike[rows, lag[:, :, None] + _AROUND].astype(np.float64)
    left, middle, right = near[:, :, 0], near[:, :, 1], near[:, :, 2]
    bend = 2 * middle - left - right
    shift = np.where(bend > 0, 0.5 * (right - left) / np.where(bend > 0, bend, 1), 0.0)
    return lag + _held(shift, -1, 1)
