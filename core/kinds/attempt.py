"""From all frames of an attempt to its figures; runs once, at stop."""

from collections.abc import Sequence
from dataclasses import replace

from core.kinds.aim import AttemptTarget
from core.kinds.registry import kind_of
from core.kinds.settings import LOST
from core.reason import says
from core.sound.figures import Figures, Quality, QualityVerdict
from core.sound.kernel import HOP_S, Frames
from core.sound.losses import Loss
from core.sound.task_sound import cleared_voicing

LOST_SOUND = says(
    "device_lost_sound", "The device lost sound {times}×: close other programs, then try again."
)


def figures(
    frames: Frames,
    task: str,
    *,
    target: AttemptTarget | None = None,
    a4_hz: float = 440.0,
    losses: Sequence[Loss] = (),
) -> Figures:
    """The numbers of one attempt.

    frames: the kernel's frames of the whole sound; target: what was aimed at, if anything; a4_hz:
    concert pitch in Hz; losses: where the device lost sound: then nothing is said of the voice, for
    what was cut may be anything. Never raises for what was done: silence gives hold_s 0, unusable sound
    None.
    """
    kind = kind_of(task)
    found = kind.measured(frames, target, a4_hz)
    losses = _in_the_voice(losses, frames, voiced=kind.voiced) if losses else ()
    if losses:
        return _lost(found, losses)
    return without_level(found) if found.quality.clipped else found


def _in_the_voice(losses: Sequence[Loss], frames: Frames, *, voiced: bool) -> Sequence[Loss]:
    """The losses with voice before and after them. In tasks without voice, the losses of zeros."""
    if not voiced:
        return [loss for loss in losses if loss.seconds]
    voice = cleared_voicing(frames).voiced

    def voice_at(from_s: float, to_s: float) -> bool:
        first, after = max(int(from_s / HOP_S), 0), int(to_s / HOP_S) + 1
        return bool(voice[first:after].any())

    return [
        loss
        for loss in losses
        if voice_at(loss.at_s - LOST.beside_s, loss.at_s)
        and voice_at(loss.at_s + loss.seconds, loss.at_s + loss.seconds + LOST.beside_s)
    ]


def _lost(found: Figures, losses: Sequence[Loss]) -> Figures:
    reason = LOST_SOUND(times=len(losses))
    return Figures(
        task=found.task,
        target=found.target,
        quality=Quality(QualityVerdict.NOT_MEASURABLE, (reason,)),
        contour=found.contour,
        hold_s=None,
    )


def without_level(found: Figures) -> Figures:
    """The figures without levels: a sound at full scale keeps its time and pitch."""
    own = found.own.without_levels() if found.own else None
    return replace(
        found,
        own=own,
        level_mean_db=None,
        level_sd_db=None,
        slope_db_per_s=None,
        trail_off_db=None,
    )
