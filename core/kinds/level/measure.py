"""Speech, counting, reading: level against the client's own, phrases and how they end, pitch, rate."""

from dataclasses import replace

import numpy as np
from scipy.ndimage import uniform_filter1d

from core.kinds.aim import AttemptTarget
from core.kinds.level.aim import LevelTarget
from core.kinds.level.figures import Phrase, SpeechFigures
from core.kinds.speech_phrases import Talk, commonest_hz, mean_db, talked, with_reason
from core.reason import says
from core.reference.values import FASTEST_READING, SHOUT_OVER_TARGET
from core.sound.figures import Figures
from core.sound.held import Region
from core.sound.kernel import HOP_S, Frames

_STOPPED_EARLY = says("stopped_early", "The reading seems to stop early: no rate.")

_TASK = "level"
_SMOOTH = round(0.5 / HOP_S)


def measured(frames: Frames, target: AttemptTarget | None, _a4_hz: float) -> Figures:
    """The figures of speech, counting or reading. Levels are those of the voiced frames, the room taken off."""
    aim = target if isinstance(target, LevelTarget) else None
    figures, talk = talked(frames, _TASK, aim.name if aim else None)
    if talk is None:
        return figures
    rate = _words_a_minute(aim, talk.seconds)
    quality = figures.quality
    if aim and aim.words and rate is None:
        quality = with_reason(quality, _STOPPED_EARLY())
    return replace(figures, quality=quality, own=_speech(talk, aim, rate))


def _speech(talk: Talk, target: LevelTarget | None, rate: float | None) -> SpeechFigures:
    power, heard = talk.power, talk.heard
    said = tuple(_phrase(power, heard, region) for region in talk.phrases)
    ends = [one.trail_off_db for one in said if one.trail_off_db is not None]
    reference = target.reference_db if target else None
    aimed = reference is not None and target is not None and target.over_db is not None
    wanted = (reference or 0.0) + (target.over_db or 0.0) if target else 0.0
    syllables = 10 * np.log10(_smoothed(power, heard)[heard])
    level_db = mean_db(power[heard])
    return SpeechFigures(
        phrases=said,
        voiced_s=talk.voiced_s,
        mode_hz=commonest_hz(talk.pitch[heard]),
        trail_off_db=float(np.median(ends)) if ends else None,
        over_reference_db=None if reference is None else level_db - reference,
        over_target_share=float((syllables >= wanted).mean()) if aimed else None,
        shouted_share=float((syllables > wanted + SHOUT_OVER_TARGET.number).mean())
        if aimed
        else None,
        words_a_minute=rate,
    )


def _smoothed(power: np.ndarray, heard: np.ndarray) -> np.ndarray:
    """Mean power of the voice in the half second around each frame: talk goes up and down with
    every syllable, a target does not."""
    own = uniform_filter1d(np.where(heard, power, 0.0), _SMOOTH)
    share = uniform_filter1d(heard.astype(float), _SMOOTH)
    return own / np.maximum(share, 1 / _SMOOTH)


def _phrase(power: np.ndarray, heard: np.ndarray, region: Region) -> Phrase:
    at = region.first + np.flatnonzero(heard[region.first : region.after])
    fifth = len(at) // 5
    return Phrase(
        start_s=region.first * HOP_S,
        end_s=region.after * HOP_S,
        level_db=mean_db(power[at]),
        trail_off_db=mean_db(power[at[-fifth:]]) - mean_db(power[at[:fifth]])
        if fifth >= 5
        else None,
    )


def _words_a_minute(target: LevelTarget | None, seconds: float) -> float | None:
    if target is None or not target.words:
        return None
    rate = target.words / seconds * 60
    return rate if rate <= FASTEST_READING.number else None
