"""Speech as every kind of speech hears it: phrases and the pauses between, their voice, what is no speech."""

from dataclasses import dataclass

import numpy as np
from scipy.ndimage import gaussian_filter1d

from core.kinds.settings import SPEECH
from core.reason import Reason, says
from core.reference.values import PHRASE_PAUSE
from core.sound.figures import Contour, Figures, Quality, QualityVerdict
from core.sound.held import Region, held_regions
from core.sound.kernel import HOP_S, Frames
from core.sound.quality import NOTHING_HEARD, judge, room_level
from core.sound.task_sound import TaskSound, cleared_voicing
from core.sound.voicing import Voicing, runs

_NO_VOICE = says(
    "no_voice", "Sound was heard, but hardly any voice: whispering and clapping are not measured."
)
_WHISPERED = says("whispered", "Hardly any voice in this: it may be whispered.")
_NOT_SPEECH = says("not_speech", "This is held notes or music, not speech.")


@dataclass(frozen=True, slots=True)
class Talk:
    """Speech that can be measured: its phrases, which frames are voice of them, the power of every frame
    with the room taken off, its pitch in semitones above 1 Hz; heard, power, pitch of shape (frames,)."""

    phrases: list[Region]
    heard: np.ndarray
    power: np.ndarray
    pitch: np.ndarray

    @property
    def seconds(self) -> float:
        """From the first phrase to the end of the last."""
        return Region(self.phrases[0].first, self.phrases[-1].after).seconds

    @property
    def voiced_s(self) -> float:
        return float(self.heard.sum()) * HOP_S


def talked(frames: Frames, task: str, target: str | None) -> tuple[Figures, Talk | None]:
    """The figures any speech has, for a task and the name of its target, and the talk itself; None where
    nothing of it can be measured."""
    voicing = cleared_voicing(frames)
    peak = float(np.percentile(frames.level_db, SPEECH.peak_percentile)) if len(frames) else -120.0
    room = float(np.percentile(frames.level_db, SPEECH.room_percentile)) if len(frames) else -120.0
    active = frames.level_db > max(room + SPEECH.over_room_db, peak - SPEECH.under_peak_db)
    voiced = voicing.voiced & active
    phrases = [r for r in _phrases(active) if voiced[r.first : r.after].sum() >= SPEECH.least_voice]
    heard = np.zeros(len(frames), dtype=bool)
    for phrase in phrases:
        heard[phrase.first : phrase.after] = voiced[phrase.first : phrase.after]
    pitch_hz = np.where(heard, 2 ** (voicing.semitones / 12), np.nan)
    curve = Contour(f0_hz=pitch_hz, level_db=frames.level_db)
    if heard.sum() * HOP_S < SPEECH.least_voiced_s:
        silent = _silent(active)
        return Figures(task=task, target=target, quality=silent, contour=curve, hold_s=0.0), None
    whole = Region(phrases[0].first, phrases[-1].after)
    sound = TaskSound(heard, whole, voicing, frames.level_db)
    quality = _judged(judge(frames, sound), active, voiced, voicing)
    if quality.verdict is QualityVerdict.NOT_MEASURABLE:
        return Figures(task=task, target=target, quality=quality, contour=curve, hold_s=None), None
    room_db = room_level(sound)
    power = _own_power(frames, room_db)
    pitch = voicing.semitones[heard]
    figures = Figures(
        task=task,
        target=target,
        quality=quality,
        contour=curve,
        hold_s=whole.seconds,
        onset_s=whole.first * HOP_S,
        offset_s=whole.after * HOP_S,
        f0_median_hz=float(2 ** (np.median(pitch) / 12)),
        f0_sd_semitones=float(pitch.std()),
        level_mean_db=mean_db(power[heard]),
        level_sd_db=float((10 * np.log10(power[heard])).std()),
        room_db=room_db if np.isfinite(room_db) else None,
    )
    return figures, Talk(phrases, heard, power, voicing.semitones)


def commonest_hz(semitones: np.ndarray) -> float:
    """The commonest of some pitches (semitones above 1 Hz, shape (n,)), Hz: top of the histogram in eighths
    of a semitone, smoothed by half one."""
    bins = np.rint(semitones / SPEECH.pitch_step).astype(int)
    # nothing lies beyond the ends: mirrored there, the highest pitch would count twice
    counts = gaussian_filter1d(
        np.bincount(bins).astype(float), SPEECH.pitch_smoothed, mode="constant"
    )
    return float(2 ** (counts.argmax() * SPEECH.pitch_step / 12))


def mean_db(power: np.ndarray) -> float:
    """Mean level of some power, dB."""
    return float(10 * np.log10(power.mean()))


def with_reason(quality: Quality, reason: Reason) -> Quality:
    """One more reason not to call it good."""
    verdict = QualityVerdict.USABLE if quality.verdict is QualityVerdict.GOOD else quality.verdict
    return Quality(verdict, (*quality.reasons, reason))


def _phrases(active: np.ndarray) -> list[Region]:
    joined: list[Region] = []
    for first, after in runs(active):
        if joined and (first - joined[-1].after) * HOP_S < PHRASE_PAUSE.number:
            joined[-1] = Region(joined[-1].first, after)
        else:
            joined.append(Region(first, after))
    return [r for r in joined if r.seconds >= SPEECH.shortest_phrase_s]


def _own_power(frames: Frames, room: float) -> np.ndarray:
    power = 10 ** (frames.level_db / 10)
    return np.maximum(power - 10 ** (room / 10), SPEECH.least_own_power * power)


def _silent(active: np.ndarray) -> Quality:
    if active.sum() * HOP_S >= SPEECH.least_voiced_s:
        return Quality(QualityVerdict.USABLE, (_NO_VOICE(),))
    return Quality(QualityVerdict.USABLE, (NOTHING_HEARD(),))


def _judged(quality: Quality, active: np.ndarray, voiced: np.ndarray, voicing: Voicing) -> Quality:
    if voiced.sum() < SPEECH.least_voiced_share * active.sum():
        quality = Quality(QualityVerdict.NOT_MEASURABLE, (*quality.reasons, _WHISPERED()))
    held = sum(region.after - region.first for region in held_regions(voicing))
    if held > SPEECH.held_share * voiced.sum():
        quality = with_reason(quality, _NOT_SPEECH())
    return quality
