"""Simulated tasks other than a held note: bubbles, hiss to buzz, patterns, speech, paced breath.

Each gives sound with its exact truth beside it and is seeded. The voice itself is that of
`lab.simulate.voice`, as are level, size and room.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from scipy.ndimage import gaussian_filter1d
from scipy.signal import butter, sosfilt

from core.notes.note import Note
from lab.simulate.glottis import RATE_HZ
from lab.simulate.surroundings import at_level, talk
from lab.simulate.tract import shaped
from lab.simulate.voice import Voice, hiss, in_room, ramp, voiced

Spans = tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class SimulatedSound:
    """Samples (float, −1…1, shape (n,)), rate, and the truth; seconds from the start of the sound.

    bubble_hz: bubbles a second while they rise; stops: where they do not; switch_s, gap_s: where
    the buzz begins, silence before it; notes: (name, start, end, cents); phrases: (start, end);
    breaths: (start, end), in and out by turns.
    """

    samples: np.ndarray
    rate_hz: int
    onset_s: float
    offset_s: float
    f0_hz: float | None = None
    bubble_hz: float | None = None
    stops: Spans = ()
    switch_s: float | None = None
    gap_s: float = 0.0
    notes: tuple[tuple[str, float, float, float], ...] = ()
    phrases: Spans = ()
    breaths: Spans = ()


# How long a bubble is heard after it left the tube, down to −20 dB.
_SPLASH_S = 0.02


def bubble(
    voice: Voice,
    *,
    bubble_hz: float,
    unevenness: float = 0.06,
    depth_db: float = 9.0,
    splash_db: float = -8.0,
    stops: Spans = (),
    air_only: bool = False,
    rate_hz: int = 16_000,
) -> SimulatedSound:
    """A voice through a tube in water, or air alone, as loud. depth_db: how far the voice sinks between bubbles;
    splash_db: noise of a bubble against the voice; unevenness: SD of the time between bubbles,
    share; stops: (start after onset, length) in s without bubbles."""
    random = np.random.default_rng(voice.seed)
    time = np.arange(round(voice.seconds * RATE_HZ)) / RATE_HZ
    rising = np.ones(len(time), dtype=bool)
    for at, length in stops:
        rising[(time >= at) & (time < at + length)] = False
    count = int(voice.seconds * bubble_hz * 1.5) + 10
    apart = np.maximum(1 + unevenness * random.normal(size=count), 0.4) / bubble_hz
    starts = np.cumsum(apart)
    starts = starts[starts < voice.seconds]
    starts = starts[rising[(starts * RATE_HZ).astype(int)]]
    phase = np.interp(time, starts, np.arange(len(starts)))
    swing = 0.5 * (1 + np.cos(2 * np.pi * phase))
    swing = np.where(rising, swing, 1.0)
    slow = gaussian_filter1d(swing, 0.003 * RATE_HZ)
    f0_hz = voice.f0_hz * 2 ** (0.15 / 12 * (slow - 0.5))
    sound = voiced(replace(voice, vowel="oo"), f0_hz, random)
    sound *= 10 ** (voice.level_db / 20) / sound.std()
    sound *= 10 ** (-depth_db * (1 - slow) / 20)
    if air_only:
        sound, splash_db = np.zeros(len(time)), 0.0
    edges = ramp(time, voice.attack_s) * ramp(voice.seconds - time, voice.release_s)
    sound = sound * edges + _splashes(starts, len(time), voice.level_db + splash_db, random) * (
        edges > 0.05
    )
    whole = _placed(sound, voice)
    happened = np.diff(starts)
    rate = 1 / float(np.mean(happened[happened < 2.5 / bubble_hz]))
    return SimulatedSound(
        samples=in_room(whole, voice.noise_db, rate_hz, random),
        rate_hz=rate_hz,
        onset_s=voice.lead_s + (float(starts[0]) if air_only else 0.1 * voice.attack_s),
        offset_s=voice.lead_s
        + (float(starts[-1]) + _SPLASH_S if air_only else voice.seconds - 0.1 * voice.release_s),
        f0_hz=None if air_only else float(np.median(f0_hz)),
        bubble_hz=rate,
        stops=tuple((voice.lead_s + at, voice.lead_s + at + length) for at, length in stops),
    )


def _splashes(
    starts: np.ndarray, count: int, level_db: float, random: np.random.Generator
) -> np.ndarray:
    """A short low tone of falling strength and some noise as each bubble leaves the tube."""
    length = round(0.03 * RATE_HZ)
    time = np.arange(length) / RATE_HZ
    sound = np.zeros(count + length)
    for start in starts:
        hz = random.uniform(250, 500)
        tone = np.sin(2 * np.pi * hz * (1 + 4 * time) * time)
        burst = (tone + 0.4 * random.normal(size=length)) * np.exp(-time / 0.008)
        at = int(start * RATE_HZ)
        sound[at : at + length] += random.uniform(0.6, 1.2) * burst
    return at_level(sound, level_db)[:count] if len(starts) else sound[:count]


def hiss_to_buzz(
    voice: Voice,
    *,
    hiss_s: float,
    gap_s: float = 0.0,
    softer_db: float = 6.0,
    rate_hz: int = 16_000,
) -> SimulatedSound:
    """An /s/ of `hiss_s`, a silence of `gap_s`, then /z/ for `voice.seconds`: the hiss goes on
    `softer_db` weaker over a voice that starts within `voice.attack_s`."""
    random = np.random.default_rng(voice.seed)
    counts = [round(s * RATE_HZ) for s in (hiss_s, gap_s, voice.seconds)]
    total = sum(counts)
    time = np.arange(total) / RATE_HZ
    switch_s = hiss_s + gap_s
    buzzing = ramp(time - switch_s, voice.attack_s) * ramp(time[-1] - time, voice.release_s)
    hissing = np.where(time < hiss_s, 1.0, 10 ** (-softer_db / 20) * (time >= switch_s))
    hissing = gaussian_filter1d(hissing, 0.002 * RATE_HZ)
    hissing *= ramp(time, 0.03) * ramp(time[-1] - time, voice.release_s)
    f0_hz = np.full(total, voice.f0_hz)
    buzz = voiced(replace(voice, vowel="ee"), f0_hz, random)
    sound = buzz / buzz.std() * buzzing + 0.7 * at_level(hiss(random, total), 0.0) * hissing
    sound *= 10 ** (voice.level_db / 20)
    return SimulatedSound(
        samples=in_room(_placed(sound, voice), voice.noise_db, rate_hz, random),
        rate_hz=rate_hz,
        onset_s=voice.lead_s + 0.006,
        offset_s=voice.lead_s + float(time[-1]) - 0.1 * voice.release_s,
        f0_hz=voice.f0_hz,
        switch_s=voice.lead_s + switch_s + 0.2 * voice.attack_s,
        gap_s=gap_s,
    )


def sing_pattern(
    voice: Voice,
    notes: Sequence[Note],
    *,
    note_s: float = 0.5,
    cents: Sequence[float] = (),
    transition_s: float = 0.04,
    breaths_after: Sequence[int] = (),
    breath_s: float = 0.3,
    rate_hz: int = 16_000,
) -> SimulatedSound:
    """Notes of `note_s` each, sung together but for a breath after those named by index; cents:
    how far each is off. Vibrato is the tremor of the voice."""
    random = np.random.default_rng(voice.seed)
    off = list(cents) or [0.0] * len(notes)
    starts, at = [], 0.0
    for place in range(len(notes)):
        starts.append(at)
        at += note_s + (breath_s if place in breaths_after else 0.0)
    time = np.arange(round((starts[-1] + note_s) * RATE_HZ)) / RATE_HZ
    pitch = np.zeros(len(time))
    loud = np.zeros(len(time))
    for place, (start, note) in enumerate(zip(starts, notes, strict=True)):
        after = starts[place + 1] if place + 1 < len(notes) else time[-1] + 1
        here = (time >= start) & (time < after)
        pitch[here] = note.number + off[place] / 100
        loud[(time >= start) & (time < start + note_s)] = 1.0
    pitch = gaussian_filter1d(pitch, max(transition_s, 0.001) / 4 * RATE_HZ, mode="nearest")
    pitch += voice.tremor_cents / 100 * np.sin(2 * np.pi * voice.tremor_hz * time)
    f0_hz = 440 * 2 ** ((pitch - 69) / 12)
    sound = voiced(voice, f0_hz, random)
    edges = gaussian_filter1d(loud, 0.008 * RATE_HZ) * ramp(time, voice.attack_s)
    sound *= 10 ** (voice.level_db / 20) / sound.std() * edges
    sound *= ramp(time[-1] - time, voice.release_s)
    lead = voice.lead_s
    return SimulatedSound(
        samples=in_room(_placed(sound, voice), voice.noise_db, rate_hz, random),
        rate_hz=rate_hz,
        onset_s=lead + 0.2 * voice.attack_s,
        offset_s=lead + float(time[-1]) - 0.2 * voice.release_s,
        notes=tuple(
            (note.name, lead + start, lead + start + note_s, error)
            for note, start, error in zip(notes, starts, off, strict=True)
        ),
    )


def speak(
    *,
    phrases: int = 4,
    phrase_s: float = 1.8,
    pause_s: float = 0.6,
    level_db: float = -28.0,
    fade_db: float = 0.0,
    noise_db: float = -70.0,
    size: str = "woman",
    seed: int = 0,
    rate_hz: int = 16_000,
    base_hz: float | None = None,
    movement: float = 1.0,
) -> SimulatedSound:
    """Phrases of talk with pauses between; fade_db: how much each falls from start to end; base_hz, movement:
    of its pitch, as in `talk`."""
    random = np.random.default_rng(seed)
    parts, spans, at = [np.zeros(round(0.6 * RATE_HZ))], [], 0.6
    for _ in range(phrases):
        said = talk(phrase_s, random, pauses=False, size=size, base_hz=base_hz, movement=movement)
        said = said[: np.flatnonzero(np.abs(said) > 0.05 * np.abs(said).max())[-1] + 1]
        said = at_level(said, level_db) * 10 ** (fade_db / 20 * np.linspace(0, 1, len(said)))
        parts += [said, np.zeros(round(pause_s * RATE_HZ))]
        spans.append((at, at + len(said) / RATE_HZ))
        at += len(said) / RATE_HZ + pause_s
    return SimulatedSound(
        samples=in_room(np.concatenate(parts), noise_db, rate_hz, random),
        rate_hz=rate_hz,
        onset_s=spans[0][0],
        offset_s=spans[-1][1],
        phrases=tuple(spans),
    )


def breathe(
    *,
    in_s: float,
    out_s: float,
    cycles: int = 3,
    between_s: float = 0.35,
    level_db: float = -42.0,
    noise_db: float = -72.0,
    seed: int = 0,
    rate_hz: int = 16_000,
) -> SimulatedSound:
    """Audible breath in and out by turns with short turns between; in through the mouth."""
    random = np.random.default_rng(seed)
    parts, spans, at = [np.zeros(round(0.6 * RATE_HZ))], [], 0.6
    for place in range(2 * cycles):
        length = in_s if place % 2 == 0 else out_s
        count = round(length * RATE_HZ)
        noise = shaped(random.normal(size=count), "eh" if place % 2 == 0 else "oo", "woman")
        noise = sosfilt(butter(1, [300, 4_000], "bandpass", fs=RATE_HZ, output="sos"), noise)
        time = np.arange(count) / RATE_HZ
        shape = ramp(time, 0.15) * ramp(length - time, 0.15)
        parts += [at_level(noise, level_db) * shape, np.zeros(round(between_s * RATE_HZ))]
        spans.append((at, at + length))
        at += length + between_s
    return SimulatedSound(
        samples=in_room(np.concatenate(parts), noise_db, rate_hz, random),
        rate_hz=rate_hz,
        onset_s=spans[0][0],
        offset_s=spans[-1][1],
        breaths=tuple(spans),
    )


def _placed(sound: np.ndarray, voice: Voice) -> np.ndarray:
    lead, tail = (np.zeros(round(s * RATE_HZ)) for s in (voice.lead_s, voice.tail_s))
    return np.concatenate((lead, sound, tail))
