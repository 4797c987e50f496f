"""What the figures of a held note say, in order of weight."""

from core.kinds.finding import Finding
from core.kinds.held_findings import of_a_note, of_the_onset
from core.reference.values import HOLD_PITCH_SD
from core.sound.figures import Figures


def findings(figures: Figures) -> list[Finding]:
    """Codes: those of a note, then tremor, unsteady or steady, then those of the onset."""
    return of_a_note(figures) + _of_steadiness(figures) + of_the_onset(figures)


def _of_steadiness(figures: Figures) -> list[Finding]:
    spread = figures.f0_sd_semitones
    found = []
    if figures.tremor:
        tremor = figures.tremor
        values = {"rate_hz": tremor.rate_hz, "extent_cents": tremor.extent_cents}
        found.append(Finding("tremor", values))
    elif spread is not None and spread > HOLD_PITCH_SD.number:
        found.append(Finding("unsteady", {"sd_semitones": spread}))
    if spread is not None and not found:
        found.append(Finding("steady", {"sd_semitones": spread}))
    return found
