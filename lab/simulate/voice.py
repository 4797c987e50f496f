"""A simulated voice: a held note, a glide or a hiss with its exact truth beside it. Seeded."""

import io
from dataclasses import dataclass, field

import numpy as np
import soundfile
import soxr

from lab.simulate.glottis import RATE_HZ, pulses
from lab.simulate.surroundings import Surroundings, surrounded
from lab.simulate.tract import shaped

EDGE_DB = -20.0
_BREATH_FADES_S = 0.1


@dataclass(frozen=True, slots=True, kw_only=True)
class Voice:
    """What to sing. Pitch in Hz, lengths in s, levels in dBFS (RMS), wobble in semitones (SD).

    size: man, woman, child or sung; vowel: ah, oh, ee, eh or oo; breath_db: aspiration under the
    voice; breathy_onset_db: breath of breathy_onset_s before the voice, against it; creak_s: uneven
    pulses at either end; swell_db: how much louder the middle is; tremor: rate in Hz and extent in
    cents either side; gaps: (start after onset, length); jumps: (start after onset, length, semitones);
    `glide_to_hz` makes a glide. Vibrato is a tremor of a sung voice. `noise_db` is the plain room;
    `around` everything else in it.
    """

    f0_hz: float
    seconds: float
    level_db: float = -26.0
    size: str = "woman"
    vowel: str = "oh"
    wobble_semitones: float = 0.1
    drift_semitones: float = 0.0
    jitter_percent: float = 0.4
    shimmer_percent: float = 3.0
    diplophonia: float = 0.0
    tremor_hz: float = 0.0
    tremor_cents: float = 0.0
    tremor_db: float = 0.0
    breath_db: float = -30.0
    trail_off_db: float = 0.0
    swell_db: float = 0.0
    attack_s: float = 0.03
    release_s: float = 0.03
    hard_onset: bool = False
    breathy_onset_s: float = 0.0
    breathy_onset_db: float = -24.0
    creak_s: float = 0.0
    noise_db: float = -75.0
    lead_s: float = 0.6
    tail_s: float = 0.8
    glide_to_hz: float | None = None
    gaps: tuple[tuple[float, float], ...] = ()
    jumps: tuple[tuple[float, float, float], ...] = ()
    hiss: bool = False
    around: Surroundings = field(default_factory=Surroundings)
    seed: int = 0


@dataclass(frozen=True, slots=True, kw_only=True)
class Sung:
    """Samples (float, −1…1, shape (n,)), rate, and the truth in s, Hz, dB per s.

    f0_hz: every 10 ms from 0 s, NaN where there is no voice, shape (m,).
    """

    samples: np.ndarray
    rate_hz: int
    onset_s: float
    offset_s: float
    f0_hz: np.ndarray
    gaps: tuple[tuple[float, float], ...] = ()
    jumps_s: tuple[float, ...] = ()
    slope_db_per_s: float = 0.0

    @property
    def hold_s(self) -> float:
        return self.offset_s - self.onset_s

    @property
    def f0_median_hz(self) -> float | None:
        return None if np.isnan(self.f0_hz).all() else float(np.nanmedian(self.f0_hz))

    def as_wav(self) -> bytes:
        """16-bit WAV bytes."""
        file = io.BytesIO()
        soundfile.write(file, self.samples, self.rate_hz, subtype="PCM_16", format="WAV")
        return file.getvalue()


def sing(voice: Voice, rate_hz: int = 16_000) -> Sung:
    """The sound of a voice in its surroundings and its truth; a seed gives the same sound."""
    random = np.random.default_rng(voice.seed)
    time = np.arange(round(voice.seconds * RATE_HZ)) / RATE_HZ
    f0_hz = _pitch(voice, time, random)
    envelope = _envelope(voice, time)
    sound = hiss(random, len(time)) if voice.hiss else voiced(voice, f0_hz, random)
    sung = envelope > 0.1
    sound *= 10 ** (voice.level_db / 20) / np.sqrt(np.mean(sound[sung] ** 2))
    sound *= envelope / np.sqrt(np.mean(envelope[sung] ** 2))
    lead, tail = (np.zeros(round(s * RATE_HZ)) for s in (voice.lead_s, voice.tail_s))
    samples = np.concatenate((lead, sound, tail))
    if voice.breathy_onset_s:
        _breathe(voice, samples, len(lead), random)
    samples = surrounded(samples, voice.around, voice.level_db, len(lead), random)
    edge = np.flatnonzero(envelope >= np.median(envelope) * 10 ** (EDGE_DB / 20))
    onset_s, offset_s = (voice.lead_s + time[edge[0]], voice.lead_s + time[edge[-1]])
    return Sung(
        samples=in_room(samples, voice.noise_db, rate_hz, random),
        rate_hz=rate_hz,
        onset_s=float(onset_s),
        offset_s=float(offset_s),
        f0_hz=_truth(voice, f0_hz, envelope, len(samples)),
        gaps=tuple((voice.lead_s + at, voice.lead_s + at + length) for at, length in voice.gaps),
        jumps_s=tuple(
            voice.lead_s + edge for at, length, _ in voice.jumps for edge in (at, at + length)
        ),
        slope_db_per_s=voice.trail_off_db / voice.seconds,
    )


def _pitch(voice: Voice, time: np.ndarray, random: np.random.Generator) -> np.ndarray:
    semitones = np.zeros(len(time))
    if voice.wobble_semitones:
        for hz in (0.3, 0.9, 2.1, 4.6):
            semitones += np.sin(2 * np.pi * (hz * time + random.random())) / np.sqrt(2)
        semitones *= voice.wobble_semitones
        semitones -= np.median(semitones)
    share = time / voice.seconds
    semitones += voice.drift_semitones * (share - 0.5)
    semitones += voice.tremor_cents / 100 * np.sin(2 * np.pi * voice.tremor_hz * time)
    if voice.glide_to_hz:
        semitones += 12 * np.log2(voice.glide_to_hz / voice.f0_hz) * share
    for at, length, by in voice.jumps:
        semitones[(time >= at) & (time < at + length)] += by
    return voice.f0_hz * 2 ** (semitones / 12)


def _envelope(voice: Voice, time: np.ndarray) -> np.ndarray:
    envelope = 10 ** (voice.trail_off_db / 20 * time / voice.seconds)
    envelope *= 10 ** (voice.swell_db / 20 * np.sin(np.pi * time / voice.seconds))
    envelope *= 10 ** (voice.tremor_db / 20 * np.sin(2 * np.pi * voice.tremor_hz * time + 1))
    attack = 0.004 if voice.hard_onset else voice.attack_s
    envelope *= ramp(time, attack) * ramp(voice.seconds - time, voice.release_s)
    for at, length in voice.gaps:
        envelope *= np.maximum(ramp(at - time, 0.006), ramp(time - at - length, 0.006))
    return envelope


def ramp(time: np.ndarray, length_s: float) -> np.ndarray:
    """Rises from 0 to 1 within `length_s` from time 0, both in s."""
    return 0.5 * (1 - np.cos(np.pi * np.clip(time / length_s, 0, 1)))


def in_room(
    samples: np.ndarray, noise_db: float, rate_hz: int, random: np.random.Generator
) -> np.ndarray:
    """What a microphone at `rate_hz` gives of a sound at 48 kHz in a room of `noise_db` dBFS."""
    heard = soxr.resample(samples, RATE_HZ, rate_hz)
    return np.clip(heard + 10 ** (noise_db / 20) * random.normal(size=len(heard)), -1, 1)


def voiced(voice: Voice, f0_hz: np.ndarray, random: np.random.Generator) -> np.ndarray:
    """The voice at full strength along a pitch in Hz at 48 kHz, shape (n,)."""
    source, open_share = pulses(
        f0_hz,
        random,
        jitter_percent=voice.jitter_percent,
        shimmer_percent=voice.shimmer_percent,
        diplophonia=voice.diplophonia,
        creak_s=voice.creak_s,
    )
    breath = random.normal(size=len(source)) * (0.4 + open_share)
    breath *= 10 ** (voice.breath_db / 20) * source.std() / breath.std()
    return shaped(source + breath, voice.vowel, voice.size)


def hiss(random: np.random.Generator, count: int) -> np.ndarray:
    """A sharp /s/, loudest about 6.5 kHz, at 48 kHz."""
    noise = random.normal(size=count)
    spectrum = np.fft.rfft(noise)
    hz = np.fft.rfftfreq(count, 1 / RATE_HZ)
    return np.fft.irfft(spectrum / (1 + ((hz - 6_500) / 2_200) ** 2), count)


def _breathe(voice: Voice, samples: np.ndarray, lead: int, random: np.random.Generator) -> None:
    """Breath noise before the voice, so many dB against it, and under its first moment."""
    before = min(round(voice.breathy_onset_s * RATE_HZ), lead)
    fades = round(_BREATH_FADES_S * RATE_HZ)
    breath = shaped(random.normal(size=before + fades), voice.vowel, voice.size)
    level = 10 ** ((voice.level_db + voice.breathy_onset_db) / 20) / breath.std()
    swell = np.concatenate((np.hanning(2 * before)[:before], np.hanning(2 * fades)[fades:]))
    samples[lead - before : lead + fades] += level * breath * swell


def _truth(voice: Voice, f0_hz: np.ndarray, envelope: np.ndarray, count: int) -> np.ndarray:
    whole = np.full(count, np.nan)
    lead = round(voice.lead_s * RATE_HZ)
    loud = envelope >= np.median(envelope) * 10 ** (EDGE_DB / 20)
    if not voice.hiss:
        whole[lead : lead + len(f0_hz)] = np.where(loud, f0_hz, np.nan)
    return whole[:: RATE_HZ // 100]
