"""What the figures of a hold say, in order of weight; the words for each reader are elsewhere."""

from core.reference.values import HOLD_PITCH_SD, HOLD_TRAIL_OFF
from core.sound.figures import Figures
from core.sound.finding import Finding
from core.sound.task_findings import findings_of_task
from core.sound.tasks import Measured

OFF_THE_NOTE_CENTS = 50.0
ANOTHER_OCTAVE_CENTS = 900.0


def findings(figures: Figures) -> list[Finding]:
    """Codes: other_octave, off_note, gaps, jumps, faded, unsteady, tremor, hard_onset,
    breathy_onset, glide, steady, and those of `task_findings`. Nothing is said of an attempt
    without its own sound."""
    if not figures.hold_s:
        return []
    if figures.task not in (Measured.HOLD, Measured.GLIDE):
        return findings_of_task(figures)
    found = _of_pitch(figures) + _of_breaks(figures)
    if figures.trail_off_db is not None and figures.trail_off_db < -HOLD_TRAIL_OFF.number:
        found.append(Finding("faded", {"trail_off_db": figures.trail_off_db}))
    found += _of_steadiness(figures)
    if figures.onset in ("hard", "breathy"):
        found.append(Finding(f"{figures.onset}_onset"))
    if figures.glide:
        glide = figures.glide
        spans = {"span_semitones": glide.span_semitones, "evenness": glide.evenness_semitones}
        found.append(Finding("glide", spans))
    return found


def _of_pitch(figures: Figures) -> list[Finding]:
    error = figures.pitch_error_cents
    if error is None or abs(error) <= OFF_THE_NOTE_CENTS:
        return []
    if abs(error) >= ANOTHER_OCTAVE_CENTS:
        return [Finding("other_octave", {"octaves": round(error / 1200) or error / abs(error)})]
    return [Finding("off_note", {"cents": error})]


def _of_breaks(figures: Figures) -> list[Finding]:
    gaps = [b.end_s - b.start_s for b in figures.breaks if b.kind == "gap"]
    jumps = sum(b.kind == "jump" for b in figures.breaks)
    found = [Finding("gaps", {"count": len(gaps), "longest_s": max(gaps)})] if gaps else []
    return found + ([Finding("jumps", {"count": jumps})] if jumps else [])


def _of_steadiness(figures: Figures) -> list[Finding]:
    if figures.glide:
        return []
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
