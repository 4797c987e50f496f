"""Findings for a long level hum, most important first."""

from core.kinds.finding import Finding
from core.kinds.held_findings import of_a_note, of_steadiness
from core.reference.values import HISS_LEVEL_SD
from core.sound.figures import Figures


def findings(figures: Figures) -> list[Finding]:
    """Codes: those of a note (among them faded: loud at first, thin at the end), then uneven or level, then
    tremor, unsteady or steady. The level of a hum may wander as much as that of a hiss."""
    return of_a_note(figures) + _of_level(figures) + of_steadiness(figures)


def _of_level(figures: Figures) -> list[Finding]:
    if figures.level_sd_db is None:
        return []
    code = "uneven" if figures.level_sd_db > HISS_LEVEL_SD.number else "level"
    return [Finding(code, {"level_sd_db": figures.level_sd_db})]
