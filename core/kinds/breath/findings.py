"""What the figures of paced breath say."""

from core.kinds.breath.figures import PacedBreath
from core.kinds.breath.settings import BREATH
from core.kinds.finding import Finding
from core.sound.figures import Figures


def findings(figures: Figures) -> list[Finding]:
    """Codes: off_pace, on_pace."""
    own = figures.own
    if not isinstance(own, PacedBreath):
        return []
    values = {"in_s": own.in_s or 0.0, "out_s": own.out_s or 0.0}
    longest = max(values.values())
    late = own.off_pace_s is not None and own.off_pace_s > BREATH.off_pace_share * longest
    return [Finding("off_pace" if late else "on_pace", values)]
