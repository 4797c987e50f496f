"""The task's own sound in all frames, and the ways to find it that several kinds share."""

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from core.sound.background import standing_tone
from core.sound.held import Region, held_regions, voice_runs
from core.sound.kernel import HOP_S, Frames
from core.sound.settings.held import HELD
from core.sound.settings.hiss import HISS
from core.sound.settings.home import HOME
from core.sound.voicing import Voicing, voicing_of


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


def found_in(regions: Iterable[Region], count: int) -> np.ndarray:
    """Frames of these regions, shape (count,) bool."""
    heard = np.zeros(count, dtype=bool)
    for region in regions:
        heard[region.first : region.after] = True
    return heard


def sound_going_on(frames: Frames, *, longest_gap_s: float, widest_step: float) -> TaskSound:
    """Voice that moves: the longest stretch over gaps under `longest_gap_s` and steps (semitones)
    that a voice may make in them."""
    voicing = cleared_voicing(frames)
    regions = _going_on(voicing, longest_gap_s, widest_step)
    best = max(regions, key=lambda region: region.seconds, default=None)
    heard = found_in(regions, len(frames))
    return TaskSound(heard & voicing.voiced, best, voicing, frames.level_db)


def cleared_voicing(frames: Frames) -> Voicing:
    """The voice in all frames, what is too quiet and tones that stand in the room left out."""
    return cleared(frames, voicing_of(frames))


def cleared(frames: Frames, voicing: Voicing) -> Voicing:
    """The same voice without what is too quiet and tones that stand in the room."""
    return voicing.without((frames.level_db < HISS.quietest_db) | standing_tone(voicing))


def home_of(frames: Frames, voicing: Voicing) -> float | None:
    """The pitch in semitones re 1 Hz that speaks most for itself over all held voice, where one
    frame alone may be mistaken in its octave; None where nothing does for 0.2 s."""
    held = found_in(held_regions(voicing), len(frames))
    rows = np.flatnonzero(held if held.any() else voicing.voiced)
    if len(rows) < HOME.least:
        return None
    known = ~np.isnan(frames.pitch_hz[rows])
    semitones = 12 * np.log2(np.where(known, frames.pitch_hz[rows], 1.0))
    merit = np.where(known, np.maximum(frames.merit[rows], 0.0), 0.0)
    votes = np.bincount(np.rint(2 * semitones[known]).astype(int), weights=merit[known])
    if not votes.any():
        return None
    home = 0.5 * int(np.convolve(votes, np.ones(HOME.width), mode="same").argmax())
    return float(np.median(semitones[known & (np.abs(semitones - home) < HOME.width / 4)]))


def strays(voicing: Voicing, middle: float) -> bool:
    """Whether any voice is so far from the middle pitch of the hold that a guess may be wrong."""
    with np.errstate(invalid="ignore"):
        return bool((np.abs(voicing.semitones - middle) > HOME.stray_semitones).any())


def _going_on(voicing: Voicing, longest_gap_s: float, widest_step: float) -> list[Region]:
    """Runs of voice joined over gaps under `longest_gap_s` and steps (semitones) that a voice may
    make in them."""
    joined: list[Region] = []
    for first, after in voice_runs(voicing):
        if joined:
            before = joined[-1]
            step = abs(
                np.median(voicing.semitones[first : first + HOME.joint])
                - np.median(voicing.semitones[max(before.after - HOME.joint, 0) : before.after])
            )
            near = (first - before.after) * HOP_S < longest_gap_s
            if near and (step < widest_step or first == before.after):
                joined[-1] = Region(before.first, after)
                continue
        joined.append(Region(first, after))
    return [r for r in joined if r.seconds >= HELD.shortest_hold_s]
