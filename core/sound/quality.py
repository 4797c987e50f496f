"""Good, usable or not measurable, with the reasons in words."""

import numpy as np

from core.reference.values import NOISE_UNDER_VOICE
from core.sound.figures import Quality, Reason, Verdict
from core.sound.kernel import HOP, Frames
from core.sound.reading import CLIPPED_SHARE
from core.sound.stretches import Stretch, voiced_frames

_NOISE_TOO_NEAR_DB = 5.0
_CLIPPED_TOO_MUCH = 0.05
_QUIET_DB = -55.0


def judge(frames: Frames, heard: np.ndarray, stretch: Stretch | None) -> Quality:
    """How far the figures can be trusted.

    heard: the task's own frames, shape (n,); stretch: the hold found in them, or None.
    """
    if stretch is None:
        return _nothing(frames)
    reasons: list[Reason] = []
    unusable = False
    inside = slice(stretch.first, stretch.last + 1)
    level = float(np.median(frames.level_db[inside]))
    clipped = float(frames.clipped[inside].sum()) / ((stretch.last - stretch.first + 1) * HOP)
    if clipped > CLIPPED_SHARE:
        unusable |= clipped > _CLIPPED_TOO_MUCH
        reasons.append(Reason("clipped", "The sound is too loud for the microphone: move back."))
    if level < _QUIET_DB:
        reasons.append(Reason("too_quiet", "The voice is very quiet: move closer."))
    noise = _noise_around(frames, heard, stretch)
    if noise is not None and level - noise < NOISE_UNDER_VOICE.number:
        under = max(level - noise, 0.0)
        unusable |= under < _NOISE_TOO_NEAR_DB
        text = f"The room noise is only {under:.0f} dB under the voice."
        reasons.append(Reason("noisy", text))
    if unusable:
        return Quality(Verdict.NOT_MEASURABLE, tuple(reasons))
    return Quality(Verdict.USABLE if reasons else Verdict.GOOD, tuple(reasons))


def _nothing(frames: Frames) -> Quality:
    if voiced_frames(frames).any():
        return Quality(
            Verdict.USABLE, (Reason("no_hold", "Some voice was heard, but no held note."),)
        )
    return Quality(Verdict.USABLE, (Reason("nothing_heard", "No voice was heard."),))


def _noise_around(frames: Frames, heard: np.ndarray, stretch: Stretch) -> float | None:
    """Median level in dBFS of the frames clear of the hold by 0.1 s; None if there are too few."""
    clear = ~heard
    clear[max(stretch.first - 10, 0) : stretch.last + 11] = False
    return float(np.median(frames.level_db[clear])) if clear.sum() >= 10 else None
