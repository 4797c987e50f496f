"""Findings for a slide, most important first."""

from core.kinds.finding import Finding
from core.kinds.held_findings import of_a_note, of_the_onset
from core.sound.figures import Figures


def findings(figures: Figures) -> list[Finding]:
    """Codes: those of a note, those of the onset, glide."""
    found = of_a_note(figures) + of_the_onset(figures)
    glide = figures.glide
    if glide is None:
        return found
    spans = {"span_semitones": glide.span_semitones, "evenness": glide.evenness_semitones}
    return [*found, Finding("glide", spans)]
