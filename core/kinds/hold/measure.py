"""One held note, and how it is measured."""

from core.kinds.aim import AttemptTarget
from core.kinds.held_voice import held_voice
from core.kinds.sound_figures import Ways, sounding
from core.sound.figures import Figures
from core.sound.kernel import Frames


def measured(frames: Frames, target: AttemptTarget | None, a4_hz: float) -> Figures:
    """The figures of a held note."""
    ways = Ways(jumps=True, tremor=True)
    return sounding("hold", frames, held_voice(frames), target, a4_hz, ways)
