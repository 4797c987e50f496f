"""Notes sung against a scale pattern: which were sung, where each starts, how far off it is.

The pitch is cut into notes by the cheapest piecewise constant line through it (Viterbi over a
quarter-semitone grid; a new note costs as much as 50 ms spent a semitone off); the notes are then
laid against those of the pattern in the key that fits best (least-cost alignment).
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from core.kinds.pattern.figures import SungNote, SungPattern
from core.kinds.pattern.settings import NOTES
from core.notes.note import Note
from core.sound.held import Region
from core.sound.kernel import HOP_S
from core.sound.voicing import runs


@dataclass(frozen=True, slots=True)
class _Sung:
    """Frames first … after − 1 at a pitch in semitones (69 = A4)."""

    first: int
    after: int
    pitch: float


def pattern_of(
    semitones: np.ndarray, region: Region, wanted: Sequence[Note], a4_hz: float
) -> SungPattern:
    """semitones: pitch re 1 Hz every 10 ms, NaN = unvoiced, (n,); wanted: the notes prescribed."""
    pitch = semitones - 12 * np.log2(a4_hz) + 69
    pitch[: region.first] = pitch[region.after :] = np.nan
    sung = _notes_in(pitch)
    targets = [float(note.number) for note in wanted]
    key, pairs = _best_key(sung, targets)
    by_target = {t: s for s, t in pairs}
    matched = {s for s, _ in pairs}
    notes = tuple(
        _as_note(sung, by_target[place], int(target) + key, pitch)
        for place, target in enumerate(targets)
        if place in by_target
    )
    added = tuple(
        _as_note(sung, index, round(one.pitch), pitch)
        for index, one in enumerate(sung)
        if index not in matched
        and (one.after - one.first) * HOP_S >= NOTES.added_s
        and not any(_is_same(one, sung[near]) for near in matched)
    )
    breaths = tuple(
        (a * HOP_S, b * HOP_S)
        for a, b in runs(np.isnan(pitch[region.first : region.after]))
        if (b - a) * HOP_S >= NOTES.breath_s
    )
    breaths = tuple((a + region.first * HOP_S, b + region.first * HOP_S) for a, b in breaths)
    between = [*(start for start, _end in breaths), *(note.start_s for note in added)]
    note_s, sd = _tempo(notes, sorted(by_target), between)
    return SungPattern(
        notes=notes,
        key_semitones=key,
        missing=tuple(place for place in range(len(targets)) if place not in by_target),
        added=added,
        note_s=note_s,
        tempo_sd_percent=sd,
        breaths=breaths,
    )


def _notes_in(pitch: np.ndarray) -> list[_Sung]:
    voiced = ~np.isnan(pitch)
    for first, after in runs(~voiced):
        short = after - first < NOTES.same_across and first > 0 and after < len(pitch)
        if short and abs(pitch[after] - pitch[first - 1]) < NOTES.same_semitones:
            voiced[first:after] = True
    found = []
    for first, after in runs(voiced):
        part = pitch[first:after]
        known = ~np.isnan(part)
        part = np.interp(np.arange(len(part)), np.flatnonzero(known), part[known])
        cuts = _cuts(part)
        for a, b in zip([0, *cuts], [*cuts, len(part)], strict=True):
            if b - a >= NOTES.shortest:
                trim = min(NOTES.trimmed, (b - a) // 4)
                middle = float(np.median(part[a + trim : b - trim]))
                found.append(_Sung(first + a, first + b, middle))
    return found


def _cuts(part: np.ndarray) -> list[int]:
    """Where a new note begins in an unbroken run of pitch in semitones, shape (m,)."""
    grid = np.arange(part.min() - NOTES.grid, part.max() + 2 * NOTES.grid, NOTES.grid)
    off = np.minimum(np.abs(part[:, None] - grid), NOTES.farthest)
    total = off[0].copy()
    came = np.zeros(off.shape, dtype=np.int32)
    stays = np.arange(len(grid))
    for frame in range(1, len(part)):
        best = int(total.argmin())
        moves = total[best] + NOTES.new_note < total
        came[frame] = np.where(moves, best, stays)
        total = np.where(moves, total[best] + NOTES.new_note, total) + off[frame]
    state = int(total.argmin())
    cuts = []
    for frame in range(len(part) - 1, 0, -1):
        before = int(came[frame, state])
        if before != state:
            cuts.append(frame)
            state = before
    return cuts[::-1]


def _is_same(one: _Sung, two: _Sung) -> bool:
    """Whether two pieces that follow each other are one note that slid or wavered."""
    touch = max(two.first - one.after, one.first - two.after) < NOTES.same_across
    return touch and abs(one.pitch - two.pitch) < NOTES.same_semitones


def _best_key(sung: list[_Sung], targets: list[float]) -> tuple[int, list[tuple[int, int]]]:
    """Semitones from the prescribed key and the pairs (sung, target) that belong together."""
    if not sung or not targets:
        return 0, []
    middle = round(float(np.median([one.pitch for one in sung]) - np.median(targets)))
    beside = NOTES.keys_beside
    keys = dict.fromkeys([0, 12, -12, *range(middle - beside, middle + beside + 1)])
    costs = {}
    for key in keys:
        cost, pairs = _laid_against([one.pitch - key for one in sung], targets)
        away = (
            0.0 if key == 0 else NOTES.other_key_cost + NOTES.between_octaves_cost * (key % 12 != 0)
        )
        costs[key] = (cost + away, pairs)
    key = min(costs, key=lambda k: costs[k][0])
    return key, costs[key][1]


def _laid_against(pitches: list[float], targets: list[float]) -> tuple[float, list]:
    rows, columns = len(pitches) + 1, len(targets) + 1
    total = np.zeros((rows, columns))
    total[:, 0] = NOTES.left_out_cost * np.arange(rows)
    total[0] = NOTES.left_out_cost * np.arange(columns)
    for i in range(1, rows):
        for j in range(1, columns):
            off = min(abs(pitches[i - 1] - targets[j - 1]), NOTES.most_off * 2)
            match = total[i - 1, j - 1] + (
                off if off < NOTES.most_off else 2 * NOTES.left_out_cost + off
            )
            total[i, j] = min(
                match, total[i - 1, j] + NOTES.left_out_cost, total[i, j - 1] + NOTES.left_out_cost
            )
    pairs, i, j = [], rows - 1, columns - 1
    while i and j:
        if total[i, j] == total[i - 1, j] + NOTES.left_out_cost:
            i -= 1
        elif total[i, j] == total[i, j - 1] + NOTES.left_out_cost:
            j -= 1
        else:
            i, j = i - 1, j - 1
            pairs.append((i, j))
    return float(total[-1, -1]), pairs[::-1]


def _as_note(sung: list[_Sung], index: int, number: int, pitch: np.ndarray) -> SungNote:
    one = sung[index]
    before = sung[index - 1] if index else None
    after = sung[index + 1] if index + 1 < len(sung) else None
    return SungNote(
        name=Note(number).name,
        start_s=_crossing(pitch, before, one) if _touch(before, one) else one.first * HOP_S,
        end_s=_crossing(pitch, one, after) if _touch(one, after) else one.after * HOP_S,
        cents=100 * (one.pitch - number),
    )


def _touch(one: _Sung | None, two: _Sung | None) -> bool:
    return one is not None and two is not None and two.first - one.after < NOTES.same_across


def _crossing(pitch: np.ndarray, one: _Sung | None, two: _Sung | None) -> float:
    """Where the pitch passes the middle between two notes that follow each other, s."""
    if one is None or two is None:
        return 0.0
    middle = (one.pitch + two.pitch) / 2
    near = NOTES.crossing
    start, end = max(two.first - near, one.first), min(two.first + near, two.after)
    side = np.sign(pitch[start:end] - middle) == np.sign(two.pitch - middle)
    there = np.flatnonzero(side[1:] & ~side[:-1])
    if not len(there):
        return two.first * HOP_S
    at = start + int(there[np.abs(there + start + 1 - two.first).argmin()])
    left, right = pitch[at], pitch[at + 1]
    part = (middle - left) / (right - left) if np.isfinite(left) and right != left else 1.0
    return (at + float(np.clip(part, 0, 1))) * HOP_S


def _tempo(
    notes: Sequence[SungNote], places: list[int], between_s: list[float]
) -> tuple[float | None, float | None]:
    """Seconds from note to note and its SD in percent, over neighbours in the pattern with nothing
    (a breath, an added note: where they start, s) between them."""
    steps = [
        two.start_s - one.start_s
        for one, two, a, b in zip(notes, notes[1:], places, places[1:], strict=False)
        if b == a + 1 and not any(one.start_s < start < two.start_s for start in between_s)
    ]
    if not steps:
        return None, None
    middle = float(np.median(steps))
    return middle, float(np.std(steps)) / middle * 100 if len(steps) > 1 else None
