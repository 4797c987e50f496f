"""A hiss that turns into a buzz, and how it is measured."""

import numpy as np

from core.kinds.aim import AttemptTarget
from core.kinds.sound_figures import Heard, Ways, sounding
from core.kinds.sz.figures import Joined
from core.kinds.sz.settings import JOIN
from core.kinds.sz.switch import join_of
from core.sound.figures import Figures
from core.sound.held import Region
from core.sound.hiss import hissing, longest_stretch
from core.sound.kernel import Frames
from core.sound.settings.hiss import HISS
from core.sound.task_sound import TaskSound, cleared_voicing
from core.sound.voicing import Voicing, flutter_cents


def measured(frames: Frames, target: AttemptTarget | None, a4_hz: float) -> Figures:
    """The figures of a hiss and the buzz it turns into."""
    voicing = cleared_voicing(frames)
    heard, region = hiss_and_buzz(frames, voicing)
    sound = TaskSound(heard, region, voicing, frames.level_db)
    return sounding("sz", frames, sound, target, a4_hz, Ways(onset=False, own=_own))


def _own(heard: Heard) -> Joined:
    frames = heard.frames
    return join_of(frames, hissing(frames), heard.sound.voicing.voiced, heard.region)


def hiss_and_buzz(frames: Frames, voicing: Voicing) -> tuple[np.ndarray, Region | None]:
    """Frames of the two sounds, and the stretch they make over silences under 0.6 s; None where
    there is no hiss and the buzz is a tone as still as no voice is."""
    hisses = hissing(frames)
    heard = hisses | voicing.voiced
    region = longest_stretch(heard, gap_s=JOIN.longest_silence_s)
    if region is not None and hisses[region.first : region.after].sum() < HISS.least_run:
        own = voicing.semitones[region.first + HISS.least_run : region.after - HISS.least_run]
        if flutter_cents(own) < JOIN.stillest_voice_cents:
            return heard, None
    return heard, region
