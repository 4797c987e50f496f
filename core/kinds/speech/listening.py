"""Speech, counting, reading: level against the client's own, phrases and how they end, pitch, rate."""

import numpy as np
from scipy.ndimage import gaussian_filter1d, uniform_filter1d

from core.kinds.aim import Target
from core.kinds.speech.aim import LevelTarget
from core.kinds.speech.figures import Phrase, Spoken
from core.reason import Reason, says
from core.reference.values import FASTEST_READING, PHRASE_PAUSE, SHOUT_OVER_TARGET
from core.sound.figures import Contour, Figures, Quality, Verdict
from core.sound.held import Region, held_regions
from core.sound.kernel import HOP_S, Frames
from core.sound.quality import NOTHING_HEARD, judge, room_level
from core.sound.task_sound import TaskSound, cleared_voicing
from core.sound.voicing import Voicing, runs

_NO_VOICE = says(
    "no_voice", "Sound was heard, but hardly any voice: whispering and clapping are not measured."
)
_STOPPED_EARLY = says("stopped_early", "The reading seems to stop early: no rate.")
_WHISPERED = says("whispered", "Hardly any voice in this: it may be whispered.")
_NOT_SPEECH = says("not_speech", "This is held notes or music, not speech.")

LONGEST_PAUSE_S = 5.0
_TASK = "level"
_OVER_ROOM_DB = 8.0
_UNDER_PEAK_DB = 32.0
_SHORTEST_PHRASE_S = 0.3
_LEAST_VOICED_S = 0.3
_LEAST_VOICED_SHARE = 0.12
_HELD_SHARE = 0.6
_SMOOTH = round(0.5 / HOP_S)
_MODE_SD = 4
_MODE_GRID = 0.125


def measured(frames: Frames, target: Target | None, _a4_hz: float) -> Figures:
    """The figures of speech, counting or reading."""
    aim = target if isinstance(target, LevelTarget) else None
    return spoken(frames, cleared_voicing(frames), aim)


def spoken(frames: Frames, voicing: Voicing, target: LevelTarget | None) -> Figures:
    """All figures of speech. Levels are those of the voiced frames, the room taken off."""
    peak = float(np.percentile(frames.level_db, 98)) if len(frames) else -120.0
    room = float(np.percentile(frames.level_db, 10)) if len(frames) else -120.0
    active = frames.level_db > max(room + _OVER_ROOM_DB, peak - _UNDER_PEAK_DB)
    voiced = voicing.voiced & active
    phrases = [r for r in _phrases(active) if voiced[r.first : r.after].sum() >= 10]
    heard = np.zeros(len(frames), dtype=bool)
    for phrase in phrases:
        heard[phrase.first : phrase.after] = voiced[phrase.first : phrase.after]
    name = target.name if target else None
    pitch_hz = np.where(heard, 2 ** (voicing.semitones / 12), np.nan)
    curve = Contour(f0_hz=pitch_hz, level_db=frames.level_db)
    if heard.sum() * HOP_S < _LEAST_VOICED_S:
        return Figures(
            task=_TASK,
            target=name,
            quality=_silent(active),
            contour=curve,
            hold_s=0.0,
        )
    whole = Region(phrases[0].first, phrases[-1].after)
    sound = TaskSound(heard, whole, voicing, frames.level_db)
    quality = _judged(judge(frames, sound), active, voiced, voicing)
    if quality.verdict is Verdict.NOT_MEASURABLE:
        return Figures(task=_TASK, target=name, quality=quality, contour=curve, hold_s=None)
    room_db = room_level(sound)
    power = _own_power(frames, room_db)
    rate = _words_a_minute(target, whole.seconds)
    if target and target.words and rate is None:
        quality = _with(quality, _STOPPED_EARLY())
    pitch = voicing.semitones[heard]
    mean_db = _mean_db(power[heard])
    return Figures(
        task=_TASK,
        target=name,
        quality=quality,
        contour=curve,
        hold_s=whole.seconds,
        onset_s=whole.first * HOP_S,
        offset_s=whole.after * HOP_S,
        f0_median_hz=float(2 ** (np.median(pitch) / 12)),
        f0_sd_semitones=float(pitch.std()),
        level_mean_db=mean_db,
        level_sd_db=float((10 * np.log10(power[heard])).std()),
        room_db=room_db if np.isfinite(room_db) else None,
        own=_speech(power, pitch, heard, phrases, target, mean_db, rate),
    )


def _phrases(active: np.ndarray) -> list[Region]:
    joined: list[Region] = []
    for first, after in runs(active):
        if joined and (first - joined[-1].after) * HOP_S < PHRASE_PAUSE.number:
            joined[-1] = Region(joined[-1].first, after)
        else:
            joined.append(Region(first, after))
    return [r for r in joined if r.seconds >= _SHORTEST_PHRASE_S]


def _own_power(frames: Frames, room: float) -> np.ndarray:
    power = 10 ** (frames.level_db / 10)
    return np.maximum(power - 10 ** (room / 10), 0.1 * power)


def _mean_db(power: np.ndarray) -> float:
    return float(10 * np.log10(power.mean()))


def _speech(
    power: np.ndarray,
    pitch: np.ndarray,
    heard: np.ndarray,
    phrases: list[Region],
    target: LevelTarget | None,
    mean_db: float,
    rate: float | None,
) -> Spoken:
    said = tuple(_phrase(power, heard, region) for region in phrases)
    ends = [one.trail_off_db for one in said if one.trail_off_db is not None]
    reference = target.reference_db if target else None
    aimed = reference is not None and target is not None and target.over_db is not None
    wanted = (reference or 0.0) + (target.over_db or 0.0) if target else 0.0
    syllables = 10 * np.log10(_smoothed(power, heard)[heard])
    return Spoken(
        phrases=said,
        voiced_s=float(heard.sum()) * HOP_S,
        mode_hz=_mode_hz(pitch),
        trail_off_db=float(np.median(ends)) if ends else None,
        over_reference_db=None if reference is None else mean_db - reference,
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
        level_db=_mean_db(power[at]),
        trail_off_db=_mean_db(power[at[-fifth:]]) - _mean_db(power[at[:fifth]])
        if fifth >= 5
        else None,
    )


def _mode_hz(semitones: np.ndarray) -> float | None:
    """The commonest pitch: top of the histogram in eighths of a semitone, smoothed by half one."""
    bins = np.rint(semitones / _MODE_GRID).astype(int)
    counts = gaussian_filter1d(np.bincount(bins).astype(float), _MODE_SD)
    return float(2 ** (counts.argmax() * _MODE_GRID / 12))


def _words_a_minute(target: LevelTarget | None, seconds: float) -> float | None:
    if target is None or not target.words:
        return None
    rate = target.words / seconds * 60
    return rate if rate <= FASTEST_READING.number else None


def _silent(active: np.ndarray) -> Quality:
    if active.sum() * HOP_S >= _LEAST_VOICED_S:
        return Quality(Verdict.USABLE, (_NO_VOICE(),))
    return Quality(Verdict.USABLE, (NOTHING_HEARD(),))


def _judged(quality: Quality, active: np.ndarray, voiced: np.ndarray, voicing: Voicing) -> Quality:
    if voiced.sum() < _LEAST_VOICED_SHARE * active.sum():
        quality = Quality(Verdict.NOT_MEASURABLE, (*quality.reasons, _WHISPERED()))
    held = sum(region.after - region.first for region in held_regions(voicing))
    if held > _HELD_SHARE * voiced.sum():
        quality = _with(quality, _NOT_SPEECH())
    return quality


def _with(quality: Quality, reason: Reason) -> Quality:
    verdict = Verdict.USABLE if quality.verdict is Verdict.GOOD else quality.verdict
    return Quality(verdict, (*quality.reasons, reason))
