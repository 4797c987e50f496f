"""What the figures of a hiss say."""

from core.kinds.finding import Finding
from core.kinds.hiss.figures import Swell
from core.reference.values import HISS_LEVEL_SD, SWELL_LEAST
from core.sound.figures import Figures


def findings(figures: Figures) -> list[Finding]:
    """Codes: swell, uneven, even."""
    swell = figures.own
    if isinstance(swell, Swell) and min(swell.rise_db, swell.fall_db) >= SWELL_LEAST.number:
        return [Finding("swell", {"rise_db": swell.rise_db, "fall_db": swell.fall_db})]
    if figures.level_sd_db is None:
        return []
    uneven = figures.level_sd_db > HISS_LEVEL_SD.number
    return [Finding("uneven" if uneven else "even", {"level_sd_db": figures.level_sd_db})]
