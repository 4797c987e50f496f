"""A hiss, and how its level swells."""

from scipy.ndimage import uniform_filter1d

from core.kinds.aim import Target
from core.kinds.hiss.figures import Swell
from core.kinds.sounding import Heard, Ways, sounding
from core.sound.figures import Figures
from core.sound.held import Region
from core.sound.hiss import hiss_level, hissing, longest_stretch
from core.sound.kernel import Frames
from core.sound.task_sound import TaskSound, cleared_voicing

_SMOOTH = 21
_LEAST_SWELL = 60


def measured(frames: Frames, target: Target | None, a4_hz: float) -> Figures:
    """The figures of a hiss: it has no pitch and no onset of a voice."""
    heard = hissing(frames)
    sound = TaskSound(heard, longest_stretch(heard), cleared_voicing(frames), hiss_level(frames))
    ways = Ways(pitched=False, onset=False, own=_own)
    return sounding("hiss", frames, sound, target, a4_hz, ways)


def _own(heard: Heard) -> Swell | None:
    return swell_of(heard.frames, heard.region)


def swell_of(frames: Frames, region: Region) -> Swell | None:
    """The rise and fall of a level smoothed over 0.2 s, its outer 0.1 s left out; None under 0.8 s."""
    level = frames.level_db[region.first + 10 : region.after - 10]
    if len(level) < _LEAST_SWELL:
        return None
    level = uniform_filter1d(level, _SMOOTH, mode="nearest")
    top = int(level.argmax())
    return Swell(
        rise_db=float(level[top] - level[: top + 1].min()),
        fall_db=float(level[top] - level[top:].min()),
        peak_at=top / (len(level) - 1),
    )
