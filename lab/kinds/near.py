"""Phrases at a known distance from a note, and the simulated attempt."""

import numpy as np

from core.kinds.near.aim import NearTarget
from core.kinds.near.figures import NearPhrases
from core.notes.note import Note
from lab.kinds.attempt import SimulatedAttempt
from lab.kinds.bench_table import Spent
from lab.simulate.tasks import SimulatedSound, speak
from lab.simulate.voice import Voice

_PHRASES = 5
MOVEMENT = 0.25
"""Of the movement of pitch in usual talk: phrases that come home to a tone move less."""


def perform(voice: Voice, attempt: SimulatedAttempt) -> np.ndarray:
    """As many phrases as are aimed at, around the pitch of the voice."""
    aim = attempt.aim
    return speak(
        phrases=aim.phrases if isinstance(aim, NearTarget) else _PHRASES,
        level_db=voice.level_db,
        noise_db=voice.noise_db,
        size=attempt.size,
        seed=voice.seed,
        base_hz=voice.f0_hz,
        movement=MOVEMENT,
    ).samples


def phrases_near(seed: int, *, note: Note, off_semitones: float) -> SimulatedSound:
    """Five phrases so far from the note, hardly moving, so that what is commonest is known."""
    return speak(
        phrases=5,
        seed=seed,
        level_db=-28.0,
        noise_db=-65.0,
        size="man" if note.hz() < 160 else "woman",
        base_hz=note.hz() * 2 ** (off_semitones / 12),
        movement=0.0,
    )


def bench_rows(count: int) -> list[str]:
    """Measure `count` seeded attempts."""
    spent = Spent("near")
    for seed in range(count):
        random = np.random.default_rng((seed, 11))
        note, off = Note(int(random.integers(45, 68))), float(random.uniform(-3, 3))
        found = spent.measure(
            phrases_near(seed, note=note, off_semitones=off), NearTarget(note, 5)
        ).own
        heard = found.phrases if isinstance(found, NearPhrases) else ()
        spent.add("phrases", len(heard) - 5)
        for one in heard:
            spent.add("distance from the note, semitones", (one.off_semitones or 0.0) - off)
    return spent.rows("near")
