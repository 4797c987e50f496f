"""What else a home microphone hears: noise, fan, mains hum, a room, tones, ticks, talk, coughs."""

from dataclasses import dataclass

import numpy as np
from scipy.signal import butter, fftconvolve, sosfilt

from lab.simulate.glottis import RATE_HZ, pulses
from lab.simulate.tract import VOWELS_HZ, gliding, shaped


@dataclass(frozen=True, slots=True, kw_only=True)
class Surroundings:
    """Levels in dB relative to the voice (None = not there), times in s.

    talk_before_s, tone_before_s: a word, a guide tone of `tone_hz` that ends so long before the
    voice; cough_before_s: a cough; ticks: of a clock, one a second.
    """

    white_db: float | None = None
    fan_db: float | None = None
    hum_db: float | None = None
    hum_hz: float = 50.0
    babble_db: float | None = None
    talker_db: float | None = None
    reverb_s: float = 0.0
    tone_before_s: float | None = None
    tone_hz: float = 220.0
    talk_before_s: float | None = None
    cough_before_s: float | None = None
    ticks_db: float | None = None


def surrounded(
    samples: np.ndarray,
    around: Surroundings,
    voice_db: float,
    onset: int,
    random: np.random.Generator,
) -> np.ndarray:
    """The voice in its surroundings, at 48 kHz; `onset` is the sample where the voice begins."""
    count = len(samples)
    sound = samples.copy()
    for before_s, make in (
        (around.tone_before_s, lambda: guide_tone(around.tone_hz, 1.2)),
        (around.talk_before_s, lambda: talk(0.7, random)),
        (around.cough_before_s, lambda: cough(random)),
    ):
        if before_s is not None:
            piece = make()
            end = onset - round(before_s * RATE_HZ)
            piece = piece[-end:] if end < len(piece) else piece
            sound[end - len(piece) : end] += at_level(piece, voice_db - 3)
    if around.reverb_s:
        sound = reverberant(sound, around.reverb_s, random)
    for level_db, noise in (
        (around.white_db, lambda: random.normal(size=count)),
        (around.fan_db, lambda: fan(count, random)),
        (around.hum_db, lambda: hum(count, around.hum_hz, random)),
        (around.babble_db, lambda: babble(count, random)),
        (around.talker_db, lambda: talk(count / RATE_HZ, random)[:count]),
        (around.ticks_db, lambda: ticks(count, random)),
    ):
        if level_db is not None:
            sound += at_level(noise(), voice_db + level_db)
    return sound


def at_level(sound: np.ndarray, level_db: float) -> np.ndarray:
    """Scaled to an RMS in dBFS over its whole length."""
    return sound * (10 ** (level_db / 20) / (np.sqrt(np.mean(sound**2)) + 1e-12))


def fan(count: int, random: np.random.Generator) -> np.ndarray:
    """Broad noise falling with frequency, with a blade tone."""
    noise = sosfilt(butter(1, 250, fs=RATE_HZ, output="sos"), random.normal(size=count))
    time = np.arange(count) / RATE_HZ
    return noise / noise.std() + 0.3 * np.sin(2 * np.pi * 118 * time)


def hum(count: int, mains_hz: float, random: np.random.Generator) -> np.ndarray:
    """Mains hum: the mains frequency and its multiples to the seventh."""
    time = np.arange(count) / RATE_HZ
    parts = ((1, 1.0), (2, 0.8), (3, 0.5), (4, 0.3), (5, 0.25), (6, 0.15), (7, 0.1))
    turns = [
        gain * np.sin(2 * np.pi * (k * mains_hz * time + random.random())) for k, gain in parts
    ]
    return np.sum(turns, axis=0)


def ticks(count: int, random: np.random.Generator) -> np.ndarray:
    """A click of 4 ms once a second."""
    sound = np.zeros(count)
    click = random.normal(size=192) * np.exp(-np.arange(192) / 40)
    for at in range(int(0.3 * RATE_HZ), count - 200, RATE_HZ):
        sound[at : at + 192] += click
    return sound


def guide_tone(hz: float, seconds: float) -> np.ndarray:
    """Three partials with soft edges, as the page plays it."""
    time = np.arange(round(seconds * RATE_HZ)) / RATE_HZ
    tone = sum(
        gain * np.sin(2 * np.pi * k * hz * time) for k, gain in ((1, 1), (2, 0.35), (3, 0.12))
    )
    edge = np.minimum(np.minimum(time / 0.05, 1), np.minimum((seconds - time) / 0.05, 1))
    return tone * edge


def talk(
    seconds: float,
    random: np.random.Generator,
    *,
    pauses: bool = True,
    size: str | None = None,
    base_hz: float | None = None,
    movement: float = 1.0,
) -> np.ndarray:
    """Speech-like: syllables of moving pitch, level and formants, hisses and pauses between. base_hz: around
    which it moves, None = as usual for the size; movement: of pitch, 1 = usual, 0 = none."""
    size = size or str(random.choice(["man", "woman"]))
    base_hz = base_hz or (110.0 if size == "man" else 200.0)
    parts, left = [], seconds
    while left > 0:
        length = float(random.uniform(0.16, 0.5))
        time = np.arange(round(length * RATE_HZ)) / RATE_HZ
        turn = random.uniform(-5, 2) * time / length + random.uniform(-3, 4)
        source, _ = pulses(
            base_hz * 2 ** (movement * turn / 12),
            random,
            jitter_percent=0.8,
            shimmer_percent=5,
            diplophonia=0,
        )
        vowels = [str(v) for v in random.choice(list(VOWELS_HZ), size=3, replace=False)]
        syllable = gliding(source, vowels, size) * np.hanning(len(time)) ** 0.5
        parts.append(at_level(syllable, -20 + random.uniform(-4, 4)))
        parts.append(_between(random, pauses))
        left -= (len(parts[-1]) + len(parts[-2])) / RATE_HZ
    return np.concatenate(parts)[: max(round(seconds * RATE_HZ), 1)]


def _between(random: np.random.Generator, pauses: bool) -> np.ndarray:
    count = int(random.uniform(0.02, 0.14) * RATE_HZ)
    if random.random() < 0.25 and pauses:
        count += int(random.uniform(0.1, 0.4) * RATE_HZ)
        return np.zeros(count)
    noise = np.diff(random.normal(size=count), append=0.0) * np.hanning(count)
    return at_level(noise, random.uniform(-45, -28))


def babble(count: int, random: np.random.Generator) -> np.ndarray:
    """Six talkers at once."""
    return np.sum([talk(count / RATE_HZ + 0.5, random)[:count] for _ in range(6)], axis=0)


def cough(random: np.random.Generator) -> np.ndarray:
    """A burst of noise through an open tract, then a weaker voiced one."""
    burst = shaped(random.normal(size=round(0.12 * RATE_HZ)), "ah", "man")
    burst *= np.exp(-np.arange(len(burst)) / (0.04 * RATE_HZ))
    after = shaped(random.normal(size=round(0.15 * RATE_HZ)), "eh", "man")
    after *= 0.4 * np.hanning(len(after))
    return np.concatenate((burst, after))


def reverberant(sound: np.ndarray, seconds: float, random: np.random.Generator) -> np.ndarray:
    """In a room whose sound falls by 60 dB in `seconds`; 9 dB less room than direct sound."""
    time = np.arange(round(seconds * RATE_HZ)) / RATE_HZ
    tail = random.normal(size=len(time)) * 10 ** (-3 * time / seconds)
    tail[: int(0.004 * RATE_HZ)] = 0
    wet = fftconvolve(sound, tail)[: len(sound)]
    return sound + wet * (10 ** (-9 / 20) * sound.std() / (wet.std() + 1e-12))
