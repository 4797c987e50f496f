"""Which frames are the task's own sound, and where it begins and ends in frames."""

from dataclasses import dataclass

import numpy as np

from core.sound.background import standing_tone
from core.sound.held import (
    LONGEST_GAP_S,
    SHORTEST_HOLD_S,
    Region,
    held_regions,
    the_hold,
    voice_runs,
    with_mistaken_edges,
    without_tones,
)
from core.sound.hiss import QUIETEST_DB, hiss_and_buzz, hiss_level, hissing, longest_stretch
from core.sound.kernel import HOP_S, Frames
from core.sound.tasks import Measured
from core.sound.voicing import Voicing, voicing_of

# Tasks whose voice need not be held: the longest gap in s and the widest step over it in semitones.
_LOOSE = {
    Measured.GLIDE: (LONGEST_GAP_S, 6.0),
    Measured.PATTERN: (1.0, 24.0),
}
# Bubbles make a voice irregular that goes on all the same.
_BUBBLING_COST = 0.75
# In a tube voice and bubbles stop and go on; that is a stop of one attempt, not another attempt.
_LONGEST_VOICELESS_S, _LONGEST_STOP_S = 1.5, 0.8
_GOES_ON_UNDER_DB = 22.0
_ROOM_PERCENTILE, _OVER_ROOM_DB, _REACH = 10, 8.0, 25
_STRAY_SEMITONES = 2.5
_LEAST_HOME = 20
_HOME_BINS = 7


@dataclass(frozen=True, slots=True)
class TaskSound:
    """heard: frames of the task's own sound, shape (n,) bool; region: the attempt itself, None
    if there is none; voicing: the voice in all frames, background tones left out; level_db: level
    in dBFS by which the sound stands out of its room, (n,)."""

    heard: np.ndarray
    region: Region | None
    voicing: Voicing
    level_db: np.ndarray

    @property
    def pitch_hz(self) -> np.ndarray:
        """Hz where the task's own sound is voiced, NaN elsewhere, shape (n,)."""
        return np.where(self.heard, 2 ** (self.voicing.semitones / 12), np.nan)


def find(frames: Frames, task: Measured) -> TaskSound:
    """The task's own sound: held voice, voice that moves, a hiss, a hiss and a buzz."""
    voicing = cleared_voicing(frames)
    if task is Measured.HISS:
        heard = hissing(frames)
        return TaskSound(heard, longest_stretch(heard), voicing, hiss_level(frames))
    if task is Measured.SZ:
        heard, region = hiss_and_buzz(frames, voicing)
        return TaskSound(heard, region, voicing, frames.level_db)
    if task is Measured.BUBBLES:
        home = _home_of(frames, voicing)
        about_hz = None if home is None else 2 ** (home / 12)
        voicing = _cleared(
            frames, voicing_of(frames, about_hz=about_hz, no_voice_cost=_BUBBLING_COST)
        )
        region = _sounding_on(frames, voicing)
        heard = np.zeros(len(frames), dtype=bool)
        if region:
            heard[region.first : region.after] = True
        return TaskSound(heard & voicing.voiced, region, voicing, frames.level_db)
    if task in _LOOSE:
        regions = _going_on(voicing, *_LOOSE[task])
        best = max(regions, key=lambda r: r.seconds, default=None)
    else:
        home = _home_of(frames, voicing)
        if home is not None and _strays(voicing, home):
            voicing = _cleared(frames, voicing_of(frames, about_hz=2 ** (home / 12)))
        regions = without_tones(voicing, held_regions(voicing))
        best = the_hold(voicing, regions)
        if best is not None:
            voicing, whole = with_mistaken_edges(voicing, best)
            regions, best = [whole if r is best else r for r in regions], whole
    heard = np.zeros(len(frames), dtype=bool)
    for region in regions if best else []:
        heard[region.first : region.after] = True
    return TaskSound(heard & voicing.voiced, best, voicing, frames.level_db)


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
    return Region(first, after) if best.seconds >= SHORTEST_HOLD_S else None


def _home_of(frames: Frames, voicing: Voicing) -> float | None:
    """The pitch in semitones re 1 Hz that speaks most for itself over all held voice, where one
    frame alone may be mistaken in its octave; None where nothing does for 0.2 s."""
    held = np.zeros(len(frames), dtype=bool)
    for region in held_regions(voicing):
        held[region.first : region.after] = True
    rows = np.flatnonzero(held if held.any() else voicing.voiced)
    if len(rows) < _LEAST_HOME:
        return None
    known = ~np.isnan(frames.pitch_hz[rows])
    semitones = 12 * np.log2(np.where(known, frames.pitch_hz[rows], 1.0))
    merit = np.where(known, np.maximum(frames.merit[rows], 0.0), 0.0)
    votes = np.bincount(np.rint(2 * semitones[known]).astype(int), weights=merit[known])
    if not votes.any():
        return None
    home = 0.5 * int(np.convolve(votes, np.ones(_HOME_BINS), mode="same").argmax())
    return float(np.median(semitones[known & (np.abs(semitones - home) < _HOME_BINS / 4)]))


def _strays(voicing: Voicing, middle: float) -> bool:
    """Whether any voice is so far from the middle pitch of the hold that a guess may be wrong."""
    with np.errstate(invalid="ignore"):
        return bool((np.abs(voicing.semitones - middle) > _STRAY_SEMITONES).any())


def cleared_voicing(frames: Frames) -> Voicing:
    """The voice in all frames, what is too quiet and tones that stand in the room left out."""
    return _cleared(frames, voicing_of(frames))


def _cleared(frames: Frames, voicing: Voicing) -> Voicing:
    return voicing.without((frames.level_db < QUIETEST_DB) | standing_tone(voicing))


def _going_on(voicing: Voicing, longest_gap_s: float, widest_step: float) -> list[Region]:
    """Runs of voice joined over gaps under `longest_gap_s` and steps (semitones) that a voice may
    make in them."""
    joined: list[Region] = []
    for first, after in voice_runs(voicing):
        if joined:
            before = joined[-1]
            step = abs(
                np.median(voicing.semitones[first : first + 5])
                - np.median(voicing.semitones[before.after - 5 : before.after])
            )
            near = (first - before.after) * HOP_S < longest_gap_s
            if near and (step < widest_step or first == before.after):
                joined[-1] = Region(before.first, after)
                continue
        joined.append(Region(first, after))
    return [r for r in joined if r.seconds >= SHORTEST_HOLD_S]
