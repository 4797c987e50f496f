"""The causal kernel: sound at 16 kHz in, 10 ms frames out, at most 25 ms of look-ahead.

Every frame depends only on the samples around it, so a stream cut anywhere, a whole file and a
live attempt give the same frames.
"""

from dataclasses import dataclass, fields

import numpy as np
import scipy.fft

from core.reference.values import HIGHEST_PITCH, LOWEST_PITCH

RATE_HZ = 16_000
HOP = 160
HOP_S = HOP / RATE_HZ
EDGES = 4

_LONGEST_LAG = int(RATE_HZ / LOWEST_PITCH.number) + 2
_SHORTEST_LAG = int(RATE_HZ / HIGHEST_PITCH.number) - 1
_COMPARED = 400
_PITCH_SPAN = _COMPARED + _LONGEST_LAG
_LEVEL_SPAN = 800
_EDGE_SPAN = 160
_HALF = _LEVEL_SPAN // 2
_SPAN = _LEVEL_SPAN
_FFT = 1024
_SPECTRUM = 512
_HISS_FROM_HZ = 3_000.0
_DIP_ABOVE_LOWEST = 0.08
_SILENCE = 1e-9


@dataclass(frozen=True, slots=True)
class Frames:
    """10 ms frames; frame i is centred on i·0.010 s. Every field has shape (n,) or as said.

    f0_hz: best pitch guess in Hz (NaN where none); aperiodicity: 0 periodic … 1 noise;
    level_db: RMS of 50 ms in dBFS; edge_db: RMS of 10 ms, four a frame (n, 4), from 5 ms before
    the centre; high_share: share of power above 3 kHz, 0–1; tone_share: share of power within
    one bin of the strongest partial, 0–1; clipped: samples at full scale in the frame's hop.
    """

    f0_hz: np.ndarray
    aperiodicity: np.ndarray
    level_db: np.ndarray
    edge_db: np.ndarray
    high_share: np.ndarray
    tone_share: np.ndarray
    clipped: np.ndarray

    def __len__(self) -> int:
        return len(self.f0_hz)

    @classmethod
    def joined(cls, parts: list["Frames"]) -> "Frames":
        """Frames of consecutive pieces as one."""
        if not parts:
            parts = [analyse(np.zeros(0), 0)]
        return cls(*(np.concatenate([getattr(p, f.name) for p in parts]) for f in fields(cls)))


class FrameStream:
    """Cuts pieces of 16 kHz sound into frames as they arrive.

    `push` takes float samples of any length, shape (n,), and gives the frames completed by them;
    `finish` the rest, as if silence followed.
    """

    def __init__(self) -> None:
        self._kept = np.zeros(_HALF)
        self._received = 0
        self._made = 0

    def push(self, samples: np.ndarray) -> Frames:
        self._received += len(samples)
        self._kept = np.concatenate((self._kept, samples))
        ready = (len(self._kept) - _SPAN) // HOP + 1 if len(self._kept) >= _SPAN else 0
        return self._make(ready)

    def finish(self) -> Frames:
        total = -(-self._received // HOP)
        missing = max(total - self._made, 0)
        needed = _SPAN + HOP * (missing - 1) - len(self._kept)
        self._kept = np.concatenate((self._kept, np.zeros(max(needed, 0))))
        return self._make(missing)

    def _make(self, count: int) -> Frames:
        frames = analyse(self._kept, count)
        self._kept = self._kept[count * HOP :]
        self._made += count
        return frames


def frames_of(samples: np.ndarray, block: int = 256) -> Frames:
    """Frames of a whole sound at 16 kHz, shape (n,); analysed in blocks to bound the memory."""
    stream = FrameStream()
    step = block * HOP
    parts = [stream.push(samples[at : at + step]) for at in range(0, len(samples), step)]
    return Frames.joined([*parts, stream.finish()])


def analyse(samples: np.ndarray, count: int) -> Frames:
    """`count` frames; frame i looks at samples[i·160 : i·160 + 800], shape (n,) at 16 kHz."""
    if count <= 0:
        none = np.zeros(0)
        return Frames(none, none, none, np.zeros((0, EDGES)), none, none, np.zeros(0, dtype=int))
    spans = np.lib.stride_tricks.sliding_window_view(samples, _SPAN)[::HOP][:count]
    power = spans * spans
    from_start = (_SPAN - _PITCH_SPAN) // 2
    f0_hz, aperiodicity = _pitch(spans[:, from_start : from_start + _PITCH_SPAN])
    high_share, tone_share = _colour(spans)
    return Frames(
        f0_hz=f0_hz,
        aperiodicity=aperiodicity,
        level_db=_db(power.mean(axis=1)),
        edge_db=_edges(power),
        high_share=high_share,
        tone_share=tone_share,
        clipped=(np.abs(spans[:, _HALF - HOP // 2 : _HALF + HOP // 2]) >= 0.999).sum(axis=1),
    )


def _db(power: np.ndarray) -> np.ndarray:
    return 10 * np.log10(power + 1e-12)


def _edges(power: np.ndarray) -> np.ndarray:
    quarter = HOP // EDGES
    sums = np.concatenate((np.zeros((len(power), 1)), power.cumsum(axis=1)), axis=1)
    starts = _HALF - HOP // 2 + quarter * np.arange(EDGES) + quarter // 2 - _EDGE_SPAN // 2
    return _db(np.maximum(sums[:, starts + _EDGE_SPAN] - sums[:, starts], 0) / _EDGE_SPAN)


def _pitch(spans: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Difference-function pitch (J Acoust Soc Am 2002;111:1917–1930), all frames at once."""
    spans = spans - spans.mean(axis=1, keepdims=True)
    whole = scipy.fft.rfft(spans, _FFT)
    start = scipy.fft.rfft(spans[:, :_COMPARED], _FFT)
    product = scipy.fft.irfft(whole * np.conj(start), _FFT)[:, : _LONGEST_LAG + 1]
    sums = np.concatenate((np.zeros((len(spans), 1)), (spans * spans).cumsum(axis=1)), axis=1)
    energy = sums[:, _COMPARED : _COMPARED + _LONGEST_LAG + 1] - sums[:, : _LONGEST_LAG + 1]
    here = energy[:, :1]
    difference = np.maximum(here + energy - 2 * product, 0)
    normal = difference / (here + energy + _SILENCE)
    running = difference[:, 1:].cumsum(axis=1) + _SILENCE
    cumulative = difference[:, 1:] * np.arange(1, _LONGEST_LAG + 1) / running
    lag = _first_dip(cumulative)
    rows = np.arange(len(lag))
    found = lag > 0
    safe = np.where(found, lag, 2)
    aperiodicity = np.where(found & (here[:, 0] > _SILENCE), normal[rows, safe], 1.0)
    period = _refined(difference, safe)
    f0_hz = np.where(found & (here[:, 0] > _SILENCE), RATE_HZ / period, np.nan)
    outside = (f0_hz < LOWEST_PITCH.number) | (f0_hz > HIGHEST_PITCH.number)
    f0_hz[outside] = np.nan
    return f0_hz, np.clip(aperiodicity, 0.0, 1.0)


def _first_dip(cumulative: np.ndarray) -> np.ndarray:
    """Lag (samples) of the first local minimum near the lowest one; 0 where there is none."""
    inner = cumulative[:, 1:-1]
    dips = (inner < cumulative[:, :-2]) & (inner <= cumulative[:, 2:])
    dips[:, : _SHORTEST_LAG - 2] = False
    depth = np.where(dips, inner, np.inf)
    near = depth <= depth.min(axis=1, keepdims=True) + _DIP_ABOVE_LOWEST
    return np.where(dips.any(axis=1), (near & dips).argmax(axis=1) + 2, 0)


def _refined(difference: np.ndarray, lag: np.ndarray) -> np.ndarray:
    """Period in samples: parabola through the dip, sharpened at the longest whole multiple."""
    period = _parabola(difference, lag)
    periods = np.maximum((_LONGEST_LAG - 2) // np.maximum(period, 1), 1).astype(int)
    for factor in (4, 16):
        reach = np.minimum(periods, factor)
        there = np.rint(reach * period).astype(int)
        period = np.where(reach > 1, _parabola(difference, there) / reach, period)
    return period


def _parabola(difference: np.ndarray, lag: np.ndarray) -> np.ndarray:
    rows = np.arange(len(lag))
    lag = np.clip(lag, 1, difference.shape[1] - 2)
    left, middle, right = (difference[rows, lag + k] for k in (-1, 0, 1))
    bend = left - 2 * middle + right
    shift = np.where(bend > 0, 0.5 * (left - right) / np.where(bend > 0, bend, 1), 0.0)
    return lag + np.clip(shift, -1, 1)


_WINDOW = np.hanning(_SPECTRUM)
_HISS_BIN = int(_HISS_FROM_HZ * _SPECTRUM / RATE_HZ)


def _colour(spans: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    middle = _HALF - _SPECTRUM // 2
    spectrum = np.abs(scipy.fft.rfft(spans[:, middle : middle + _SPECTRUM] * _WINDOW)) ** 2
    spectrum[:, :2] = 0
    total = spectrum.sum(axis=1) + _SILENCE
    rows = np.arange(len(spectrum))
    top = np.clip(spectrum.argmax(axis=1), 2, spectrum.shape[1] - 3)
    peak = sum(spectrum[rows, top + k] for k in (-2, -1, 0, 1, 2))
    return spectrum[:, _HISS_BIN:].sum(axis=1) / total, peak / total
