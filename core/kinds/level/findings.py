"""Findings for speech, most important first."""

from core.kinds.finding import Finding
from core.kinds.level.figures import SpeechFigures
from core.kinds.level.settings import LOUDNESS
from core.reference.values import SPEECH_OVER_TARGET, SPEECH_TRAIL_OFF
from core.sound.figures import Figures


def findings(figures: Figures) -> list[Finding]:
    """Codes: shouted, under_target, over_target, phrases_fade, reading_rate."""
    own = figures.own
    if not isinstance(own, SpeechFigures):
        return []
    found = []
    if own.shouted_share is not None and own.shouted_share > LOUDNESS.shouted_share:
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
