"""A simulated voice: a held note, a glide or a hiss with its exact truth beside it. Seeded."""

import io
from dataclasses import dataclass

import numpy as np
import soundfile

_FORMANTS_HZ = ((460.0, 90.0), (820.0, 110.0), (2500.0, 180.0), (3300.0, 250.0))
_RAMP_S = 0.03


@dataclass(frozen=True, slots=True, kw_only=True)
class Voice:
    """What to sing. Pitch in Hz, lengths in s, levels in dBFS (RMS), wobble in semitones (SD).

    `glide_to_hz` makes a glide; `gap_s` = (start after onset, length) leaves the voice out.
    """

    f0_hz: float
    seconds: float
    level_db: float = -26.0
    wobble_semitones: float = 0.1
    noise_db: float = -75.0
    breath_db: float = -30.0
    trail_off_db: float = 0.0
    lead_s: float = 0.6
    tail_s: float = 0.8
    glide_to_hz: float | None = None
    gap_s: tuple[float, float] | None = None
    hiss: bool = False
    seed: int = 0


@dataclass(frozen=True, slots=True)
class Sung:
    """Samples (float, −1…1, shape (n,)), rate, and the truth: onset, offset, median pitch."""

    samples: np.ndarray
    rate_hz: int
    onset_s: float
    offset_s: float
    f0_median_hz: float | None

    @property
    def hold_s(self) -> float:
        return self.offset_s - self.onset_s

    def as_wav(self) -> bytes:
        """16-bit WAV bytes."""
        file = io.BytesIO()
        soundfile.write(file, self.samples, self.rate_hz, subtype="PCM_16", format="WAV")
        return file.getvalue()


def sing(voice: Voice, rate_hz: int = 16_000) -> Sung:
    """The sound of a voice and its truth; the same seed gives the same sound."""
    random = np.random.default_rng(voice.seed)
    count = round(voice.seconds * rate_hz)
    time = np.arange(count) / rate_hz
    f0 = _pitch(voice, time, random)
    source = random.normal(size=count) if voice.hiss else _harmonics(f0, rate_hz, random)
    if voice.hiss:
        source = np.diff(source, prepend=np.zeros(2), n=2)
    else:
        source += 10 ** (voice.breath_db / 20) * random.normal(size=count)
    source *= 10 ** (voice.trail_off_db / 20 * time / voice.seconds) * _envelope(voice, rate_hz)
    inside = source[_envelope(voice, rate_hz) > 0.99]
    source *= 10 ** (voice.level_db / 20) / np.sqrt(np.mean(inside**2))
    lead, tail = round(voice.lead_s * rate_hz), round(voice.tail_s * rate_hz)
    samples = np.concatenate((np.zeros(lead), source, np.zeros(tail)))
    samples += 10 ** (voice.noise_db / 20) * random.normal(size=len(samples))
    # The raised-cosine ramp crosses −20 dB where ½(1 − cos πx) = 0.1.
    crossing = float(_RAMP_S * np.arccos(1 - 0.2) / np.pi)
    return Sung(
        samples=np.clip(samples, -1, 1),
        rate_hz=rate_hz,
        onset_s=lead / rate_hz + crossing,
        offset_s=lead / rate_hz + voice.seconds - crossing,
        f0_median_hz=None if voice.hiss else float(np.median(f0)),
    )


def _pitch(voice: Voice, time: np.ndarray, random: np.random.Generator) -> np.ndarray:
    semitones = np.zeros(len(time))
    if voice.wobble_semitones:
        for hz in (0.3, 0.9, 2.1, 4.6):
            semitones += np.sin(2 * np.pi * (hz * time + random.random())) / np.sqrt(2)
        semitones *= voice.wobble_semitones
        semitones -= np.median(semitones)
    if voice.glide_to_hz:
        semitones += 12 * np.log2(voice.glide_to_hz / voice.f0_hz) * time / time[-1]
    return voice.f0_hz * 2 ** (semitones / 12)


def _harmonics(f0_hz: np.ndarray, rate_hz: int, random: np.random.Generator) -> np.ndarray:
    phase = 2 * np.pi * np.cumsum(f0_hz) / rate_hz
    sound = np.zeros(len(f0_hz))
    top = min(rate_hz * 0.45, 5_000.0)
    for number in range(1, max(int(top / f0_hz.min()), 1) + 1):
        partial_hz = number * f0_hz
        gain = _formants(partial_hz) / number**1.3
        gain[partial_hz > top] = 0.0
        sound += gain * np.sin(number * phase + random.random() * 2 * np.pi)
    return sound / np.sqrt(np.mean(sound**2))


def _formants(hz: np.ndarray) -> np.ndarray:
    gain = np.full(len(hz), 0.05)
    for centre, width in _FORMANTS_HZ:
        gain += 1 / (1 + ((hz - centre) / width) ** 2)
    return gain


def _envelope(voice: Voice, rate_hz: int) -> np.ndarray:
    count = round(voice.seconds * rate_hz)
    envelope = np.ones(count)
    ramp = min(round(_RAMP_S * rate_hz), count // 2)
    rise = 0.5 * (1 - np.cos(np.pi * np.arange(ramp) / ramp))
    envelope[:ramp], envelope[count - ramp :] = rise, rise[::-1]
    if voice.gap_s:
        start, length = (round(part * rate_hz) for part in voice.gap_s)
        envelope[start : start + length] = 0.0
    return envelope
