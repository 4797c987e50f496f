"""Glides of known ends, and the simulated attempt."""

from dataclasses import replace

import numpy as np

from lab.kinds.attempt import SimulatedAttempt
from lab.kinds.bench_table import Spent, seeded_voice
from lab.simulate.voice import Sung, Voice, sing


def perform(voice: Voice, attempt: SimulatedAttempt) -> np.ndarray:
    """A slide to the voice's `glide_to_hz`, an octave up where it names none."""
    end_hz = voice.glide_to_hz or 2 * voice.f0_hz
    return sing(replace(voice, glide_to_hz=end_hz)).samples


def gliding(seed: int) -> Sung:
    """A glide up or down over 1–2 octaves in 1.5–5 s."""
    random = np.random.default_rng((seed, 7))
    low_hz = float(random.uniform(70, 330))
    high_hz = min(low_hz * 2 ** float(random.uniform(1, 2)), 950.0)
    ends = (low_hz, high_hz) if seed % 2 else (high_hz, low_hz)
    voice = seeded_voice(
        random,
        seed,
        f0_hz=ends[0],
        glide_to_hz=ends[1],
        seconds=float(random.uniform(1.5, 5)),
        size="man" if low_hz < 160 else "woman",
        vowel=str(random.choice(["ah", "oo", "ee"])),
        jitter_percent=0.2,
        wobble_semitones=0.0,
        attack_s=float(random.uniform(0.03, 0.12)),
        release_s=float(random.uniform(0.03, 0.2)),
    )
    return sing(voice, (16_000, 44_100)[seed % 2])


def bench_rows(count: int) -> list[str]:
    """Measure `count` seeded attempts."""
    spent = Spent("glide")
    for seed in range(count):
        sung = gliding(seed)
        glide = spent.measure(sung).glide
        low, high = np.nanmin(sung.f0_hz), np.nanmax(sung.f0_hz)
        ends = (glide.low_hz / low, glide.high_hz / high) if glide else (0.5, 0.5)
        spent.add("ends, semitones", float(np.abs(12 * np.log2(ends)).max()))
    return spent.rows("glide")
