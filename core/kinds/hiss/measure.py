"""A hiss, and how it is measured."""

from core.kinds.aim import AttemptTarget
from core.kinds.sound_figures import Ways, sounding
from core.kinds.swell_figures import swell_in
from core.sound.figures import Figures
from core.sound.hiss import hiss_level, hissing, longest_stretch
from core.sound.kernel import Frames
from core.sound.task_sound import TaskSound, cleared_voicing


def measured(frames: Frames, target: AttemptTarget | None, a4_hz: float) -> Figures:
    """The figures of a hiss: it has no pitch and no onset of a voice."""
    heard = hissing(frames)
    sound = TaskSound(heard, longest_stretch(heard), cleared_voicing(frames), hiss_level(frames))
    ways = Ways(pitched=False, onset=False, own=swell_in)
    return sounding("hiss", frames, sound, target, a4_hz, ways)
