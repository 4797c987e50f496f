"""The notes of a scale pattern, and how they are measured."""

import numpy as np

from core.kinds.aim import AttemptTarget
from core.kinds.pattern.aim import PatternTarget
from core.kinds.pattern.figures import SungPattern
from core.kinds.pattern.notes import pattern_of
from core.kinds.pattern.settings import NOTES
from core.kinds.sound_figures import Heard, Ways, sounding
from core.sound.figures import Figures
from core.sound.kernel import Frames
from core.sound.task_sound import sound_going_on


def measured(frames: Frames, target: AttemptTarget | None, a4_hz: float) -> Figures:
    """The figures of a pattern; its silences are breaths, not breaks."""
    sound = sound_going_on(
        frames, longest_gap_s=NOTES.longest_pause_s, widest_step=NOTES.widest_step
    )
    ways = Ways(least_gap_s=np.inf, own=_own)
    return sounding("pattern", frames, sound, target, a4_hz, ways)


def _own(heard: Heard) -> SungPattern:
    wanted = heard.target.notes if isinstance(heard.target, PatternTarget) else ()
    sung = np.where(heard.sound.heard, heard.sound.voicing.semitones, np.nan)
    return pattern_of(sung, heard.region, wanted, heard.a4_hz)
