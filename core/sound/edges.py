"""Onset and offset on the 2.5 ms envelope: where the sound crosses −20 dB of its own median.

How it works. Both ends are looked for in the same way, the offset in the sound turned round. From where the voice
is first heard as one, the envelope is followed outward to where it crosses 20 dB under the median of the hold. In
a quiet room the plain envelope serves. Where the room would hide the crossing, an envelope of seven bands is used
in which each band counts by how far the voice stands over the room there; where even that room is louder than the
crossing, the edge is carried on from where the sound stands 3 dB clear, along its own rise. How far it may move is
limited, farther where the sound stands clear. Then what is not the hold is taken off: breath before or after (the
lowest partials tell voice from breath), and in a quiet room an echo behind the end (a steep fall, then a tail that
fades on past the edge). Dips between the uneven pulses of a creak are crossed.

Counts without another unit are steps of 2.5 ms.
"""

from dataclasses import dataclass, replace

import numpy as np
from scipy.ndimage import uniform_filter1d

from core.sound.held import Region
from core.sound.kernel import EDGE_BANDS_HZ, EDGES, HOP_S, Frames
from core.sound.task_sound import TaskSound
from core.sound.voicing import runs

EDGE_BELOW_MEDIAN_DB = 20.0
STEP_S = HOP_S / EDGES

_OVER_ROOM_DB = 3.0
_REACH = round(0.2 / STEP_S)
_SCRAP = 9
_DIP = round(0.025 / STEP_S)
# How far the edge may lie from where the voice is first heard as one: farther out where the
# sound stands clear of the room.
_OUT, _OUT_CLEAR, _IN = round(0.01 / STEP_S), round(0.04 / STEP_S), round(0.025 / STEP_S)
_STANDS_CLEAR_DB = -14.0
_SMOOTHED = 3
_CLEAR = round(0.05 / STEP_S)
_LOOK = round(1.0 / STEP_S)
_LEAST = round(0.05 / STEP_S)
_LEAST_BREATH = round(0.03 / STEP_S)
_BREATH_UNDER_DB = 8.0
_OVER_BREATH_DB = 2.0
_LOUDEST_OF_BREATH = 80
_BREATH_SMOOTHED = 5
_NEARLY_UP_DB = -4.0
_SLOWEST = round(0.2 / STEP_S)
# A sudden voice rises over some steps, since each hears 10 ms.
_HEARD_EARLY = 1.0
_PARTIALS, _PARTIALS_LEAST_HZ = 1.6, 500.0
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
_ENDS, _ENDS_DB = 1.5, 8.0


def edges_of(frames: Frames, sound: TaskSound, region: Region) -> tuple[float, float]:
    """Onset and offset in seconds of the region of a sound.

    Where the room is louder than the crossing, the edge is carried on from where the sound
    stands 3 dB clear of the room along its own rise. An echo after the end is cut off.
    """
    own = np.repeat(sound.heard, EDGES)
    still = np.repeat(~_lasting(sound.voicing.voiced), EDGES)
    plain = frames.edge_db.ravel()
    bands = frames.edge_bands.reshape(len(plain), -1)
    low = low_level_db(frames, _partials_to_hz(sound, region))
    side = _Side(plain, bands, low, own, still, region.first * EDGES, region.after * EDGES)
    start = _after_breath(side, _surest(side))
    behind = side.from_behind()
    found = _surest(behind)
    found = replace(found, at=_after_breath(behind, found))
    end = len(own) - found.at
    if found.room_db < _QUIET_ROOM_DB:
        end = _before_echo(found.envelope[::-1], end, side.first)
    zero = -HOP_S / 2
    return max(zero + start * STEP_S, 0.0), zero + end * STEP_S


def _lasting(voiced: np.ndarray) -> np.ndarray:
    """Voice that lasts: shorter scraps belong to a creak, not to someone else; (n,) bool."""
    found = voiced.copy()
    for first, after in runs(voiced):
        found[first:after] = after - first >= _SCRAP
    return found


@dataclass(frozen=True, slots=True)
class _Side:
    """A sound as its edge is looked for, in steps of 2.5 ms: plain envelope in dBFS (n,), power in
    bands (n, 7), level about its lowest partials in dB (n,), where it is the sound's own and where
    no voice lasts (n,), where it begins and ends."""

    plain: np.ndarray
    bands: np.ndarray
    low: np.ndarray
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
            low=self.low[::-1],
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


def low_level_db(frames: Frames, to_hz: float) -> np.ndarray:
    """Level of the edge bands that reach up to `to_hz`, every 2.5 ms, dB, shape (4·frames,)."""
    count = int(np.searchsorted(EDGE_BANDS_HZ, to_hz))
    return 10 * np.log10(frames.edge_bands[:, :, :count].sum(axis=2).ravel() + _SILENCE)


def _partials_to_hz(sound: TaskSound, region: Region) -> float:
    """Up to where the first partials of the voice lie, Hz: breath hardly reaches there."""
    semitones = sound.voicing.semitones[region.first : region.after]
    known = semitones[~np.isnan(semitones)]
    own_hz = 2 ** (float(np.median(known)) / 12) if len(known) else 0.0
    return max(_PARTIALS * own_hz, _PARTIALS_LEAST_HZ)


def _after_breath(side: _Side, found: "_Crossing") -> float:
    """The edge; where breath comes before the voice, where the lowest partials rise out of it.
    In a loud room the two cannot be told."""
    begin = int(found.at)
    breath, inside = side.low[begin : side.first], side.inside(side.low)
    if found.room_db > _QUIET_ROOM_DB or len(breath) < _LEAST_BREATH or not len(inside):
        return found.at
    middle, under = float(np.median(inside)), float(np.percentile(breath, _LOUDEST_OF_BREATH))
    if under > middle - _BREATH_UNDER_DB:
        return found.at
    limit = max(middle - EDGE_BELOW_MEDIAN_DB, under + _OVER_BREATH_DB)
    low = 10 * np.log10(uniform_filter1d(10 ** (side.low / 10), _BREATH_SMOOTHED))
    below = np.flatnonzero(low[begin : side.first + _IN] < limit)
    at = begin + int(below[-1]) + 1 if len(below) else begin
    back = since_the_edge(low[at : side.after] - middle)
    return float(np.clip(at - back, found.at, side.first + _IN))


def since_the_edge(rising_db: np.ndarray) -> float:
    """Steps of 2.5 ms from −20 dB, which other sound hides, to where a voice that sets in was seen.

    rising_db: its level against its own middle from there on, dB, shape (n,). Carried back along its
    rise up to −4 dB over the root of the amplitude, by which a soft beginning is a straight line.
    """
    up = np.flatnonzero(rising_db[:_SLOWEST] >= _NEARLY_UP_DB)
    if not len(up) or not up[0] or rising_db[0] <= -EDGE_BELOW_MEDIAN_DB:
        return 0.0
    levels_db = np.array([-EDGE_BELOW_MEDIAN_DB, rising_db[0], rising_db[up[0]]])
    edge, seen, nearly = 10 ** (levels_db / 40)
    return max(float(up[0]) - _HEARD_EARLY, 0.0) * (seen - edge) / (nearly - seen)


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
        at = _out(side, envelope, limit, dip=_DIP if room - middle < _QUIET_ROOM_DB else 0)
    if limit <= wanted or at <= 0:
        return _Crossing(at, under, envelope)
    found = at - _carried_on(envelope, at, side.after, middle, room)
    out = _OUT if under > _STANDS_CLEAR_DB else _OUT_CLEAR
    return _Crossing(float(np.clip(found, first - out, first + _IN)), under, envelope)


def _out(side: _Side, envelope: np.ndarray, limit: float, *, dip: int) -> int:
    """As far out from where the voice is heard as one as the envelope stays up, over dips of some
    steps: the uneven pulses of a voice that creaks."""
    barrier = side.barrier()
    at = side.first
    over = np.flatnonzero(envelope[barrier:at] >= limit) + barrier
    for step in over[::-1].tolist():
        if at - step > dip + 1:
            break
        at = step
    return at


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
    later = envelope[last + 4 * _FALL : last + 8 * _FALL]
    if len(later) and (envelope[last] - later.mean()) / 3 > max(_ENDS * tail, _ENDS_DB):
        return end  # An echo fades on: what ends by itself is voice.
    return float(knee + _FALL) if drops.max() > _STEEPER * max(tail, 0.1) else end
