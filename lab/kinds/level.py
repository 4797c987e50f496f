"""Talk of known level and phrases, and the simulated attempt."""

import numpy as np

from core.kinds.level.figures import SpeechFigures
from lab.kinds.attempt import SimulatedAttempt
from lab.kinds.bench_table import Spent
from lab.simulate.tasks import SimulatedSound, speak
from lab.simulate.voice import Voice

_PHRASE_AND_PAUSE_S = 2.4
_FADE_DB = -3.5


def perform(voice: Voice, attempt: SimulatedAttempt) -> np.ndarray:
    """Phrases of talk at the level of the voice, for about the seconds asked for."""
    return speak(
        phrases=max(round(attempt.seconds / _PHRASE_AND_PAUSE_S), 1),
        level_db=voice.level_db,
        fade_db=_FADE_DB,
        noise_db=voice.noise_db,
        size=attempt.size,
        seed=voice.seed,
    ).samples


def speaking(seed: int, *, level_db: float = -30.0, fade_db: float = 0.0) -> SimulatedSound:
    """Four phrases of talk in a quiet room."""
    return speak(seed=seed, level_db=level_db, fade_db=fade_db, noise_db=-60.0)


def bench_rows(count: int) -> list[str]:
    """Measure `count` seeded attempts."""
    spent = Spent("level")
    for seed in range(count):
        soft, loud = (speaking(seed, level_db=level) for level in (-30.0, -24.0))
        one, two = (spent.measure(played) for played in (soft, loud))
        spent.add(
            "level against another, dB",
            (two.level_mean_db or 0.0) - (one.level_mean_db or 0.0) - 6.0,
        )
        phrases = len(one.own.phrases) if isinstance(one.own, SpeechFigures) else 0
        spent.add("phrases", phrases - len(soft.phrases))
    return spent.rows("level")
