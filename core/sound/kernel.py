"""The causal kernel: sound at 16 kHz in, 10 ms frames out, at most 25 ms of look-ahead.

Every frame depends only on the 50 ms around it, so a stream cut anywhere, a whole file, a live
attempt and many attempts analysed together give the same frames.
"""

from dataclasses import dataclass

import numpy as np
import scipy.fft

from core.sound.candidates import CANDIDATES, FFT, RATE_HZ, SPAN, WINDOW, pitch_candidates

HOP = 160
"""Samples at 16 kHz between frames: 10 ms, fine enough for a tremor of 12 Hz and for the times reported."""
HOP_S = HOP / RATE_HZ
EDGES = 4
"""Steps of 2.5 ms in a frame, for onset, offset and joins, which are reported to 10 ms and better."""
EDGE_BANDS_HZ = (0, 200, 500, 900, 1_500, 2_500, 4_000, 8_000)
BANDS_HZ = (60, 250, 450, 700, 1_000, 1_400, 2_000, 2_800, 3_800, 5_500, 7_900)

"""Limits of the bands in which level is followed: those of edges fewer, since a window of 10 ms resolves less."""

_HALF = SPAN // 2
_EDGE_SPAN = 160
"""Samples of the window around a step: 10 ms, or the hum of a low voice would look like edges."""
_HISS_FROM_HZ = 3_000.0
"""A vowel has little power above it, a hiss most of its own."""
_SILENCE = 1e-12
"""Added before a logarithm: −120 dBFS, under any microphone's own noise."""
_FULL_SCALE = 0.999


@dataclass(frozen=True, slots=True)
class Frames:
    """10 ms frames; frame i is centred on i·0.010 s. Every field has shape (n,) or as said.

    pitch_hz: guesses at the pitch, best first (n, 4), NaN where none; regularity: how well the
    sound repeats at each guess, 1 = wholly (n, 4); merit: regularity less doubts (n, 4);
    level_db: RMS of 50 ms in dBFS; edge_db: RMS of 10 ms, four a frame (n, 4), from 5 ms before
    the centre; edge_bands: power of 10 ms in the bands of EDGE_BANDS_HZ, likewise (n, 4, 7);
    bands_db: power in the bands of BANDS_HZ in dBFS (n, 10); high_share: share of power above
    3 kHz, 0–1; clipped: samples at full scale in the frame's hop.
    """

    pitch_hz: np.ndarray
    regularity: np.ndarray
    merit: np.ndarray
    level_db: np.ndarray
    edge_db: np.ndarray
    edge_bands: np.ndarray
    bands_db: np.ndarray
    high_share: np.ndarray
    clipped: np.ndarray

    def __len__(self) -> int:
        return len(self.level_db)

    def part(self, first: int, after: int) -> "Frames":
        """Frames first … after − 1."""
        return Frames(*(getattr(self, name)[first:after] for name in Frames.__slots__))

    @classmethod
    def joined(cls, parts: list["Frames"]) -> "Frames":
        """Frames of consecutive pieces as one; empties the list, so that a long sound does not need
        its memory twice."""
        parts = parts or [analyse(np.zeros((0, SPAN)))]
        columns = [[getattr(part, name) for part in parts] for name in cls.__slots__]
        parts.clear()
        whole = []
        for column in columns:
            whole.append(np.concatenate(column))
            column.clear()
        return cls(*whole)


class FrameStream:
    """Cuts sound at 16 kHz into the spans that frames are made of, as it arrives.

    `push` takes float samples of any length, shape (n,), and gives the spans completed by them,
    shape (frames, 800); `finish` the rest, as if silence followed at the offset of the input.
    """

    def __init__(self) -> None:
        self._kept = np.zeros(0, dtype=np.float32)
        self._received = 0
        self._made = 0

    def push(self, samples: np.ndarray) -> np.ndarray:
        own = samples.astype(np.float32)
        if not self._received and len(own):
            # Before it nothing changes: an offset of the input is no sound that sets in.
            self._kept = np.full(_HALF, own[0], dtype=np.float32)
        self._received += len(own)
        self._kept = np.concatenate((self._kept, own))
        ready = (len(self._kept) - SPAN) // HOP + 1 if len(self._kept) >= SPAN else 0
        return self._cut(ready)

    def finish(self) -> np.ndarray:
        missing = max(-(-self._received // HOP) - self._made, 0)
        needed = SPAN + HOP * (missing - 1) - len(self._kept)
        offset = self._kept[-SPAN:].mean() if len(self._kept) else 0.0
        silence = np.full(max(needed, 0), offset, dtype=np.float32)
        self._kept = np.concatenate((self._kept, silence))
        return self._cut(missing)

    def _cut(self, count: int) -> np.ndarray:
        if count <= 0:
            return np.zeros((0, SPAN), dtype=np.float32)
        step = self._kept.strides[0]
        spans = np.ndarray((count, SPAN), self._kept.dtype, self._kept, strides=(HOP * step, step))
        self._kept = self._kept[count * HOP :]
        self._made += count
        return spans


def frames_of(samples: np.ndarray, block: int = 256) -> Frames:
    """Frames of a whole sound at 16 kHz, shape (n,); analysed in blocks to bound the memory."""
    stream = FrameStream()
    step = block * HOP
    parts = [analyse(stream.push(samples[at : at + step])) for at in range(0, len(samples), step)]
    parts.append(analyse(stream.finish()))
    return Frames.joined(parts)


def analyse(spans: np.ndarray) -> Frames:
    """One frame a span of 50 ms, whoever they belong to; shape (n, 800) at 16 kHz."""
    count = len(spans)
    if not count:
        none, guesses = np.zeros(0), np.zeros((0, CANDIDATES))
        return Frames(
            pitch_hz=guesses,
            regularity=guesses,
            merit=guesses,
            level_db=none,
            edge_db=np.zeros((0, EDGES)),
            edge_bands=np.zeros((0, EDGES, len(EDGE_BANDS_HZ) - 1), dtype=np.float32),
            bands_db=np.zeros((0, len(BANDS_HZ) - 1)),
            high_share=none,
            clipped=np.zeros(0, dtype=int),
        )
    clipped = (np.abs(spans[:, _HALF - HOP // 2 : _HALF + HOP // 2]) >= _FULL_SCALE).sum(axis=1)
    spans = spans - spans.mean(axis=1, keepdims=True)
    spectrum = scipy.fft.rfft(spans * WINDOW, FFT)
    power = spectrum.real**2 + spectrum.imag**2
    pitch_hz, regularity, merit = pitch_candidates(power)
    level = np.einsum("ij,ij->i", spans, spans) / SPAN
    bands = np.add.reduceat(power[:, : _BAND_BINS[-1]], _BAND_BINS[:-1], axis=1)
    total = power.sum(axis=1) + _SILENCE
    return Frames(
        pitch_hz=pitch_hz,
        regularity=regularity,
        merit=merit,
        level_db=_db(level),
        edge_db=_edges(spans),
        edge_bands=_edge_bands(spans),
        bands_db=_db(bands * _BAND_SCALE),
        high_share=power[:, _HISS_BIN:].sum(axis=1) / total,
        clipped=clipped,
    )


def _db(power: np.ndarray) -> np.ndarray:
    return 10 * np.log10(power + _SILENCE)


def _edge_bands(spans: np.ndarray) -> np.ndarray:
    """Power of 10 ms under a Hann window in each edge band, four times a frame, (n, 4, 7)."""
    first, step = spans.strides[0], spans.strides[1]
    windows = np.lib.stride_tricks.as_strided(
        spans[:, _EDGE_FIRST:],
        (len(spans), EDGES, _EDGE_SPAN),
        (first, HOP // EDGES * step, step),
        writeable=False,
    )
    spectrum = scipy.fft.rfft(windows * _EDGE_WINDOW, axis=2)
    power = spectrum.real**2 + spectrum.imag**2
    return np.add.reduceat(power[:, :, : _EDGE_BINS[-1]], _EDGE_BINS[:-1], axis=2)


def _edges(spans: np.ndarray) -> np.ndarray:
    """10 ms RMS four times a frame, in dBFS, (n, 4)."""
    middle = spans[:, _EDGE_FIRST : _EDGE_FIRST + _EDGE_SPAN + (EDGES - 1) * HOP // EDGES]
    quarters = (middle * middle).reshape(len(spans), -1, HOP // EDGES).sum(axis=2)
    sums = sum(quarters[:, k : k + EDGES] for k in range(_EDGE_SPAN * EDGES // HOP))
    return _db(sums / _EDGE_SPAN)


_EDGE_FIRST = _HALF - HOP // 2 + HOP // EDGES // 2 - _EDGE_SPAN // 2
_EDGE_WINDOW = (np.hanning(_EDGE_SPAN + 2)[1:-1] / np.sqrt(60 * 80)).astype(np.float32)
_EDGE_BINS = np.array(EDGE_BANDS_HZ) * _EDGE_SPAN // RATE_HZ
_BAND_BINS = np.rint(np.array(BANDS_HZ) * FFT / RATE_HZ).astype(int)
_BAND_SCALE = np.float32(2 / (FFT * (WINDOW**2).sum()))
_HISS_BIN = int(_HISS_FROM_HZ * FFT / RATE_HZ)
