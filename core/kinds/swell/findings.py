"""Findings for a swell, most important first."""

from core.kinds.finding import Finding
from core.kinds.held_findings import of_pitch_and_breaks, of_steadiness, of_the_onset
from core.kinds.swell_figures import Swell, swelled
from core.sound.figures import Figures


def findings(figures: Figures) -> list[Finding]:
    """Codes: those of pitch and breaks, no_swell, tremor or unsteady, swell or steady, those of the
    onset. That it fades at the end is what is asked for."""
    swell, steadiness = swelled(figures), of_steadiness(figures)
    found = of_pitch_and_breaks(figures)
    own = figures.own
    if swell is None and isinstance(own, Swell):
        found.append(Finding("no_swell", {"rise_db": own.rise_db, "fall_db": own.fall_db}))
    found += [one for one in steadiness if one.code != "steady"]
    return found + ([swell] if swell else []) + of_the_onset(figures)
