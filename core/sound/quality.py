"""Good, usable or not measurable, with the reasons in words."""

import numpy as np

from core.reason import Reason, says
from core.reference.values import NOISE_UNDER_VOICE
from core.sound.figures import CLIPPED, Quality, QualityVerdict
from core.sound.kernel import HOP, HOP_S, Frames
from core.sound.reading import CLIPPED_SHARE
from core.sound.settings.quality import QUALITY
from core.sound.task_sound import TaskSound

_CLIPPED = says(
    CLIPPED, "The sound is too loud for the microphone, so its level is not known: move back."
)
_TOO_QUIET = says("too_quiet", "The voice is very quiet: move closer.")
_NOISY = says("noisy", "The room noise is only {under_db:.0f} dB under the voice.")
_MORE_VOICES = says(
    "more_than_one_voice", "More than one voice was heard: only the held note was measured."
)
_NO_HOLD = says("no_hold", "Some voice was heard, but no held note.")
NOTHING_HEARD = says("nothing_heard", "No voice was heard.")


def judge(frames: Frames, sound: TaskSound) -> Quality:
    """How far the figures can be trusted."""
    if sound.region is None:
        return _nothing(sound)
    reasons: list[Reason] = []
    unusable = False
    inside = slice(sound.region.first, sound.region.after)
    own = sound.level_db[inside][sound.heard[inside]]
    level = float(np.median(own))
    clipped = float(frames.clipped[inside].sum()) / (len(frames.clipped[inside]) * HOP)
    if clipped > CLIPPED_SHARE:
        reasons.append(_CLIPPED())
    if level < QUALITY.quiet_db:
        reasons.append(_TOO_QUIET())
    room = room_level(sound)
    under = level - room
    if under < NOISE_UNDER_VOICE.number:
        unusable |= under < QUALITY.noise_too_near_db
        reasons.append(_NOISY(under_db=max(under, 0.0)))
    if _other_voice_s(sound, level) >= QUALITY.other_voice_s:
        reasons.append(_MORE_VOICES())
    if unusable:
        return Quality(QualityVerdict.NOT_MEASURABLE, tuple(reasons))
    return Quality(QualityVerdict.USABLE if reasons else QualityVerdict.GOOD, tuple(reasons))


def room_level(sound: TaskSound) -> float:
    """Median level in dBFS of what is not the task's sound, 0.1 s clear of it; −inf unknown."""
    clear = ~sound.heard & ~sound.voicing.voiced & (sound.level_db > QUALITY.digital_silence_db)
    if sound.region is not None:
        clear[max(sound.region.first - QUALITY.clear, 0) : sound.region.after + QUALITY.clear] = (
            False
        )
    return float(np.median(sound.level_db[clear])) if clear.sum() >= QUALITY.clear else -np.inf


def _nothing(sound: TaskSound) -> Quality:
    if sound.voicing.voiced.any():
        return Quality(QualityVerdict.USABLE, (_NO_HOLD(),))
    return Quality(QualityVerdict.USABLE, (NOTHING_HEARD(),))


def _other_voice_s(sound: TaskSound, level: float) -> float:
    """Seconds of voice clear of the attempt and not far under its level in dBFS."""
    other = sound.voicing.voiced & (sound.level_db > level - QUALITY.other_voice_under_db)
    if sound.region is not None:
        other[max(sound.region.first - QUALITY.clear, 0) : sound.region.after + QUALITY.clear] = (
            False
        )
    return float(other.sum()) * HOP_S
