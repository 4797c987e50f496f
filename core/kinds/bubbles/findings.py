"""Findings for bubbles, most important first."""

from core.kinds.bubbles.figures import Bubbling
from core.kinds.finding import Finding
from core.sound.figures import Figures


def findings(figures: Figures) -> list[Finding]:
    """Codes: no_bubbles, bubble_stops, voice_stops, bubbling."""
    own = figures.own
    if not isinstance(own, Bubbling):
        return []
    found = _stops("voice_stops", [b.end_s - b.start_s for b in figures.breaks if b.kind == "gap"])
    if own.rate_hz is None:
        return [Finding("no_bubbles"), *found]
    stops = _stops("bubble_stops", [end - start for start, end in own.stops])
    return [*stops, *found, Finding("bubbling", {"rate_hz": own.rate_hz})]


def _stops(code: str, lengths_s: list[float]) -> list[Finding]:
    values = {"count": len(lengths_s), "longest_s": max(lengths_s, default=0.0)}
    return [Finding(code, values)] if lengths_s else []
