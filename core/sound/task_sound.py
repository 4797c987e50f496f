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
from core.sound.kernel import HOP_S, Frames
from core.sound.tasks import Measured
from core.sound.voicing import Voicing, runs, voicing_of

QUIETEST_DB = -62.0
HISS_SHARE = 0.5
_HISS_UNDER_PEAK_DB = 25.0
_GLIDE_STEP_SEMITONES = 6.0
_LEAST_RUN = 3
_STRAY_SEMITONES = 2.5
_LEAST_HOME = 20
_HOME_BINS = 7


@dataclass(frozen=True, slots=True)
class TaskSound:
    """heard: frames of the task's own sound, shape (n,) bool; region: the attempt itself, None
    if there is none; voicing: the voice in all frames, background tones left out."""

    heard: np.ndarray
    region: Region | None
    voicing: Voicing

    @property
    def pitch_hz(self) -> np.ndarray:
        """Hz where the task's own sound is voiced, NaN elsewhere, shape (n,)."""
        return np.where(self.heard, 2 ** (self.voicing.semitones / 12), np.nan)


def find(frames: Frames, task: Measured) -> TaskSound:
    """The task's own sound: held voice, a gliding voice, or a hiss."""
    voicing = _cleared(frames, voicing_of(frames))
    if task is Measured.HISS:
        return _hiss(frames, voicing)
    if task is Measured.GLIDE:
        regions = _gliding(voicing)
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
    return TaskSound(heard & voicing.voiced, best, voicing)


def _home_of(frames: Frames, voicing: Voicing) -> float | None:
    """The pitch in semitones re 1 Hz that speaks most for itself over all held voice, where one
    frame alone may be mistaken in its octave; None for under 0.2 s of voice."""
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
    home = 0.5 * int(np.convolve(votes, np.ones(_HOME_BINS), mode="same").argmax())
    return float(np.median(semitones[known & (np.abs(semitones - home) < _HOME_BINS / 4)]))


def _strays(voicing: Voicing, middle: float) -> bool:
    """Whether any voice is so far from the middle pitch of the hold that a guess may be wrong."""
    with np.errstate(invalid="ignore"):
        return bool((np.abs(voicing.semitones - middle) > _STRAY_SEMITONES).any())


def _cleared(frames: Frames, voicing: Voicing) -> Voicing:
    return voicing.without((frames.level_db < QUIETEST_DB) | standing_tone(voicing))


def _gliding(voicing: Voicing) -> list[Region]:
    """Runs of voice joined over gaps under 0.25 s and steps a voice may make in them."""
    joined: list[Region] = []
    for first, after in voice_runs(voicing):
        if joined:
            before = joined[-1]
            step = abs(
                np.median(voicing.semitones[first : first + 5])
                - np.median(voicing.semitones[before.after - 5 : before.after])
            )
            near = (first - before.after) * HOP_S < LONGEST_GAP_S
            if near and (step < _GLIDE_STEP_SEMITONES or first == before.after):
                joined[-1] = Region(before.first, after)
                continue
        joined.append(Region(first, after))
    return [r for r in joined if r.seconds >= SHORTEST_HOLD_S]


def _hiss(frames: Frames, voicing: Voicing) -> TaskSound:
    peak = float(np.percentile(frames.level_db, 95)) if len(frames) else -120.0
    heard = (
        (frames.high_share > HISS_SHARE)
        & (frames.level_db > QUIETEST_DB)
        & (frames.level_db > peak - _HISS_UNDER_PEAK_DB)
    )
    joined: list[Region] = []
    for first, after in runs(heard):
        if joined and (first - joined[-1].after) * HOP_S < LONGEST_GAP_S:
            joined[-1] = Region(joined[-1].first, after)
        elif after - first >= _LEAST_RUN:
            joined.append(Region(first, after))
    long = [r for r in joined if r.seconds >= SHORTEST_HOLD_S]
    return TaskSound(heard, max(long, key=lambda r: r.seconds, default=None), voicing)
