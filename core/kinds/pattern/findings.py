"""Findings for a scale pattern, most important first."""

from core.kinds.finding import Finding
from core.kinds.pattern.figures import SungPattern
from core.reference.values import PATTERN_NOTE_OFF, PATTERN_TEMPO_SD
from core.sound.figures import Figures


def findings(figures: Figures) -> list[Finding]:
    """Codes: other_key, missing, added, off_notes, uneven_tempo, in_tune."""
    own = figures.own
    if not isinstance(own, SungPattern):
        return []
    found = []
    if own.key_semitones:
        found.append(Finding("other_key", {"semitones": own.key_semitones}))
    for code, count in (("missing", len(own.missing)), ("added", len(own.added))):
        if count:
            found.append(Finding(code, {"count": count}))
    off = [note.cents for note in own.notes if abs(note.cents) > PATTERN_NOTE_OFF.number]
    if off:
        worst = max(off, key=abs)
        found.append(Finding("off_notes", {"count": len(off), "worst_cents": worst}))
    sd = own.tempo_sd_percent
    if sd is not None and sd > PATTERN_TEMPO_SD.number:
        found.append(Finding("uneven_tempo", {"sd_percent": sd}))
    return found or [Finding("in_tune", {"count": len(own.notes)})]
