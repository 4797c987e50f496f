"""Talk of known level and phrases."""

from core.kinds.judging import Spent
from core.kinds.speech.figures import Spoken
from core.simulate.tasks import Played, speak


def speaking(seed: int, *, level_db: float = -30.0, fade_db: float = 0.0) -> Played:
    """Four phrases of talk in a quiet room."""
    return speak(seed=seed, level_db=level_db, fade_db=fade_db, noise_db=-60.0)


def judged(count: int) -> list[str]:
    """So many seeded attempts."""
    spent = Spent("level")
    for seed in range(count):
        soft, loud = (speaking(seed, level_db=level) for level in (-30.0, -24.0))
        one, two = (spent.measure(played) for played in (soft, loud))
        spent.add(
            "level against another, dB",
            (two.level_mean_db or 0.0) - (one.level_mean_db or 0.0) - 6.0,
        )
        phrases = len(one.own.phrases) if isinstance(one.own, Spoken) else 0
        spent.add("phrases", phrases - len(soft.phrases))
    return spent.rows("level")
