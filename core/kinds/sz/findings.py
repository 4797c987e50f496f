"""What the figures of a hiss that turns into a buzz say."""

from core.kinds.finding import Finding
from core.kinds.sz.figures import Joined
from core.sound.figures import Figures


def findings(figures: Figures) -> list[Finding]:
    """Codes: only_hiss, only_buzz, join_gap, joined."""
    own = figures.own
    if not isinstance(own, Joined):
        return []
    if own.gap_s is None:
        return [Finding("only_buzz" if own.buzz_s else "only_hiss")]
    return [Finding("join_gap", {"gap_s": own.gap_s})] if own.gap_s else [Finding("joined")]
