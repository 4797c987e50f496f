"""What the figures of bubbles, hisses, patterns, speech and breath say, in order of weight."""

from core.reference.values import (
    HISS_LEVEL_SD,
    PATTERN_NOTE_OFF,
    PATTERN_TEMPO_SD,
    SHOUT_OVER_TARGET,
    SPEECH_OVER_TARGET,
    SPEECH_TRAIL_OFF,
    STRONG_ENOUGH,
    SWELL_LEAST,
)
from core.sound.figures import Figures
from core.sound.finding import Finding
from core.sound.task_figures import (
    Bubbles,
    Join,
    PacedBreath,
    SungPattern,
    Swell,
    TaskFigures,
)
from core.sound.task_figures import Speech as Spoken
from core.sound.tasks import LevelTarget

_SHOUTED_SHARE = 0.1
_OFF_PACE_SHARE = 0.15


def findings_of_task(figures: Figures) -> list[Finding]:
    """Codes: no_bubbles, bubble_stops, voice_stops, bubbling; uneven, swell, even; only_hiss,
    only_buzz, join_gap, joined; other_key, missing, added, off_notes, uneven_tempo, in_tune;
    shouted, under_target, over_target, phrases_fade, reading_rate; off_pace, on_pace."""
    own: TaskFigures | None = figures.own
    if isinstance(own, Bubbles):
        return _of_bubbles(figures, own)
    if isinstance(own, Join):
        return _of_join(own)
    if isinstance(own, SungPattern):
        return _of_pattern(own)
    if isinstance(own, Spoken):
        return _of_speech(own)
    if isinstance(own, PacedBreath):
        return _of_breath(own)
    return _of_hiss(figures, own if isinstance(own, Swell) else None)


def _spans(code: str, lengths_s: list[float]) -> list[Finding]:
    values = {"count": len(lengths_s), "longest_s": max(lengths_s, default=0.0)}
    return [Finding(code, values)] if lengths_s else []


def _of_bubbles(figures: Figures, own: Bubbles) -> list[Finding]:
    voice = [b.end_s - b.start_s for b in figures.breaks if b.kind == "gap"]
    found = _spans("voice_stops", voice)
    if own.rate_hz is None:
        return [Finding("no_bubbles"), *found]
    stops = _spans("bubble_stops", [end - start for start, end in own.stops])
    return [*stops, *found, Finding("bubbling", {"rate_hz": own.rate_hz})]


def _of_hiss(figures: Figures, swell: Swell | None) -> list[Finding]:
    if swell and min(swell.rise_db, swell.fall_db) >= SWELL_LEAST.number:
        return [Finding("swell", {"rise_db": swell.rise_db, "fall_db": swell.fall_db})]
    if figures.level_sd_db is None:
        return []
    uneven = figures.level_sd_db > HISS_LEVEL_SD.number
    return [Finding("uneven" if uneven else "even", {"level_sd_db": figures.level_sd_db})]


def _of_join(own: Join) -> list[Finding]:
    if own.gap_s is None:
        return [Finding("only_buzz" if own.buzz_s else "only_hiss")]
    return [Finding("join_gap", {"gap_s": own.gap_s})] if own.gap_s else [Finding("joined")]


def _of_pattern(own: SungPattern) -> list[Finding]:
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


def strength_of(figures: Figures, aim: LevelTarget | None) -> Finding | None:
    """How strong a strong hold or glide was: shouted, under_target or over_target, in dB over what is
    aimed at; None where nothing is aimed at, no level is known, or speech says it by its figures."""
    level_db = figures.level_mean_db
    if aim is None or aim.reference_db is None or aim.over_db is None or level_db is None:
        return None
    if isinstance(figures.own, Spoken):
        return None
    over_db = level_db - aim.reference_db - aim.over_db
    if over_db > SHOUT_OVER_TARGET.number:
        return Finding("shouted", {"over_db": over_db})
    enough = over_db >= -STRONG_ENOUGH.number
    return Finding("over_target" if enough else "under_target", {"over_db": over_db})


def _of_speech(own: Spoken) -> list[Finding]:
    found = []
    if own.shouted_share is not None and own.shouted_share > _SHOUTED_SHARE:
        found.append(Finding("shouted", {"percent": 100 * own.shouted_share}))
    if own.over_target_share is not None:
        kept = own.over_target_share >= SPEECH_OVER_TARGET.number
        code = "over_target" if kept else "under_target"
        found.append(Finding(code, {"percent": 100 * own.over_target_share}))
    if own.trail_off_db is not None and own.trail_off_db < -SPEECH_TRAIL_OFF.number:
        found.append(Finding("phrases_fade", {"trail_off_db": own.trail_off_db}))
    if own.words_a_minute is not None:
        found.append(Finding("reading_rate", {"words_a_minute": own.words_a_minute}))
    return found


def _of_breath(own: PacedBreath) -> list[Finding]:
    values = {"in_s": own.in_s or 0.0, "out_s": own.out_s or 0.0}
    longest = max(values.values())
    late = own.off_pace_s is not None and own.off_pace_s > _OFF_PACE_SHARE * longest
    return [Finding("off_pace" if late else "on_pace", values)]
