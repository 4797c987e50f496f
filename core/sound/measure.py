"""From all frames of an attempt to its figures; runs once, at stop."""

from core.sound.breath import breathed
from core.sound.figures import Figures
from core.sound.hold import held
from core.sound.kernel import Frames
from core.sound.speech import spoken
from core.sound.task_sound import cleared_voicing
from core.sound.tasks import LevelTarget, Measured, PaceTarget, Target


def figures(
    frames: Frames, task: Measured, *, target: Target | None = None, a4_hz: float = 440.0
) -> Figures:
    """The numbers of one attempt.

    frames: the kernel's frames of the whole sound; target: what was aimed at, if anything; a4_hz:
    concert pitch in Hz. Never raises for what was done: silence gives hold_s 0, unusable sound
    None.
    """
    if task is Measured.LEVEL:
        aim = target if isinstance(target, LevelTarget) else None
        return spoken(frames, cleared_voicing(frames), aim)
    if task is Measured.BREATH:
        pace = target if isinstance(target, PaceTarget) else None
        return breathed(frames, cleared_voicing(frames), pace)
    return held(frames, task, target, a4_hz)
