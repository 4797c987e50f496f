"""The reed bed: the client's range along the foot, a reed for each note, the goal as waterline."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, field

from django.utils.safestring import SafeString

from core.notes.note import Note
from core.notes.range import ComfortableRange
from web.design.drawings.svg import CLAY, FAINT, INK, PAPER, REED, STRAW, WATER, Svg

WIDTH, HEIGHT = 880, 452
_LEFT, _RIGHT, _TOP, _GROUND = 52, 28, 34, 356
_BEYOND = 3
_HZ_WIDTH = 62
_HZ_ROOM = 2.3
"""Three figures need so many times the size of the text; with less room the note's name stands alone."""
_TEXT, _TEXT_EDITABLE = 14.5, 17.0
"""Sizes of every text: the Client page shows the drawing at nine tenths, the Bench at eight, and 13 px are
the least."""
_MOST_LINES = 8


@dataclass(frozen=True, slots=True, kw_only=True)
class Reed:
    """One prescribed hold. Seconds throughout; `lane` sets reeds on the same note apart."""

    note: Note
    seconds: float
    key: str = ""
    name: str = ""
    lane: int = 0
    attempts_s: Sequence[float] = ()
    earlier_s: Sequence[float] = ()
    why_outside: str | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Bed:
    """What the drawing shows; `goal_s` is the waterline, `a4_hz` names the notes in Hz."""

    comfort: ComfortableRange
    reeds: Sequence[Reed]
    goal_s: float | None = None
    a4_hz: float = 440.0
    editable: bool = False
    label: str = field(default="Reed bed")


def _size(bed: Bed) -> float:
    return _TEXT_EDITABLE if bed.editable else _TEXT


def reed_bed(bed: Bed) -> SafeString:
    """The drawing as SVG. Editable reeds carry data-key and can be focused."""
    place = _Scale(bed)
    role = "group" if bed.editable else "img"
    svg = Svg(WIDTH, HEIGHT, label=bed.label, kind="reed-bed", role=role)
    _hatch(svg)
    _seconds(svg, place, _size(bed))
    _foot(svg, bed, place)
    if bed.goal_s:
        _waterline(svg, bed.goal_s, place, _size(bed))
    for reed in bed.reeds:
        _reed(svg, reed, place, editable=bed.editable)
    return svg.done()


class _Scale:
    """Semitones to x and seconds to y."""

    def __init__(self, bed: Bed) -> None:
        numbers = [reed.note.number for reed in bed.reeds]
        self.first = min([bed.comfort.lowest.number - _BEYOND, *numbers])
        self.last = max([bed.comfort.highest.number + _BEYOND, *numbers])
        self.step = (WIDTH - _LEFT - _RIGHT) / (self.last - self.first + 1)
        tops = [value for reed in bed.reeds for value in (reed.seconds, *reed.attempts_s)]
        self.top_s = max([*tops, bed.goal_s or 0.0, 4.0]) * 1.14

    def x(self, number: float) -> float:
        return _LEFT + (number - self.first + 0.5) * self.step

    def y(self, seconds: float) -> float:
        return _GROUND - (_GROUND - _TOP) * min(seconds, self.top_s) / self.top_s

    @property
    def px_a_second(self) -> float:
        return (_GROUND - _TOP) / self.top_s


def _hatch(svg: Svg) -> None:
    svg.open("defs")
    svg.open(
        "pattern", id="beyond", width=6, height=6, patternUnits="userSpaceOnUse",
        patternTransform="rotate(45)",
    )  # fmt: skip
    svg.add("line", x1=0, y1=0, x2=0, y2=6, stroke=INK, stroke_width=1, stroke_opacity=0.35)
    svg.close("pattern")
    svg.close("defs")


def _seconds(svg: Svg, place: _Scale, size: float) -> None:
    steps = (s for s in (1, 2, 5, 10, 20, 40) if place.top_s / s <= _MOST_LINES)
    step = next(steps, math.ceil(place.top_s / _MOST_LINES))
    value = step
    while value < place.top_s:
        y = place.y(value)
        svg.add("line", x1=_LEFT, y1=y, x2=WIDTH - _RIGHT, y2=y, stroke=FAINT, stroke_width=1)
        svg.text(_LEFT - 8, y + 4, f"{value} s", text_anchor="end", font_size=size)
        value += step


def _foot(svg: Svg, bed: Bed, place: _Scale) -> None:
    comfort, half, size = bed.comfort, place.step / 2, _size(bed)
    line = size + 1
    for number in range(place.first, place.last + 1):
        inside = comfort.lowest.number <= number <= comfort.highest.number
        x = place.x(number) - half
        fill = STRAW if inside else "url(#beyond)"
        svg.add(
            "rect", x=x + 0.5, y=_GROUND, width=place.step - 1, height=16, fill=fill,
            fill_opacity=0.45 if inside else 1.0, stroke=INK, stroke_width=0.5,
        )  # fmt: skip
    named = {reed.note for reed in bed.reeds} | {comfort.lowest, comfort.highest}
    numbers = [note.number for note in named]
    for note in sorted(named):
        x = place.x(note.number)
        nearest = min((abs(note.number - n) for n in numbers if n != note.number), default=99)
        room = nearest * place.step
        ends = note in (comfort.lowest, comfort.highest)
        svg.text(x, _GROUND + 33, note.name, text_anchor="middle", font_weight=600, font_size=size)
        if room >= _HZ_ROOM * size:
            unit = " Hz" if room >= _HZ_WIDTH else ""
            hz = f"{note.hz(bed.a4_hz):.0f}{unit}"
            svg.text(x, _GROUND + 33 + line, hz, text_anchor="middle", font_size=size)
        if ends:
            word = "lowest" if note == comfort.lowest else "highest"
            svg.text(x, _GROUND + 33 + 2 * line, word, text_anchor="middle", font_size=size)
    if comfort.transition:
        x = place.x(comfort.transition.number)
        svg.add(
            "line", x1=x, y1=_TOP, x2=x, y2=_GROUND + 16, stroke=INK, stroke_width=1,
            stroke_dasharray="2 5",
        )  # fmt: skip
        svg.text(
            x,
            _GROUND + 34 + 3 * line,
            f"transition {comfort.transition}",
            text_anchor="middle",
            font_size=size,
        )
    if comfort.speaking:
        x = place.x(comfort.speaking.number)
        svg.add(
            "path", d=f"M{x - 7:.1f} {_GROUND + 8} q3.5 -6 7 0 t7 0", stroke=INK,
            stroke_width=2, fill="none",
        )  # fmt: skip
        svg.text(
            x,
            _GROUND + 34 + 3 * line,
            f"speaking {comfort.speaking}",
            text_anchor="middle",
            font_size=size,
        )


def _waterline(svg: Svg, goal_s: float, place: _Scale, size: float) -> None:
    y = place.y(goal_s)
    waves = " ".join("t12 0" for _ in range(int((WIDTH - _LEFT - _RIGHT) / 12)))
    svg.add(
        "path", d=f"M{_LEFT} {y:.1f} q6 -3 12 0 {waves}", stroke=WATER, stroke_width=1.5,
        fill="none",
    )  # fmt: skip
    svg.text(
        WIDTH - _RIGHT, y - 6, f"goal {goal_s:g} s", text_anchor="end", fill=WATER, font_size=size
    )


def _reed(svg: Svg, reed: Reed, place: _Scale, *, editable: bool) -> None:
    x = place.x(reed.note.number) + reed.lane * 18
    y = place.y(reed.seconds)
    bend = 16 if reed.why_outside else 0
    colour = CLAY if reed.why_outside else REED
    words = f"{reed.name} {reed.note} {reed.seconds:g} s".strip()
    svg.open(
        "g", class_="reed", data_key=reed.key if editable else None, tabindex=0 if editable else None,
        role="slider" if editable else None, aria_label=words if editable else None,
        aria_valuenow=reed.seconds if editable else None,
        aria_valuetext=f"{reed.note}, {reed.seconds:g} seconds" if editable else None,
        data_px_semitone=round(place.step, 2) if editable else None,
        data_px_second=round(place.px_a_second, 3) if editable else None,
    )  # fmt: skip
    svg.title(f"{words}. {reed.why_outside or ''}".strip())
    for place_back, earlier in enumerate(reversed(tuple(reed.earlier_s))):
        left = x - 7 - 5 * place_back
        svg.add(
            "line", x1=left, y1=_GROUND, x2=left, y2=place.y(earlier), stroke=REED,
            stroke_width=2, stroke_opacity=max(0.5 - 0.12 * place_back, 0.14),
        )  # fmt: skip
    middle = (_GROUND + y) / 2
    svg.add(
        "path", d=f"M{x:.1f} {_GROUND} Q{x + 3:.1f} {middle:.1f} {x + bend:.1f} {y:.1f}",
        stroke=colour, stroke_width=2.5 if reed.lane == 0 else 1.5, fill="none", class_="stem",
    )  # fmt: skip
    for number, seconds in enumerate(reed.attempts_s):
        side = 15 if number % 2 == 0 else 25
        svg.add(
            "circle", cx=x + (side if reed.lane == 0 else 0), cy=place.y(seconds), r=4, fill=PAPER, stroke=INK,
            stroke_width=1.5,
        )  # fmt: skip
    svg.open("g", class_="head")
    svg.add(
        "rect", x=x + bend - 5, y=y, width=10, height=min(26, max(_GROUND - y - 2, 4)), rx=5,
        fill=colour if reed.lane == 0 else PAPER, stroke=colour, stroke_width=1.5,
    )  # fmt: skip
    svg.add("line", x1=x + bend, y1=y - 8, x2=x + bend, y2=y, stroke=colour, stroke_width=1.5)
    svg.close()
    if editable or reed.lane == 0:
        svg.text(
            x + bend, y - 12, f"{reed.seconds:g}", text_anchor="middle", font_weight=600,
            fill=colour, class_="seconds", font_size=_TEXT_EDITABLE if editable else _TEXT,
        )  # fmt: skip
    svg.close()
