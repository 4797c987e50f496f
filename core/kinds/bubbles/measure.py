"""A voice through a tube in water, which bubbles make irregular, and how it is measured."""

import numpy as np

from core.kinds.aim import AttemptTarget
from core.kinds.bubbles.aim import AirOnly
from core.kinds.bubbles.bubble_rate import bubbles_in
from core.kinds.bubbles.figures import Bubbling
from core.kinds.bubbles.settings import IN_WATER
from core.kinds.sound_figures import Heard, Ways, sounding
from core.sound.figures import Figures
from core.sound.held import Region, voice_runs
from core.sound.hiss import longest_stretch
from core.sound.kernel import HOP_S, Frames
from core.sound.settings.held import HELD
from core.sound.settings.hiss import HISS
from core.sound.task_sound import TaskSound, cleared, cleared_voicing, found_in, home_of
from core.sound.voicing import Voicing, voicing_of


def measured(frames: Frames, target: AttemptTarget | None, a4_hz: float) -> Figures:
    """The figures of a voice through a tube in water."""
    if isinstance(target, AirOnly):
        ways = Ways(pitched=False, onset=False, least_gap_s=np.inf, own=_own)
        return sounding("bubbles", frames, _air(frames), target, a4_hz, ways)
    ways = Ways(least_gap_s=IN_WATER.least_gap_s, own=_own)
    return sounding("bubbles", frames, _found(frames), target, a4_hz, ways)


def _own(heard: Heard) -> Bubbling:
    return bubbles_in(heard.frames, heard.onset_s, heard.offset_s)


def _air(frames: Frames) -> TaskSound:
    """Bubbles without a voice: the longest stretch that stands out of the room, over the silences
    between bubbles and stops under 0.8 s."""
    voicing = cleared_voicing(frames)
    level = frames.level_db
    room = float(np.percentile(level, IN_WATER.room_percentile)) if len(level) else 0.0
    peak = float(np.percentile(level, IN_WATER.loudest_percentile)) if len(level) else 0.0
    loud = level > max(
        room + IN_WATER.over_room_db, peak - IN_WATER.goes_on_under_db, HISS.quietest_db
    )
    region = longest_stretch(loud, gap_s=IN_WATER.longest_stop_s)
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
    room = float(np.percentile(frames.level_db, IN_WATER.room_percentile)) + IN_WATER.over_room_db
    least = min(usual - IN_WATER.goes_on_under_db, room)
    joined: list[Region] = []
    for first, after in runs_of_voice:
        if joined:
            gap = slice(joined[-1].after, first)
            silent = first - joined[-1].after
            lasting = silent and frames.level_db[gap].min() > least
            longest_s = IN_WATER.longest_voiceless_s if lasting else IN_WATER.longest_stop_s
            if silent * HOP_S < longest_s:
                joined[-1] = Region(joined[-1].first, after)
                continue
        joined.append(Region(first, after))
    best = max(joined, key=lambda region: region.seconds)
    loud = frames.level_db > max(usual - IN_WATER.goes_on_under_db, room)
    first, after = best.first, best.after
    while first > max(best.first - IN_WATER.reach, 0) and loud[first - 1]:
        first -= 1
    while after < min(best.after + IN_WATER.reach, len(loud)) and loud[after]:
        after += 1
    return Region(first, after) if best.seconds >= HELD.shortest_hold_s else None
