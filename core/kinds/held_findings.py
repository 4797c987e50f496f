"""What holds and glides say alike; the words for each reader are elsewhere."""

from core.kinds.finding import Finding
from core.kinds.settings import HELD_NOTE
from core.reference.values import HOLD_PITCH_SD, HOLD_TRAIL_OFF
from core.sound.figures import Figures


def of_a_note(figures: Figures) -> list[Finding]:
    """How far from the note, breaks, and how it faded: other_octave, off_note, gaps, jumps, faded."""
    found = of_pitch_and_breaks(figures)
    if figures.trail_off_db is not None and figures.trail_off_db < -HOLD_TRAIL_OFF.number:
        found.append(Finding("faded", {"trail_off_db": figures.trail_off_db}))
    return found


def of_pitch_and_breaks(figures: Figures) -> list[Finding]:
    """How far from the note, and where it broke: other_octave, off_note, gaps, jumps."""
    return _of_pitch(figures) + _of_breaks(figures)


def of_steadiness(figures: Figures) -> list[Finding]:
    """Codes: tremor, unsteady or steady."""
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


def of_the_onset(figures: Figures) -> list[Finding]:
    """Codes: hard_onset, breathy_onset."""
    hard = figures.onset in ("hard", "breathy")
    return [Finding(f"{figures.onset}_onset")] if hard else []


def _of_pitch(figures: Figures) -> list[Finding]:
    error = figures.pitch_error_cents
    if error is None or abs(error) <= HELD_NOTE.off_the_note_cents:
        return []
    if abs(error) >= HELD_NOTE.another_octave_cents:
        return [Finding("other_octave", {"octaves": round(error / 1200) or error / abs(error)})]
    return [Finding("off_note", {"cents": error})]


def _of_breaks(figures: Figures) -> list[Finding]:
    gaps = [b.end_s - b.start_s for b in figures.breaks if b.kind == "gap"]
    jumps = sum(b.kind == "jump" for b in figures.breaks)
    found = [Finding("gaps", {"count": len(gaps), "longest_s": max(gaps)})] if gaps else []
    return found + ([Finding("jumps", {"count": jumps})] if jumps else [])
