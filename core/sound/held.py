"""Which frames are held voice, and which stretches of them belong to one hold.

How it works. Voiced frames are cut into runs wherever the pitch leaps. Within each run `steadiness` tells which
frames are held: there level and timbre follow the pitch, while in talk they move on their own. What is left are
pieces, some held by their own steadiness, some only fragments beside them. Pieces are read in order of time and
joined to the one before when they belong to one hold: the gap is short and pitch, timbre and level agree, or the
voice goes on unbroken over a leap, or it leaves and comes back to where it was. Stretches that hold nothing of
their own or are too short are dropped, so talk leaves none. Then a guide tone is told from a voice: a tone
flutters and spreads far less than any voice beside it. The longest stretch left is the hold; a short one must not
drown in talk around it. Last, a few frames at either end in which the voice was heard an octave or a twelfth off
are put right.

Counts without another unit are frames of 10 ms.
"""

from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from core.sound.kernel import HOP_S
from core.sound.settings.held import HELD
from core.sound.settings.steadiness import STEADINESS
from core.sound.steadiness import held_mask
from core.sound.voicing import Voicing, flutter_cents, runs, spread_cents


@dataclass(frozen=True, slots=True)
class Region:
    """Frames first … after − 1 of held voice. `held`: by its own steadiness, not as a fragment."""

    first: int
    after: int
    held: bool = True

    @property
    def seconds(self) -> float:
        return (self.after - self.first) * HOP_S


def voice_runs(voicing: Voicing) -> list[tuple[int, int]]:
    """Runs of voice without a jump of pitch inside; strays under 30 ms are left out."""
    found = []
    for first, after in runs(voicing.voiced):
        steps = np.abs(np.diff(voicing.semitones[first:after])) > HELD.jump_semitones
        cuts = [first, *(first + 1 + np.flatnonzero(steps)), after]
        found += [(int(a), int(b)) for a, b in pairwise(cuts)]
    return [(a, b) for a, b in found if b - a >= HELD.least_run]


def held_regions(voicing: Voicing) -> list[Region]:
    """Stretches of held voice, joined over short gaps; talk leaves none. In order of time."""
    pieces: list[Region] = []
    for first, after in voice_runs(voicing):
        pieces += _held_in(voicing, first, after)
    joined: list[Region] = []
    for place, piece in enumerate(pieces):
        follows = pieces[place + 1] if place + 1 < len(pieces) else None
        if joined and (
            _belong(voicing, joined[-1], piece) or _inside(voicing, joined[-1], piece, follows)
        ):
            before = joined[-1]
            joined[-1] = Region(before.first, piece.after, before.held or piece.held)
        else:
            joined.append(piece)
    return [r for r in joined if r.held and r.seconds >= HELD.shortest_hold_s]


def without_tones(voicing: Voicing, regions: list[Region]) -> list[Region]:
    """The regions that are a voice and not a guide tone beside one."""
    flutters = [flutter_cents(_inner(voicing, r)) for r in regions if r.seconds >= HELD.sure_s]
    liveliest = max((f for f in flutters if np.isfinite(f)), default=np.inf)
    return [r for r in regions if not _is_tone(voicing, r, beside=liveliest)]


def the_hold(voicing: Voicing, regions: list[Region]) -> Region | None:
    """The longest region; None where all may be talk."""
    best = max(regions, key=lambda r: r.seconds, default=None)
    if best is None or best.seconds >= HELD.sure_s:
        return best
    held = sum(r.after - r.first for r in regions)
    talk = int(voicing.voiced.sum()) - held
    return None if talk > HELD.talk_times * (best.after - best.first) else best


def with_mistaken_edges(voicing: Voicing, region: Region) -> tuple[Voicing, Region]:
    """The region with the few frames beside it in which its own voice was heard an octave or a
    twelfth off, as where it rises out of a hum; their pitch is put right."""
    semitones = voicing.semitones.copy()
    ends = []
    for edge, way in ((region.first, -1), (region.after - 1, 1)):
        own = float(
            np.nanmedian(semitones[max(edge - HELD.near, region.first) : edge + HELD.near + 1])
        )
        last = edge
        for at in range(edge + way, edge + way * (HELD.mistaken + 1), way):
            if not 0 <= at < len(semitones) or abs(at - last) > HELD.unbroken:
                break
            off = next(
                (
                    o
                    for o in HELD.mistaken_by_semitones
                    if abs(semitones[at] - own - o) < HELD.same_octave_semitones
                ),
                None,
            )
            if off is not None:
                semitones[at] -= off
                last = at
        ends.append(last)
    whole = Region(ends[0], ends[1] + 1, region.held)
    return replace(voicing, semitones=semitones), whole


def _held_in(voicing: Voicing, first: int, after: int) -> list[Region]:
    """Held parts of one run, and the run itself as a fragment where it is too short to tell."""
    part = slice(first, after)
    if after - first < STEADINESS.shortest:
        calm = (
            after - first >= HELD.least_fragment
            and np.ptp(voicing.semitones[part][2:-2]) < HELD.calm_fragment_semitones
        )
        return [Region(first, after, held=False)] if calm else []
    around = slice(max(first - HELD.alone, 0), after + HELD.alone)
    held = held_mask(
        voicing.semitones[part],
        voicing.level_db[part],
        voicing.shape_db[part],
        alone=int(voicing.voiced[around].sum()) <= after - first,
    )
    found = [Region(first + a, first + b) for a, b in runs(held)]
    if not found:
        return [Region(first, after, held=False)]
    merged = [found[0]]
    for region in found[1:]:
        if _alike(voicing, merged[-1], region, HELD.same_shape_unbroken_db):
            merged[-1] = replace(merged[-1], after=region.after)
        else:
            merged.append(region)
    merged[0] = replace(merged[0], first=_reach(voicing, merged[0].first, first, -1))
    merged[-1] = replace(merged[-1], after=_reach(voicing, merged[-1].after - 1, after - 1, 1) + 1)
    return merged


def _reach(voicing: Voicing, at: int, end: int, way: int) -> int:
    """From a held frame outward to the end of its run, as long as the pitch stays near."""
    near = (
        voicing.semitones[at : at + HELD.near]
        if way < 0
        else voicing.semitones[at - HELD.near : at + 1]
    )
    middle = np.median(near) if len(near) else voicing.semitones[at]
    stop = at
    while stop != end and abs(stop - at) < HELD.extend:
        if abs(voicing.semitones[stop + way] - middle) > HELD.same_pitch_semitones:
            break
        stop += way
    return stop


def _belong(voicing: Voicing, one: Region, two: Region) -> bool:
    """Whether two pieces in order of time are one voice going on."""
    gap = two.first - one.after
    if gap * HOP_S >= HELD.longest_gap_s or not (one.held or two.held):
        return False
    if not all(_may_hang_on(r, other) for r, other in ((one, two), (two, one))):
        return False
    apart = _semitones_apart(voicing, one, two)
    if gap <= HELD.unbroken and apart > HELD.same_pitch_semitones:
        leap = apart < HELD.widest_leap_semitones and one.held and two.held
        return leap and (
            _back_home(voicing, one, two)
            or _alike(voicing, one, two, HELD.same_shape_leap_db, HELD.same_level_db)
        )
    if gap <= HELD.unbroken:
        return _alike(voicing, one, two, HELD.same_shape_unbroken_db)
    if apart > HELD.same_pitch_semitones:
        return False
    short = all(r.held or r.after - r.first < STEADINESS.shortest for r in (one, two))
    if not short and gap > HELD.hardly_broken:
        return False
    tones = _tone_beside(voicing, one, two) or _tone_beside(voicing, two, one)
    return not tones and _alike(voicing, one, two, HELD.same_shape_db, HELD.same_level_db)


def _back_home(voicing: Voicing, one: Region, two: Region) -> bool:
    """Whether a voice that leapt away comes back to where most of it was, in pitch and level."""
    before, there = slice(one.first, one.after), _end(voicing, two, last=False)
    apart = np.nanmedian(voicing.semitones[before]) - np.median(voicing.semitones[there])
    louder_db = np.median(voicing.level_db[before]) - np.median(voicing.level_db[there])
    return bool(abs(apart) < HELD.same_pitch_semitones and abs(louder_db) < HELD.any_level_db)


def _may_hang_on(piece: Region, other: Region) -> bool:
    """Whether a piece is held itself or short enough to be the ragged end of another."""
    return piece.held or piece.seconds <= min(HELD.ragged_share * other.seconds, HELD.ragged_s)


def _inside(voicing: Voicing, one: Region, piece: Region, after: Region | None) -> bool:
    """Whether a piece between two of the same voice, unbroken, is a leap of that voice."""
    if after is None or piece.seconds > HELD.longest_leap_s:
        return False
    if max(piece.first - one.after, after.first - piece.after) > HELD.unbroken:
        return False
    same = _semitones_apart(voicing, one, after) < HELD.same_pitch_semitones
    return same and _alike(voicing, one, after, HELD.same_shape_unbroken_db)


def _semitones_apart(voicing: Voicing, one: Region, two: Region) -> float:
    a, b = _end(voicing, one, last=True), _end(voicing, two, last=False)
    return float(abs(np.median(voicing.semitones[a]) - np.median(voicing.semitones[b])))


def _alike(
    voicing: Voicing,
    one: Region,
    two: Region,
    within_db: float,
    level_db: float = HELD.any_level_db,
) -> bool:
    """Whether the sound at the end of one and at the start of the other is of one voice."""
    a, b = _end(voicing, one, last=True), _end(voicing, two, last=False)
    level = abs(np.median(voicing.level_db[a]) - np.median(voicing.level_db[b]))
    apart = np.median(voicing.shape_db[a], axis=0) - np.median(voicing.shape_db[b], axis=0)
    return bool(level < level_db and np.sqrt(np.mean(apart**2)) < within_db)


def _end(voicing: Voicing, region: Region, *, last: bool) -> np.ndarray:
    """The voiced frames of the last (first) 0.4 s of a region, its outer 30 ms left out."""
    inner = (
        (region.first + HELD.end_outer, region.after - HELD.end_outer - 1)
        if region.after - region.first > HELD.end_least
        else (region.first, region.after)
    )
    frames = np.arange(*inner)
    frames = frames[voicing.voiced[frames]]
    return frames[-HELD.near :] if last else frames[: HELD.near]


def _inner(voicing: Voicing, region: Region) -> np.ndarray:
    return voicing.semitones[region.first + HELD.inner : region.after - HELD.inner]


def _tone_beside(voicing: Voicing, region: Region, other: Region) -> bool:
    """Whether a region is a steady tone beside the voice of the other."""
    return _is_tone(voicing, region, beside=flutter_cents(_inner(voicing, other)))


def _is_tone(voicing: Voicing, region: Region, *, beside: float) -> bool:
    """Whether a region is a steady tone; beside: flutter in cents of the voice it stands beside,
    inf for none, and then nothing is one."""
    mine = _inner(voicing, region)
    if not np.isfinite(beside) or spread_cents(mine) > HELD.tone_spread_cents:
        return False
    return flutter_cents(mine) < min(HELD.tone_flutter_cents, HELD.tone_flutter_share * beside)
