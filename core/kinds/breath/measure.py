"""Breathing in and out at a pace, where it can be heard."""

import numpy as np
from scipy.ndimage import uniform_filter1d

from core.kinds.aim import AttemptTarget
from core.kinds.breath.aim import PaceTarget
from core.kinds.breath.figures import PacedBreath
from core.kinds.breath.settings import BREATH
from core.reason import says
from core.sound.figures import Contour, Figures, Quality, QualityVerdict
from core.sound.kernel import BANDS_HZ, HOP_S, Frames
from core.sound.task_figures import Span
from core.sound.task_sound import cleared_voicing
from core.sound.voicing import Voicing, runs

_VOICE_NOT_BREATH = says("voice_not_breath", "Voice was heard, not breath.")
_INAUDIBLE = says(
    "breath_inaudible", "The breath cannot be heard here: count it, or use the stopwatch."
)

_FROM, _TO = BANDS_HZ.index(450), BANDS_HZ.index(5_500)
_TASK = "breath"


def measured(frames: Frames, target: AttemptTarget | None, _a4_hz: float) -> Figures:
    """The figures of paced breath."""
    pace = target if isinstance(target, PaceTarget) else None
    return breathed(frames, cleared_voicing(frames), pace)


def breathed(frames: Frames, voicing: Voicing, target: PaceTarget | None) -> Figures:
    """The breaths of a sound. Not measurable where fewer than two can be heard over the room."""
    curve = Contour(f0_hz=np.full(len(frames), np.nan), level_db=frames.level_db)
    name = target.name if target else None
    found = _breaths(frames, voicing)
    if len(found) < 2:
        return Figures(
            task=_TASK,
            target=name,
            quality=_inaudible(voicing),
            contour=curve,
            hold_s=None,
        )
    own = _by_turns(found, target)
    return Figures(
        task=_TASK,
        target=name,
        quality=Quality(QualityVerdict.GOOD),
        contour=curve,
        hold_s=found[-1][1] - found[0][0],
        onset_s=found[0][0],
        offset_s=found[-1][1],
        own=own,
    )


def _breaths(frames: Frames, voicing: Voicing) -> list[Span]:
    """Stretches of breath noise from 0.4 s, parted by quiet of 0.12 s and more."""
    if not len(frames):
        return []
    power = (10 ** (frames.bands_db[:, _FROM:_TO] / 10)).sum(axis=1)
    level = 10 * np.log10(uniform_filter1d(power, BREATH.smoothed, mode="nearest") + 1e-12)
    room = float(np.percentile(level, BREATH.room_percentile))
    over = (level > room + BREATH.over_room_db) & ~_voice(voicing)
    joined: list[list[int]] = []
    for first, after in runs(over):
        if joined and first - joined[-1][1] < BREATH.shortest_quiet:
            joined[-1][1] = after
        else:
            joined.append([first, after])
    spans = []
    for first, after in joined:
        own = level[first:after]
        loud = first + np.flatnonzero(own > np.median(own) - BREATH.under_own_db)
        if (loud[-1] - loud[0]) * HOP_S >= BREATH.shortest_s:
            spans.append((float(loud[0]) * HOP_S, float(loud[-1] + 1) * HOP_S))
    return spans


def _voice(voicing: Voicing) -> np.ndarray:
    """Frames of real voice, (n,) bool: breath in a narrow mouth may sound voiced for a moment."""
    voice = np.zeros(len(voicing.level_db), dtype=bool)
    for first, after in runs(voicing.voiced):
        if (
            after - first >= BREATH.least_voice
            and voicing.regularity[first:after].mean() > BREATH.regular_from
        ):
            voice[first:after] = True
    return voice


def _by_turns(found: list[Span], target: PaceTarget | None) -> PacedBreath:
    """In and out by turns; which comes first is told by the pace, else a breath in."""
    ways = [(tuple(found[0::2]), tuple(found[1::2])), (tuple(found[1::2]), tuple(found[0::2]))]
    own = [
        PacedBreath(
            ins=ins,
            outs=outs,
            in_s=_middle(ins),
            out_s=_middle(outs),
            off_pace_s=_off(_middle(ins), _middle(outs), target),
        )
        for ins, outs in ways
    ]
    if target is None or target.in_s == target.out_s:
        return own[0]
    return min(own, key=lambda one: one.off_pace_s or 0.0)


def _middle(spans: tuple[Span, ...]) -> float | None:
    return float(np.median([end - start for start, end in spans])) if spans else None


def _off(in_s: float | None, out_s: float | None, target: PaceTarget | None) -> float | None:
    if target is None or in_s is None or out_s is None:
        return None
    return max(abs(in_s - target.in_s), abs(out_s - target.out_s))


def _inaudible(voicing: Voicing) -> Quality:
    if _voice(voicing).mean() > BREATH.most_voiced if len(voicing.level_db) else False:
        return Quality(QualityVerdict.NOT_MEASURABLE, (_VOICE_NOT_BREATH(),))
    return Quality(QualityVerdict.NOT_MEASURABLE, (_INAUDIBLE(),))
