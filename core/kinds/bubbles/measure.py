"""A voice through a tube in water, which bubbles make irregular, and how it is measured."""

import numpy as np

from core.kinds.aim import AttemptTarget
from core.kinds.bubbles.aim import AirOnly
from core.kinds.bubbles.bubble_rate import bubbles_in
from core.kinds.bubbles.figures import Bubbling
from core.kinds.sound_figures import Heard, Ways, sounding
from core.sound.figures import Figures
from core.sound.held import Region, voice_runs
from core.sound.hiss import longest_stretch
from core.sound.kernel import HOP_S, Frames
from core.sound.settings.held import HELD
from core.sound.settings.hiss import HISS
from core.sound.task_sound import TaskSound, cleared, cleared_voicing, found_in, home_of
from core.sound.voicing import Voicing, voicing_of

# In a tube voice and bubbles stop and go on; that is a stop of one attempt, not another attempt.
_LONGEST_VOICELESS_S, _LONGEST_STOP_S = 1.5, 0.8
_GOES_ON_UNDER_DB = 22.0
_ROOM_PERCENTILE, _OVER_ROOM_DB, _REACH = 10, 8.0, 25
# The voice among bubbles may be unheard for a moment.
_LEAST_GAP_S = 0.2
_LOUDEST_PERCENTILE = 95


def measured(frames: Frames, target: AttemptTarget | None, a4_hz: float) -> Figures:
    """The figures of a voice through a tube in water."""
    if isinstance(target, AirOnly):
        ways = Ways(pitched=False, onset=False, least_gap_s=np.inf, own=_own)
        return sounding("bubbles", frames, _air(frames), target, a4_hz, ways)
    ways = Ways(least_gap_s=_LEAST_GAP_S, own=_own)
    return sounding("bubbles", frames, _found(frames), target, a4_hz, ways)


def _own(heard: Heard) -> Bubbling:
    return bubbles_in(heard.frames, heard.onset_s, heard.offset_s)


def _air(frames: Frames) -> TaskSound:
    """Bubbles without a voice: the longest stretch that stands out of the room, over the silences
    between bubbles and stops under 0.8 s."""
    voicing = cleared_voicing(frames)
    level = frames.level_db
    room = float(np.percentile(level, _ROOM_PERCENTILE)) if len(level) else 0.0
    peak = float(np.percentile(level, _LOUDEST_PERCENTILE)) if len(level) else 0.0
    loud = level > max(room + _OVER_ROOM_DB, peak - _GOES_ON_UNDER_DB, HISS.quietest_db)
    region = longest_stretch(loud, gap_s=_LONGEST_STOP_S)
    heard = found_in([region] if region else [], len(frames))
    return TaskSound(heard, region, voicing, level)


def _found(frames: Frames) -> TaskSound:
    home = home_of(frames, cleared_voicing(frames))
    about_hz = None if home is None else 2 ** (home / 12)
    voicing = cleared(frames, voicing_of(frames, about_hz=about_hz))
    region = _sounding_on(frames, voicing)
    heard = found_in([region] if region else [], len(frames))
    return TaskSound(heard & voicing.voiced, region, voicing, frames.level_db)


def _sounding_on(frames: Frames, voicing: Voicing) -> Region | None:
    """The longest stretch of voice, over gaps under 0.8 s, or under 1.5 s in which bubbles or
    breath go on; with what of the sound lies up to 0.25 s around it."""
    runs_of_voice = voice_runs(voicing)
    if not runs_of_voice:
        return None
    usual = float(np.median(frames.level_db[voicing.voiced]))
    room = float(np.percentile(frames.level_db, _ROOM_PERCENTILE)) + _OVER_ROOM_DB
    least = min(usual - _GOES_ON_UNDER_DB, room)
    joined: list[Region] = []
    for first, after in runs_of_voice:
        if joined:
            gap = slice(joined[-1].after, first)
            silent = first - joined[-1].after
            lasting = silent and frames.level_db[gap].min() > least
            longest_s = _LONGEST_VOICELESS_S if lasting else _LONGEST_STOP_S
            if silent * HOP_S < longest_s:
                joined[-1] = Region(joined[-1].first, after)
                continue
        joined.append(Region(first, after))
    best = max(joined, key=lambda region: region.seconds)
    loud = frames.level_db > max(usual - _GOES_ON_UNDER_DB, room)
    first, after = best.first, best.after
    while first > max(best.first - _REACH, 0) and loud[first - 1]:
        first -= 1
    while after < min(best.after + _REACH, len(loud)) and loud[after]:
        after += 1
    return Region(first, after) if best.seconds >= HELD.shortest_hold_s else None
