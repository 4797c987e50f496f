"""The still line of one attempt, at rest: its pitch as a ribbon over the target, its level below,
and where the hold begins and ends. Where no voice is asked for or heard, the level has all room."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from django.utils.safestring import SafeString

from core.notes.note import Note
from web.design.drawings.held_marks import (
    ROW,
    MarkedStretch,
    Rings,
    draw_notes,
    draw_rings,
    draw_stretches,
)
from web.design.drawings.svg import CLAY, FAINT, INK, REED, STRAW, WATER, Svg
from web.design.numbers import number_text

WIDTH, LEFT, RIGHT = 860.0, 56.0, 14.0
PITCH_TOP, PITCH_FOOT, LEVEL_TOP, LEVEL_FOOT, HEIGHT = 34.0, 250.0, 296.0, 376.0, 404.0
MOST_POINTS = 1_200
MOST_NOTES = 8
CALM_SEMITONES = 0.5
ROOM_SEMITONES = 1.2
ROOM_FOR_SECONDS = 64.0
THINNEST, THICKEST = 1.2, 5.0


@dataclass(frozen=True, slots=True, kw_only=True)
class HeldLine:
    """Pitch (Hz, NaN = none) and level (dBFS) every `hop_s` s, both shape (n,); ends in s.

    `moved`: the ends as set by hand; `editable` gives the ends handles. `gaps` and `jumps_s` are
    the breaks; `notes` those of a pattern (start and end in s); `rings` and `stretches` stand in a
    row between pitch and level.
    """

    f0_hz: np.ndarray
    level_db: np.ndarray
    hop_s: float
    label: str
    words: dict[str, str]
    ends_s: tuple[float, float] | None = None
    moved_s: tuple[float, float] | None = None
    gaps: Sequence[tuple[float, float]] = ()
    jumps_s: Sequence[float] = ()
    target: Note | None = None
    notes: Sequence[tuple[float, float, Note]] = ()
    rings: Rings | None = None
    stretches: Sequence[MarkedStretch] = ()
    a4_hz: float = 440.0
    editable: bool = False


def held_line(line: HeldLine) -> SafeString:
    """The drawing as SVG; words: "target", "level", "gap", "jump", "begin", "end"."""
    place = _Scale(line)
    svg = Svg(WIDTH, HEIGHT, label=line.label, kind="held-line", role="group")
    _ground(svg, place, line)
    _pitch(svg, place, line)
    _level(svg, place, line)
    _breaks(svg, place, line)
    draw_notes(svg, line.notes, place.x, place.y)
    draw_stretches(svg, line.stretches, place.x, place.row)
    if line.rings:
        draw_rings(svg, line.rings, place.x, place.row)
    _ends(svg, place, line)
    svg.add("line", class_="playhead", x1=LEFT, x2=LEFT, y1=PITCH_TOP - 6, y2=LEVEL_FOOT, stroke=WATER,
            stroke_width=3, visibility="hidden", data_px_a_second=place.px_a_second)  # fmt: skip
    return svg.done()


class _Scale:
    """Seconds, semitones and decibels to user units."""

    def __init__(self, line: HeldLine) -> None:
        self.seconds = max(len(line.level_db) * line.hop_s, 1.0)
        self.px_a_second = (WIDTH - LEFT - RIGHT) / self.seconds
        with np.errstate(invalid="ignore"):
            self.notes = 69 + 12 * np.log2(line.f0_hz / line.a4_hz)
        heard = self.notes[~np.isnan(self.notes)]
        wanted = [float(line.target.number)] if line.target else []
        wanted += [float(note.number) for _start, _end, note in line.notes]
        self.pitched = bool(wanted) or len(heard) > 0
        self.row = ROW if self.pitched else PITCH_TOP + 26
        self.level_top = LEVEL_TOP if self.pitched else PITCH_TOP + 60
        span = [*wanted, *(np.percentile(heard, [1, 99]) if len(heard) else [])] or [57.0, 69.0]
        self.low, self.high = min(span) - ROOM_SEMITONES, max(span) + ROOM_SEMITONES
        loud = line.level_db[line.level_db > -100]
        top = float(np.ceil(loud.max() / 10) * 10) if len(loud) else 0.0
        self.loudest, self.quietest = top, min(top - 30, max(top - 70, _floor_ten(loud)))

    def x(self, seconds: float) -> float:
        return LEFT + (WIDTH - LEFT - RIGHT) * min(max(seconds / self.seconds, 0), 1)

    def y(self, note: float) -> float:
        share = (note - self.low) / (self.high - self.low)
        return PITCH_FOOT - (PITCH_FOOT - PITCH_TOP) * min(max(share, 0), 1)

    def level_y(self, level_db: float) -> float:
        share = (level_db - self.quietest) / (self.loudest - self.quietest)
        return LEVEL_FOOT - (LEVEL_FOOT - self.level_top) * min(max(share, 0), 1)


def _floor_ten(levels: np.ndarray) -> float:
    return float(np.floor(np.percentile(levels, 5) / 10) * 10) if len(levels) else -70.0


def _ground(svg: Svg, place: _Scale, line: HeldLine) -> None:
    ends = line.moved_s or line.ends_s
    if ends:
        svg.add(
            "rect", x=place.x(ends[0]), y=PITCH_TOP, width=place.x(ends[1]) - place.x(ends[0]),
            height=LEVEL_FOOT - PITCH_TOP, fill="#EFEAD9", class_="held",
        )  # fmt: skip
    first, last = int(np.ceil(place.low)), int(place.high)
    step = max(-(-(last - first + 1) // MOST_NOTES), 1)
    for number in range(first, last + 1, step) if place.pitched else ():
        y = place.y(number)
        svg.add("line", x1=LEFT, x2=WIDTH - RIGHT, y1=y, y2=y, stroke=FAINT, stroke_width=1)
        svg.text(LEFT - 8, y + 4, Note(number), text_anchor="end", font_size=14)
    if line.target:
        middle = line.target.number
        svg.add(
            "rect", x=LEFT, y=place.y(middle + CALM_SEMITONES), width=WIDTH - LEFT - RIGHT,
            height=place.y(middle - CALM_SEMITONES) - place.y(middle + CALM_SEMITONES),
            fill=WATER, fill_opacity=0.1,
        )  # fmt: skip
        y = place.y(middle)
        svg.add("line", x1=LEFT, x2=WIDTH - RIGHT, y1=y, y2=y, stroke=WATER, stroke_width=1.5)
        words = f"{line.words['target']} {line.target}"
        svg.text(WIDTH - RIGHT, y - 6, words, text_anchor="end", fill=WATER, font_size=14)
    for y in (PITCH_FOOT, LEVEL_FOOT) if place.pitched else (LEVEL_FOOT,):
        svg.add("line", x1=LEFT, x2=WIDTH - RIGHT, y1=y, y2=y, stroke=INK, stroke_width=1)
    for second in _ticks(place.seconds):
        x = place.x(second)
        svg.add("line", x1=x, x2=x, y1=LEVEL_FOOT, y2=LEVEL_FOOT + 5, stroke=INK, stroke_width=1)
        svg.text(x, LEVEL_FOOT + 20, f"{number_text(second)} s", text_anchor="middle", font_size=14)


def _ticks(seconds: float) -> list[float]:
    step = next(s for s in (0.5, 1, 2, 5, 10, 20) if seconds / s <= 12 or s == 20)
    return [k * step for k in range(int(seconds / step) + 1)]


def _runs(line: HeldLine) -> list[np.ndarray]:
    """Indices of each unbroken run of voice, thinned where there are very many."""
    voiced = np.flatnonzero(~np.isnan(line.f0_hz))
    step = max(len(line.f0_hz) // MOST_POINTS, 1)
    parts = np.split(voiced, np.flatnonzero(np.diff(voiced) > 1) + 1)
    return [np.append(part[::step], part[-1]) for part in parts if len(part)]


def _pitch(svg: Svg, place: _Scale, line: HeldLine) -> None:
    for run in _runs(line):
        points = []
        for index in run:
            share = (line.level_db[index] - place.quietest) / (place.loudest - place.quietest)
            half = THINNEST + (THICKEST - THINNEST) * min(max(float(share), 0), 1)
            points.append((place.x(index * line.hop_s), place.y(float(place.notes[index])), half))
        upper = [f"{x:.1f},{y - half:.1f}" for x, y, half in points]
        lower = [f"{x:.1f},{y + half:.1f}" for x, y, half in reversed(points)]
        svg.add("polygon", points=" ".join(upper + lower), fill=REED, class_="ribbon")


def _level(svg: Svg, place: _Scale, line: HeldLine) -> None:
    step = max(len(line.level_db) // MOST_POINTS, 1)
    points = [
        f"{place.x(index * line.hop_s):.1f},{place.level_y(float(line.level_db[index])):.1f}"
        for index in range(0, len(line.level_db), step)
    ]
    svg.add("polyline", points=" ".join(points), fill="none", stroke=INK, stroke_width=1.2)
    for level in (place.loudest, place.quietest):
        svg.text(
            LEFT - 8,
            place.level_y(level) + 4,
            f"{level:g}".replace("-", "−"),
            text_anchor="end",
            font_size=14,
        )
    middle = (place.level_y(place.loudest) + place.level_y(place.quietest)) / 2
    for offset, words in ((-4, line.words["level"]), (13, "dBFS")):
        svg.text(LEFT - 8, middle + offset, words, text_anchor="end", font_size=14)


def _breaks(svg: Svg, place: _Scale, line: HeldLine) -> None:
    for start, end in line.gaps:
        x, wide = place.x(start), place.x(end) - place.x(start)
        svg.add("rect", x=x, y=PITCH_TOP, width=max(wide, 2), height=PITCH_FOOT - PITCH_TOP,
                fill=STRAW, fill_opacity=0.45, stroke=CLAY, stroke_width=1)  # fmt: skip
        words = f"{line.words['gap']} {number_text(end - start, '.2f')} s"
        svg.text(x + wide / 2, PITCH_TOP + 12, words, text_anchor="middle", font_size=14, fill=CLAY)
    for second in line.jumps_s:
        x = place.x(second)
        svg.add("line", x1=x, x2=x, y1=PITCH_TOP + 16, y2=PITCH_FOOT, stroke=CLAY,
                stroke_width=1.5, stroke_dasharray="2 3")  # fmt: skip
        svg.text(
            x, PITCH_TOP + 12, line.words["jump"], text_anchor="middle", font_size=14, fill=CLAY
        )


def _ends(svg: Svg, place: _Scale, line: HeldLine) -> None:
    if line.moved_s and line.ends_s:
        for second in line.ends_s:
            x = place.x(second)
            svg.add("line", x1=x, x2=x, y1=PITCH_TOP, y2=LEVEL_FOOT, stroke=INK,
                    stroke_width=1, stroke_dasharray="4 4", class_="measured")  # fmt: skip
    ends = line.moved_s or line.ends_s
    if not ends:
        return
    for name, second in zip(("onset", "offset"), ends, strict=True):
        x, colour = place.x(second), CLAY if line.moved_s else INK
        words = line.words["begin" if name == "onset" else "end"]
        svg.open(
            "g", class_="hold-end", transform=f"translate({x:.2f} 0)", data_end=name,
            data_left=LEFT, data_px_a_second=place.px_a_second,
            tabindex=0 if line.editable else None, role="slider" if line.editable else None,
            aria_label=words, aria_valuenow=round(second, 2), aria_valuemin=0,
            aria_valuemax=round(place.seconds, 2), aria_valuetext=f"{number_text(second, '.2f')} s",
        )  # fmt: skip
        svg.add("rect", x=-10, y=0, width=20, height=LEVEL_FOOT, fill=INK, fill_opacity=0)
        svg.add("line", x1=0, x2=0, y1=PITCH_TOP - 6, y2=LEVEL_FOOT, stroke=colour, stroke_width=2)
        if line.editable:
            svg.add("circle", cx=0, cy=PITCH_TOP - 10, r=6, fill=colour)
        leftward = name == "onset" or x > WIDTH - ROOM_FOR_SECONDS
        anchor, aside = ("end", -11) if leftward else ("start", 11)
        svg.text(aside, PITCH_TOP - 8, f"{number_text(second, '.2f')} s", text_anchor=anchor, fill=colour,
                 font_weight=700)  # fmt: skip
        svg.close()
