"""Findings for phrases near a note, most important first."""

from statistics import median

from core.kinds.finding import Finding
from core.kinds.near.figures import NearPhrases
from core.reference.values import PHRASES_NEAR_SHARE
from core.sound.figures import Figures


def findings(figures: Figures) -> list[Finding]:
    """Codes: few_phrases (count, asked), off_target (near, count, semitones: the middle of those that are
    not near), near_target (near, count)."""
    own = figures.own
    if not isinstance(own, NearPhrases) or not own.phrases:
        return []
    count = len(own.phrases)
    found = []
    if own.asked is not None and count < own.asked:
        found.append(Finding("few_phrases", {"count": count, "asked": own.asked}))
    off = [one.off_semitones for one in own.phrases if one.off_semitones is not None]
    if not off:
        return found
    near = own.near_count
    if 100 * near >= PHRASES_NEAR_SHARE.number * count:
        return [*found, Finding("near_target", {"near": near, "count": count})]
    far = [
        one.off_semitones for one in own.phrases if one.off_semitones is not None and not one.near
    ]
    values = {"near": near, "count": count, "semitones": median(far)}
    return [Finding("off_target", values), *found]
