"""Measures a long level hum as a held voice whose level matters as much as its pitch."""

from core.kinds.aim import AttemptTarget
from core.kinds.held_voice import held_voice
from core.kinds.sound_figures import Ways, sounding
from core.sound.figures import Figures
from core.sound.kernel import Frames


def measured(frames: Frames, target: AttemptTarget | None, a4_hz: float) -> Figures:
    """Figures of a hum: length, level with SD and trail-off, pitch with SD, breaks."""
    return sounding("hum", frames, held_voice(frames), target, a4_hz, Ways(jumps=True, tremor=True))
