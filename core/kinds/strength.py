"""How strong a strong sound was, whatever was sung."""

from core.kinds.finding import Finding
from core.kinds.speech.aim import LevelTarget
from core.kinds.speech.figures import Spoken
from core.reference.values import SHOUT_OVER_TARGET, STRONG_ENOUGH
from core.sound.figures import Figures


def strength_of(figures: Figures, aim: LevelTarget | None) -> Finding | None:
    """How strong a strong hold or glide was: shouted, under_target or over_target, in dB over what is
    aimed at; None where nothing is aimed at, no level is known, or speech says it by its figures."""
    level_db = figures.level_mean_db
    if aim is None or aim.reference_db is None or aim.over_db is None or level_db is None:
        return None
    if isinstance(figures.own, Spoken):
        return None
    over_db = level_db - aim.reference_db - aim.over_db
    if over_db > SHOUT_OVER_TARGET.number:
        return Finding("shouted", {"over_db": over_db})
    enough = over_db >= -STRONG_ENOUGH.number
    return Finding("over_target" if enough else "under_target", {"over_db": over_db})
