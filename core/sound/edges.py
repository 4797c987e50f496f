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
from core.sound.settings.edges import EDGE
from core.sound.task_sound import TaskSound
from core.sound.voicing import runs

STEP_S = HOP_S / EDGES

_SILENCE = 1e-12


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
    if found.room_db < EDGE.quiet_room_db:
        end = _before_echo(found.envelope[::-1], end, side.first)
    zero = -HOP_S / 2
    return max(zero + start * STEP_S, 0.0), zero + end * STEP_S


def _lasting(voiced: np.ndarray) -> np.ndarray:
    """Voice that lasts: shorter scraps belong to a creak, not to someone else; (n,) bool."""
    found = voiced.copy()
    for first, after in runs(voiced):
        found[first:after] = after - first >= EDGE.scrap
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
        before = slice(max(self.first - EDGE.look, 0), max(self.first - EDGE.clear, 0))
        quiet = values[before][self.still[before]]
        return quiet if len(quiet) >= EDGE.least_room else values[before]

    def barrier(self) -> int:
        """Where another voice shortly before the sound ends."""
        start = max(self.first - EDGE.reach, 0)
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
    if found.room_db <= EDGE.room_no_matter_db:
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
    return max(EDGE.partials * own_hz, EDGE.partials_least_hz)


def _after_breath(side: _Side, found: "_Crossing") -> float:
    """The edge; where breath comes before the voice, where the lowest partials rise out of it.
    In a loud room the two cannot be told."""
    begin = int(found.at)
    breath, inside = side.low[begin : side.first], side.inside(side.low)
    if found.room_db > EDGE.quiet_room_db or len(breath) < EDGE.least_breath or not len(inside):
        return found.at
    middle, under = float(np.median(inside)), float(np.percentile(breath, EDGE.loudest_of_breath))
    if under > middle - EDGE.breath_under_db:
        return found.at
    limit = max(middle - EDGE.below_median_db, under + EDGE.over_breath_db)
    low = 10 * np.log10(uniform_filter1d(10 ** (side.low / 10), EDGE.breath_smoothed))
    below = np.flatnonzero(low[begin : side.first + EDGE.inside] < limit)
    at = begin + int(below[-1]) + 1 if len(below) else begin
    back = since_the_edge(low[at : side.after] - middle)
    return float(np.clip(at - back, found.at, side.first + EDGE.inside))


def since_the_edge(rising_db: np.ndarray) -> float:
    """Steps of 2.5 ms from −20 dB, which other sound hides, to where a voice that sets in was seen.

    rising_db: its level against its own middle from there on, dB, shape (n,). Carried back along its
    rise up to −4 dB over the root of the amplitude, by which a soft beginning is a straight line.
    """
    up = np.flatnonzero(rising_db[: EDGE.slowest] >= EDGE.nearly_up_db)
    if not len(up) or not up[0] or rising_db[0] <= -EDGE.below_median_db:
        return 0.0
    levels_db = np.array([-EDGE.below_median_db, rising_db[0], rising_db[up[0]]])
    edge, seen, nearly = 10 ** (levels_db / 40)
    return max(float(up[0]) - EDGE.heard_early, 0.0) * (seen - edge) / (nearly - seen)


def _clear_of_room(side: _Side) -> np.ndarray:
    """The bands together as one envelope in dB, each weighed by how it stands out of the room."""
    voice = np.median(side.inside(side.bands), axis=0)
    room = np.percentile(side.before(side.bands), EDGE.room_percentile, axis=0) + _SILENCE
    weight = np.maximum(voice - room, 0) / room**2
    power = side.bands @ (weight / ((weight * voice).sum() + _SILENCE))
    return 10 * np.log10(uniform_filter1d(power, EDGE.smoothed) + _SILENCE)


def _crossing(side: _Side, envelope: np.ndarray) -> _Crossing:
    inside, before = side.inside(envelope), side.before(envelope)
    middle = float(np.median(inside)) if len(inside) else -120.0
    known = len(before) >= EDGE.least_room
    room = float(np.percentile(before, EDGE.room_percentile)) if known else -np.inf
    under = max(room - middle, EDGE.room_no_matter_db)
    wanted = middle - EDGE.below_median_db
    limit = max(wanted, room + EDGE.over_room_db)
    first = side.first
    over = np.flatnonzero(envelope[first : side.after] >= limit)
    at = first + int(over[0]) if len(over) else first
    if at == first:
        at = _out(side, envelope, limit, dip=EDGE.dip if room - middle < EDGE.quiet_room_db else 0)
    if limit <= wanted or at <= 0:
        return _Crossing(at, under, envelope)
    found = at - _carried_on(envelope, at, side.after, middle, room)
    out = EDGE.out if under > EDGE.stands_clear_db else EDGE.out_clear
    return _Crossing(float(np.clip(found, first - out, first + EDGE.inside)), under, envelope)


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
    half = np.flatnonzero(amplitude >= EDGE.halfway * whole)
    if not len(half) or half[0] == 0:
        return 0.0
    rise = (amplitude[half[0]] - amplitude[0]) / half[0]
    edge = whole * 10 ** (-EDGE.below_median_db / 20)
    if rise <= 0 or amplitude[0] <= edge:
        return 0.0
    return min((amplitude[0] - edge) / rise, EDGE.farthest_s / STEP_S)


def _before_echo(envelope: np.ndarray, end: float, first: int) -> float:
    """The steep fall before a slower tail, where there is one: a room rings on after the voice."""
    last = int(end)
    begin = max(last - EDGE.look_back, first + EDGE.fall)
    if last - begin < EDGE.least_tail or last + EDGE.fall >= len(envelope):
        return end
    at = np.arange(begin, last - EDGE.fall)
    drops = envelope[at - EDGE.fall] - envelope[at + EDGE.fall]
    knee = int(at[drops.argmax()])
    left = last - (knee + EDGE.fall)
    if drops.max() < EDGE.fall_db or left < EDGE.least_tail:
        return end
    tail = (envelope[knee + EDGE.fall] - envelope[last]) / left * 2 * EDGE.fall
    later = envelope[last + 4 * EDGE.fall : last + 8 * EDGE.fall]
    if len(later) and (envelope[last] - later.mean()) / 3 > max(
        EDGE.ends_times * tail, EDGE.ends_db
    ):
        return end  # An echo fades on: what ends by itself is voice.
    return float(knee + EDGE.fall) if drops.max() > EDGE.steeper * max(tail, 0.1) else end
