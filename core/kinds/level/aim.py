"""The level of speech as a target: "-30 dB + 4 dB, 120 words", "reference -30 dB", "120 words"."""

import re
from dataclasses import dataclass

from core.kinds.aim import NUMBER, unreadable

_LEVEL = re.compile(
    rf"(reference )?{NUMBER} dB(?: *\+ *{NUMBER} dB)?(?:, *(\d+) words)?|(\d+) words"
)


@dataclass(frozen=True, slots=True, kw_only=True)
class LevelTarget:
    """Speech `over_db` above the client's own reference level, dBFS at the same device and
    distance; None = the level is compared, not aimed at. words: how many are read, for the rate."""

    reference_db: float | None = None
    over_db: float | None = None
    words: int | None = None

    @property
    def name(self) -> str:
        level = [] if self.reference_db is None else [f"{self.reference_db:g} dB"]
        if level and self.over_db is None:
            level = [f"reference {level[0]}"]
        elif level and self.over_db:
            level = [f"{level[0]} + {self.over_db:g} dB"]
        return ", ".join([*level, *([] if self.words is None else [f"{self.words} words"])])


def read_aim(text: str) -> LevelTarget:
    """The level of that text; SoundError("target_unreadable")."""
    found = _LEVEL.fullmatch(text.strip())
    if found is None:
        raise unreadable("level", text)
    compared, level, over, words, only = found.groups()
    count = words or only
    return LevelTarget(
        reference_db=None if level is None else float(level),
        over_db=None if compared or level is None else float(over or 0),
        words=None if count is None else int(count),
    )
