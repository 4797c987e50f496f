"""A swell on one note, and how it is measured."""

from core.kinds.aim import AttemptTarget
from core.kinds.held_voice import held_voice
from core.kinds.sound_figures import Ways, sounding
from core.kinds.swell_figures import swell_in
from core.sound.figures import Figures
from core.sound.kernel import Frames


def measured(frames: Frames, target: AttemptTarget | None, a4_hz: float) -> Figures:
    """The figures of a held note, and how its level rises and falls."""
    ways = Ways(jumps=True, tremor=True, own=swell_in)
    return sounding("swell", frames, held_voice(frames), target, a4_hz, ways)
