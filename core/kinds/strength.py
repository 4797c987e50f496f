"""How strong a strong sound was, whatever was sung."""

from dataclasses import asdict, dataclass

from core.kinds.finding import Finding
from core.kinds.level.aim import LevelTarget
from core.kinds.level.figures import SpeechFigures
from core.reference.values import SHOUT_OVER_TARGET, STRONG_ENOUGH
from core.sound.figures import Figures


@dataclass(frozen=True, slots=True)
class Band:
    """Where a strong voice is to lie on this device, dBFS: usual talk, strong from here, shouted from there."""

    talk_db: float
    strong_db: float
    shouted_db: float

    def as_data(self) -> dict[str, float]:
        return {name: round(level, 1) for name, level in asdict(self).items()}


def band_of(aim: LevelTarget | None) -> Band | None:
    """The band of a level that is aimed at; None where none is, or the device has not heard usual talk."""
    if aim is None or aim.reference_db is None or aim.over_db is None:
        return None
    strong_db = aim.reference_db + aim.over_db
    return Band(aim.reference_db, strong_db, strong_db + SHOUT_OVER_TARGET.number)


def strength_of(figures: Figures, aim: LevelTarget | None) -> Finding | None:
    """How strong a strong hold or glide was: shouted, under_target or over_target, in dB over what is
    aimed at; None where nothing is aimed at, no level is known, or speech says it by its figures."""
    level_db = figures.level_mean_db
    if aim is None or aim.reference_db is None or aim.over_db is None or level_db is None:
        return None
    if isinstance(figures.own, SpeechFigures):
        return None
    over_db = level_db - aim.reference_db - aim.over_db
    if over_db > SHOUT_OVER_TARGET.number:
        return Finding("shouted", {"over_db": over_db})
    enough = over_db >= -STRONG_ENOUGH.number
    return Finding("over_target" if enough else "under_target", {"over_db": over_db})
