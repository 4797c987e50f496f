"""A slide from note to note, and how it is measured."""

from core.kinds.aim import AttemptTarget
from core.kinds.glide.path import glide_of
from core.kinds.glide.settings import GLIDE
from core.kinds.sound_figures import Ways, sounding
from core.sound.figures import Figures
from core.sound.kernel import Frames
from core.sound.settings.held import HELD
from core.sound.task_sound import sound_going_on


def measured(frames: Frames, target: AttemptTarget | None, a4_hz: float) -> Figures:
    """The figures of a slide."""
    sound = sound_going_on(frames, longest_gap_s=HELD.longest_gap_s, widest_step=GLIDE.widest_step)
    return sounding("glide", frames, sound, target, a4_hz, Ways(path=glide_of))
