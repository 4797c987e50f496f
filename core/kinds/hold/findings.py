"""Findings for a held note, most important first."""

from core.kinds.finding import Finding
from core.kinds.held_findings import of_a_note, of_steadiness, of_the_onset
from core.sound.figures import Figures


def findings(figures: Figures) -> list[Finding]:
    """Codes: those of a note, then tremor, unsteady or steady, then those of the onset."""
    return of_a_note(figures) + of_steadiness(figures) + of_the_onset(figures)
