"""Onset and offset on the 2.5 ms envelope: where the sound crosses −20 dB of its own median."""

from dataclasses import dataclass

import numpy as np

from core.sound.held import Region
from core.sound.kernel import EDGES, HOP_S, Frames
from core.sound.task_sound import TaskSound

EDGE_BELOW_MEDIAN_DB = 20.0
STEP_S = HOP_S / EDGES

_OVER_ROOM_DB = 3.0
_REACH = round(0.08 / STEP_S)
# In a noisy room the edge lies within this of where the voice is first heard as one.
_NOISY_OUT, _NOISY_IN = round(0.01 / STEP_S), round(0.025 / STEP_S)
_CLEAR = round(0.05 / STEP_S)
_LOOK = round(1.0 / STEP_S)
_LEAST = round(0.05 / STEP_S)
_ROOM_PERCENTILE = 30
_FARTHEST_S = 0.04
# A room so far under the sound does not move the edge: the plain envelope serves then.
_ROOM_NO_MATTER_DB = -26.0
_QUIET_ROOM_DB = -23.0
_LOOK_BACK = round(0.2 / STEP_S)
_FALL = round(0.01 / STEP_S)
_FALL_DB = 4.5
_LEAST_TAIL = round(0.02 / STEP_S)
_STEEPER = 1.8


def edges_of(frames: Frames, sound: TaskSound, region: Region) -> tuple[float, float]:
    """Onset and offset in seconds of the region of a sound.

    Where the room is louder than the crossing, the edge is carried on from where the sound
    stands 3 dB clear of the room along its own rise. An echo after the end is cut off.
    """
    own = np.repeat(sound.heard, EDGES)
    still = np.repeat(~sound.voicing.voiced, EDGES)
    first, after = region.first * EDGES, region.after * EDGES
    start, _ = min(
        (_crossing(_View.of(e, own, still, first, after)) for e in _envelopes(frames)),
        key=lambda found: found[1],
    )
    count = len(own)
    end, room = min(
        (
            _crossing(_View.of(e[::-1], own[::-1], still[::-1], count - after, count - first))
            for e in _envelopes(frames)
        ),
        key=lambda found: found[1],
    )
    envelope = frames.edge_db.ravel()
    end = count - end
    if room < _QUIET_ROOM_DB:
        end = _before_echo(envelope, end, first)
    zero = -HOP_S / 2
    return max(zero + start * STEP_S, 0.0), zero + end * STEP_S


def _envelopes(frames: Frames) -> tuple[np.ndarray, np.ndarray]:
    return frames.edge_db.ravel(), frames.clear_edge_db.ravel()


@dataclass(frozen=True, slots=True)
class _View:
    """An envelope (dBFS, 2.5 ms steps) with the sound at first … after, the sound's own median
    and the room's level in the second before it, both dBFS; room −inf if the sound begins at once;
    barrier: where another voice before it ends."""

    envelope: np.ndarray
    first: int
    after: int
    middle: float
    room: float
    barrier: int

    @classmethod
    def of(
        cls, envelope: np.ndarray, own: np.ndarray, still: np.ndarray, first: int, after: int
    ) -> "_View":
        inside = envelope[first:after][own[first:after]]
        middle = float(np.median(inside)) if len(inside) else -120.0
        before = slice(max(first - _LOOK, 0), max(first - _CLEAR, 0))
        quiet = envelope[before][still[before]]
        quiet = quiet if len(quiet) >= _LEAST else envelope[before]
        known = len(quiet) >= _LEAST
        room = float(np.percentile(quiet, _ROOM_PERCENTILE)) if known else -np.inf
        others = np.flatnonzero(~still[max(first - _REACH, 0) : first])
        barrier = max(first - _REACH, 0) + (int(others[-1]) + 1 if len(others) else 0)
        return cls(envelope, first, after, middle, room, barrier)


def _crossing(view: _View) -> tuple[float, float]:
    """Where the envelope rises over the edge, in steps of 2.5 ms, and the room's level against
    the sound's in dB: the lower, the surer."""
    envelope, first = view.envelope, view.first
    surer = max(view.room - view.middle, _ROOM_NO_MATTER_DB)
    wanted = view.middle - EDGE_BELOW_MEDIAN_DB
    limit = max(wanted, view.room + _OVER_ROOM_DB)
    over = np.flatnonzero(envelope[first : view.after] >= limit)
    at = first + int(over[0]) if len(over) else first
    if at == first:
        while at > view.barrier and envelope[at - 1] >= limit:
            at -= 1
    if limit <= wanted or at <= 0:
        return at, surer
    found = at - _carried_on(envelope, at, view.after, view.middle, view.room)
    return float(np.clip(found, first - _NOISY_OUT, first + _NOISY_IN)), surer


def _carried_on(envelope: np.ndarray, at: int, after: int, middle: float, room: float) -> float:
    """Steps from where the sound clears the room back to the edge, along a straight rise."""
    amplitude = np.sqrt(np.maximum(10 ** (envelope[at:after] / 10) - 10 ** (room / 10), 0))
    whole = 10 ** (middle / 20)
    half = np.flatnonzero(amplitude >= 0.6 * whole)
    if not len(half) or half[0] == 0:
        return 0.0
    rise = (amplitude[half[0]] - amplitude[0]) / half[0]
    edge = whole * 10 ** (-EDGE_BELOW_MEDIAN_DB / 20)
    if rise <= 0 or amplitude[0] <= edge:
        return 0.0
    return min((amplitude[0] - edge) / rise, _FARTHEST_S / STEP_S)


def _before_echo(envelope: np.ndarray, end: float, first: int) -> float:
    """The steep fall before a slower tail, where there is one: a room rings on after the voice."""
    last = int(end)
    begin = max(last - _LOOK_BACK, first + _FALL)
    if last - begin < _LEAST_TAIL or last + _FALL >= len(envelope):
        return end
    at = np.arange(begin, last - _FALL)
    drops = envelope[at - _FALL] - envelope[at + _FALL]
    knee = int(at[drops.argmax()])
    left = last - (knee + _FALL)
    if drops.max() < _FALL_DB or left < _LEAST_TAIL:
        return end
    tail = (envelope[knee + _FALL] - envelope[last]) / left * 2 * _FALL
    return float(knee + _FALL) if drops.max() > _STEEPER * max(tail, 0.1) else end
