"""Seeded tasks other than a held note on which the measuring is judged."""

from typing import Any

import numpy as np

from core.notes.note import Note
from core.simulate.tasks import Played, breathe, bubble, hiss_to_buzz, sing_pattern, speak
from core.simulate.voice import Sung, Voice, sing

LONGEST_SILENT_STOP_S = 0.7
"""Without a voice a longer silence ends the attempt."""
PATTERNS = (
    "C4 D4 C4",
    "C4 D4 E4 D4 C4",
    "C4 D4 E4 F4 E4 D4 C4",
    "C4 D4 E4 F4 G4 F4 E4 D4 C4",
)


def _voice(random: np.random.Generator, seed: int, **fields: Any) -> Voice:
    return Voice(
        **{
            "f0_hz": float(random.uniform(90, 320)),
            "seconds": float(random.uniform(3, 9)),
            "level_db": float(random.uniform(-36, -20)),
            "noise_db": float(random.uniform(-75, -60)),
            "seed": seed,
            **fields,
        }
    )


def bubbling(seed: int, *, air_only: bool = False) -> Played:
    """Bubbles of 9–30 a second, uneven by 1–12 %; every third time they stop for a while.
    air_only: without a voice, as loud."""
    random = np.random.default_rng((seed, 1))
    voice = _voice(random, seed, attack_s=0.06, release_s=0.08)
    stop_s = float(random.uniform(0.4, 1.0))
    stop = (voice.seconds * 0.5, min(stop_s, LONGEST_SILENT_STOP_S) if air_only else stop_s)
    return bubble(
        voice,
        bubble_hz=float(random.uniform(9, 30)),
        unevenness=float(random.uniform(0.01, 0.12)),
        depth_db=float(random.uniform(4, 14)),
        splash_db=float(random.uniform(-15, -3)),
        stops=(stop,) if seed % 3 == 0 else (),
        air_only=air_only,
    )


def hissed(seed: int) -> Sung:
    """A hiss of 2–15 s, every third time with a swell."""
    random = np.random.default_rng((seed, 2))
    voice = _voice(
        random,
        seed,
        hiss=True,
        seconds=float(random.uniform(2, 15)),
        swell_db=8.0 if seed % 3 == 0 else 0.0,
        attack_s=float(random.uniform(0.02, 0.2)),
        release_s=float(random.uniform(0.02, 0.3)),
    )
    return sing(voice, (16_000, 44_100)[seed % 2])


def gliding(seed: int) -> Sung:
    """A glide up or down over 1–2 octaves in 1.5–5 s."""
    random = np.random.default_rng((seed, 7))
    low_hz = float(random.uniform(70, 330))
    high_hz = min(low_hz * 2 ** float(random.uniform(1, 2)), 950.0)
    ends = (low_hz, high_hz) if seed % 2 else (high_hz, low_hz)
    voice = _voice(
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


def joining(seed: int) -> Played:
    """A hiss that turns into a buzz within 4–100 ms, every second time with a silence between."""
    random = np.random.default_rng((seed, 3))
    seconds, attack_s = float(random.uniform(1, 4)), float(random.uniform(0.004, 0.1))
    gap_s = float(random.uniform(0.04, 0.3)) if seed % 2 else 0.0
    voice = _voice(random, seed, seconds=seconds, attack_s=attack_s)
    hiss_s = float(random.uniform(1, 4))
    return hiss_to_buzz(voice, hiss_s=hiss_s, gap_s=gap_s, softer_db=float(random.uniform(3, 12)))


def singing(seed: int) -> tuple[Played, tuple[Note, ...]]:
    """A scale pattern in any key, each note up to 35 cents off, every third time with a breath."""
    random = np.random.default_rng((seed, 4))
    key = int(random.integers(-12, 8))
    notes = tuple(Note(Note.named(n).number + key) for n in PATTERNS[seed % 4].split())
    voice = _voice(
        random,
        seed,
        size="woman" if key > -6 else "man",
        vowel=str(random.choice(["ah", "oo", "ee"])),
        jitter_percent=0.2,
        tremor_hz=5.5,
        tremor_cents=float(random.choice([0.0, 0.0, 15.0])),
    )
    played = sing_pattern(
        voice,
        notes,
        note_s=float(random.uniform(0.25, 0.7)),
        cents=[float(c) for c in np.clip(random.normal(0, 15, len(notes)), -35, 35)],
        transition_s=float(random.uniform(0.02, 0.06)),
        breaths_after=(len(notes) // 2,) if seed % 3 == 0 else (),
    )
    return played, notes


def speaking(seed: int, *, level_db: float = -30.0, fade_db: float = 0.0) -> Played:
    """Four phrases of talk in a quiet room."""
    return speak(seed=seed, level_db=level_db, fade_db=fade_db, noise_db=-60.0)


def breathing(seed: int) -> Played:
    """Three breaths in and out, audible 16–26 dB over the room."""
    random = np.random.default_rng((seed, 5))
    return breathe(
        in_s=float(random.uniform(1.5, 3)),
        out_s=float(random.uniform(3, 9)),
        noise_db=float(random.uniform(-68, -58)),
        seed=seed,
    )
