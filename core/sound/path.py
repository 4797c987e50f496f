"""The most plausible pitch through all frames: one guess a frame, or none.

How it works. The kernel leaves up to four guesses at the pitch of each frame, each with how regularly the sound
repeats at it. Taking the most regular guess of each frame alone would jump between octaves, so the frames are read as
a path: a guess costs the more the less regular it is, "no voice" costs a fixed amount, going from voice to no voice or
back costs something, and going from one pitch to another costs by the distance in octaves. The cheapest path through
all frames is found by dynamic programming: for every frame and every state (no voice, guess 1 …) the cheapest way to
get there is kept with the state it came from, and the path is read backwards from the cheapest end. Frames that are as
good as silent can only be unvoiced. Where the pitch of the voice is known already (`about_hz`), guesses near it are
cheaper, which settles frames that alone could be an octave off.

Method: least-cost path over the guesses (Viterbi), as in Proc Inst Phonetic Sciences Amsterdam
1993;17:97–110; the costs are those given there but for the octave jump, here 0.6.
"""

import math

import numpy as np

from core.sound.kernel import Frames
from core.sound.settings.path import PATH

_NEVER = 1e9


def follow_pitch(frames: Frames, *, about_hz: float | None = None) -> tuple[np.ndarray, np.ndarray]:
    """Pitch in Hz (NaN = unvoiced) and regularity (0–1) of each frame, both shape (n,).

    about_hz: where the voice is known to be for the most part; guesses near it are preferred.
    """
    count = len(frames)
    hz, known = frames.pitch_hz, ~np.isnan(frames.pitch_hz)
    best = frames.merit[:, :1]
    costs = np.where(known, 1 - frames.regularity[:, :1] + best - frames.merit, _NEVER)
    if about_hz is not None:
        costs = costs - PATH.near_gain * (np.abs(np.log2(hz / about_hz)) < PATH.near_octaves)
    unvoiced = np.where(frames.level_db < PATH.silent_db, 0.0, PATH.no_voice_cost)
    costs[frames.level_db < PATH.silent_db] = _NEVER
    octaves = np.where(known, np.log2(np.where(known, hz, 1.0)), 0.0)
    chosen = _cheapest_path(costs, unvoiced, octaves)
    rows, column = np.arange(count), chosen
    voiced = column >= 0
    column = np.maximum(column, 0)
    return (
        np.where(voiced, hz[rows, column], np.nan),
        np.where(voiced, frames.regularity[rows, column], 0.0),
    )


def _cheapest_path(costs: np.ndarray, unvoiced: np.ndarray, octaves: np.ndarray) -> np.ndarray:
    """Index of the guess of each frame, −1 = unvoiced, shape (n,).

    Plain numbers in a loop: few guesses, many frames. `came_from` holds for each frame and state
    (0 = unvoiced, k + 1 = guess k) the state before.
    """
    count, width = costs.shape
    states = width + 1
    jump_cost, change_cost = PATH.octave_jump_cost, PATH.voice_change_cost
    came_from = bytearray(count * states)
    before: list[tuple[int, float, float]] = [(0, 0.0, 0.0)]
    for begin in range(0, count, PATH.chunk):
        chunk = slice(begin, begin + PATH.chunk)
        rows = zip(
            costs[chunk].tolist(), unvoiced[chunk].tolist(), octaves[chunk].tolist(), strict=True
        )
        for frame, (own_costs, silence, own_octaves) in enumerate(rows, begin):
            at = frame * states
            silent_total, silent_from = math.inf, 0
            for place, _, total in before:
                total = total + change_cost if place else total
                if total < silent_total:
                    silent_total, silent_from = total, place
            came_from[at] = silent_from
            now = [(0, 0.0, silent_total + silence)]
            for k in range(width):
                own = own_costs[k]
                if own >= _NEVER:
                    continue
                octave = own_octaves[k]
                least, source = math.inf, 0
                for place, other, total in before:
                    total += jump_cost * abs(octave - other) if place else change_cost
                    if total < least:
                        least, source = total, place
                came_from[at + k + 1] = source
                now.append((k + 1, octave, least + own))
            before = now
    state = min(before, key=lambda found: found[2])[0]
    chosen = np.empty(count, dtype=int)
    for frame in range(count - 1, -1, -1):
        chosen[frame] = state - 1
        state = came_from[frame * states + state]
    return chosen
