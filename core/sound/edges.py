"""Onset and offset on the 2.5 ms envelope: where the sound crosses −20 dB of its own median."""

from dataclasses import dataclass

import numpy as np
from scipy.ndimage import uniform_filter1d

from core.sound.held import Region
from core.sound.kernel import EDGES, HOP_S, Frames
from core.sound.task_sound import TaskSound

EDGE_BELOW_MEDIAN_DB = 20.0
STEP_S = HOP_S / EDGES

_OVER_ROOM_DB = 3.0
_REACH = round(0.08 / STEP_S)
# How far the edge may lie from where the voice is first heard as one: farther out where the
# sound stands clear of the room.
_OUT, _OUT_CLEAR, _IN = round(0.01 / STEP_S), round(0.04 / STEP_S), round(0.025 / STEP_S)
_STANDS_CLEAR_DB = -14.0
_SMOOTHED = 3
_CLEAR = round(0.05 / STEP_S)
_LOOK = round(1.0 / STEP_S)
_LEAST = round(0.05 / STEP_S)
_ROOM_PERCENTILE = 80
_SILENCE = 1e-12
_FARTHEST_S = 0.04
# A room so far under the sound does not move the edge: the plain envelope serves then.
_ROOM_NO_MATTER_DB = -26.0
_QUIET_ROOM_DB = -23.0
_LOOK_BACK = round(0.2 / STEP_S)
_FALL = round(0.01 / STEP_S)
_FALL_DB = 4.5
_LEAST_TAIL = round(0.02 / STEP_S)
_STEEPER = 1.3


def edges_of(frames: Frames, sound: TaskSound, region: Region) -> tuple[float, float]:
    """Onset and offset in seconds of the region of a sound.

    Where the room is louder than the crossing, the edge is carried on from where the sound
    stands 3 dB clear of the room along its own rise. An echo after the end is cut off.
    """
    own = np.repeat(sound.heard, EDGES)
    still = np.repeat(~sound.voicing.voiced, EDGES)
    plain = frames.edge_db.ravel()
    bands = frames.edge_bands.reshape(len(plain), -1)
    side = _Side(plain, bands, own, still, region.first * EDGES, region.after * EDGES)
    start = _surest(side).at
    found = _surest(side.from_behind())
    end = len(own) - found.at
    if found.room_db < _QUIET_ROOM_DB:
        end = _before_echo(found.envelope[::-1], end, side.first)
    zero = -HOP_S / 2
    return max(zero + start * STEP_S, 0.0), zero + end * STEP_S


@dataclass(frozen=True, slots=True)
class _Side:
    """A sound as its edge is looked for, in steps of 2.5 ms: plain envelope in dBFS (n,), power in
    bands (n, 7), where it is the sound's own and where no voice at all (n,), where it begins and
    ends."""

    plain: np.ndarray
    bands: np.ndarray
    own: np.ndarray
    still: np.ndarray
    first: int
    after: int

    def from_behind(self) -> "_Side":
        """The same, backwards in time."""
        count = len(self.own)
        return _Side(
            plain=self.plain[::-1],
            bands=self.bands[::-1],
            own=self.own[::-1],
            still=self.still[::-1],
            first=count - self.after,
            after=count - self.first,
        )

    def inside(self, values: np.ndarray) -> np.ndarray:
        """Those of the values, (n, …), that belong to the sound."""
        return values[self.first : self.after][self.own[self.first : self.after]]

    def before(self, values: np.ndarray) -> np.ndarray:
        """Those of the second before the sound, without other voices where that leaves enough."""
        before = slice(max(self.first - _LOOK, 0), max(self.first - _CLEAR, 0))
        quiet = values[before][self.still[before]]
        return quiet if len(quiet) >= _LEAST else values[before]

    def barrier(self) -> int:
        """Where another voice shortly before the sound ends."""
        start = max(self.first - _REACH, 0)
        others = np.flatnonzero(~self.still[start : self.first])
        return start + (int(others[-1]) + 1 if len(others) else 0)


@dataclass(frozen=True, slots=True)
class _Crossing:
    """Where the envelope (dB) rises over the edge, in steps of 2.5 ms; room_db: the room against
    the sound in dB: the lower, the surer."""

    at: float
    room_db: float
    envelope: np.ndarray


def _surest(side: _Side) -> _Crossing:
    """The crossing of the plain envelope, or of the bands clear of the room if that is surer."""
    found = _crossing(side, side.plain)
    if found.room_db <= _ROOM_NO_MATTER_DB:
        return found
    return min(found, _crossing(side, _clear_of_room(side)), key=lambda one: one.room_db)


def _clear_of_room(side: _Side) -> np.ndarray:
    """The bands together as one envelope in dB, each weighed by how it stands out of the room."""
    voice = np.median(side.inside(side.bands), axis=0)
    room = np.percentile(side.before(side.bands), _ROOM_PERCENTILE, axis=0) + _SILENCE
    weight = np.maximum(voice - room, 0) / room**2
    power = side.bands @ (weight / ((weight * voice).sum() + _SILENCE))
    return 10 * np.log10(uniform_filter1d(power, _SMOOTHED) + _SILENCE)


def _crossing(side: _Side, envelope: np.ndarray) -> _Crossing:
    inside, before = side.inside(envelope), side.before(envelope)
    middle = float(np.median(inside)) if len(inside) else -120.0
    known = len(before) >= _LEAST
    room = float(np.percentile(before, _ROOM_PERCENTILE)) if known else -np.inf
    under = max(room - middle, _ROOM_NO_MATTER_DB)
    wanted = middle - EDGE_BELOW_MEDIAN_DB
    limit = max(wanted, room + _OVER_ROOM_DB)
    first = side.first
    over = np.flatnonzero(envelope[first : side.after] >= limit)
    at = first + int(over[0]) if len(over) else first
    if at == first:
        barrier = side.barrier()
        while at > barrier and envelope[at - 1] >= limit:
            at -= 1
    if limit <= wanted or at <= 0:
        return _Crossing(at, under, envelope)
    found = at - _carried_on(envelope, at, side.after, middle, room)
    out = _OUT if under > _STANDS_CLEAR_DB else _OUT_CLEAR
    return _Crossing(float(np.clip(found, first - out, first + _IN)), under, envelope)


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
