"""What the figures of a hiss say."""

from core.kinds.finding import Finding
from core.kinds.swell_figures import swelled
from core.reference.values import HISS_LEVEL_SD
from core.sound.figures import Figures


def findings(figures: Figures) -> list[Finding]:
    """Codes: swell, uneven, even."""
    if (swell := swelled(figures)) is not None:
        return [swell]
    if figures.level_sd_db is None:
        return []
    uneven = figures.level_sd_db > HISS_LEVEL_SD.number
    return [Finding("uneven" if uneven else "even", {"level_sd_db": figures.level_sd_db})]
