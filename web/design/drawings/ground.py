"""The ground that notes stand on: semitones across the foot, seconds upward, the client's own range marked."""

import math
from collections.abc import Iterable
from dataclasses import dataclass, field

from django.utils.translation import gettext as _

from core.notes.note import Note
from core.notes.range import ComfortableRange
from web.design.drawings.svg import FAINT, INK, STRAW, Svg

_LEFT, _RIGHT, _TOP = 52, 28, 34
_FOOT = 96
"""Height under the ground: the strip, the names, the Hz, speaking note and transition."""
_BEYOND = 3
_HZ_WIDTH = 62
_HZ_ROOM = 2.3
"""Three figures need so many times the size of the text; with less room the note's name stands alone."""
_MOST_LINES = 8


@dataclass(frozen=True, slots=True, kw_only=True)
class Ground:
    """numbers: of every note drawn; top_s: the longest time drawn, seconds; width, height and size of the text in
    user units."""

    comfort: ComfortableRange
    numbers: tuple[int, ...] = field(default=())
    top_s: float
    a4_hz: float = 440.0
    width: float = 880
    height: float = 452
    size: float = 14.5

    @property
    def level(self) -> float:
        """y of the ground."""
        return self.height - _FOOT

    @property
    def first(self) -> int:
        return min([self.comfort.lowest.number - _BEYOND, *self.numbers])

    @property
    def last(self) -> int:
        return max([self.comfort.highest.number + _BEYOND, *self.numbers])

    @property
    def px_a_semitone(self) -> float:
        return (self.width - _LEFT - _RIGHT) / (self.last - self.first + 1)

    @property
    def px_a_second(self) -> float:
        return (self.level - _TOP) / self.top_s

    @property
    def sides(self) -> tuple[float, float]:
        """x of the left and right end of what is drawn."""
        return _LEFT, self.width - _RIGHT

    def x(self, number: float) -> float:
        return _LEFT + (number - self.first + 0.5) * self.px_a_semitone

    def y(self, seconds: float) -> float:
        return self.level - (self.level - _TOP) * min(seconds, self.top_s) / self.top_s

    def draw(self, svg: Svg, named: Iterable[Note] = ()) -> None:
        """The lines of seconds and the foot; named: notes that are written out beside the ends of the range."""
        _hatch(svg)
        self._seconds(svg)
        self._strip(svg)
        self._names(svg, {*named, self.comfort.lowest, self.comfort.highest})
        if self.comfort.transition:
            x = self.x(self.comfort.transition.number)
            svg.add(
                "line", x1=x, y1=_TOP, x2=x, y2=self.level + 16, stroke=INK, stroke_width=1,
                stroke_dasharray="2 5",
            )  # fmt: skip
            self._under(svg, x, _("transition %(note)s") % {"note": self.comfort.transition})
        if self.comfort.speaking:
            x = self.x(self.comfort.speaking.number)
            svg.add(
                "path", d=f"M{x - 7:.1f} {self.level + 8} q3.5 -6 7 0 t7 0", stroke=INK,
                stroke_width=2, fill="none",
            )  # fmt: skip
            self._under(svg, x, _("speaking %(note)s") % {"note": self.comfort.speaking})

    def _under(self, svg: Svg, x: float, words: str) -> None:
        y = self.level + 34 + 3 * (self.size + 1)
        svg.text(x, y, words, text_anchor="middle", font_size=self.size)

    def _seconds(self, svg: Svg) -> None:
        steps = (s for s in (1, 2, 5, 10, 20, 40) if self.top_s / s <= _MOST_LINES)
        step = next(steps, math.ceil(self.top_s / _MOST_LINES))
        left, right = self.sides
        value = step
        while value < self.top_s:
            y = self.y(value)
            svg.add("line", x1=left, y1=y, x2=right, y2=y, stroke=FAINT, stroke_width=1)
            svg.text(left - 8, y + 4, f"{value} s", text_anchor="end", font_size=self.size)
            value += step

    def _strip(self, svg: Svg) -> None:
        half = self.px_a_semitone / 2
        for number in range(self.first, self.last + 1):
            inside = self.comfort.lowest.number <= number <= self.comfort.highest.number
            svg.add(
                "rect", x=self.x(number) - half + 0.5, y=self.level, width=self.px_a_semitone - 1, height=16,
                fill=STRAW if inside else "url(#beyond)", fill_opacity=0.45 if inside else 1.0,
                stroke=INK, stroke_width=0.5,
            )  # fmt: skip

    def _names(self, svg: Svg, named: set[Note]) -> None:
        numbers = [note.number for note in named]
        ends = {self.comfort.lowest: _("lowest"), self.comfort.highest: _("highest")}
        line, size, foot = self.size + 1, self.size, self.level + 33
        for note in sorted(named):
            x = self.x(note.number)
            nearest = min((abs(note.number - n) for n in numbers if n != note.number), default=99)
            room = nearest * self.px_a_semitone
            svg.text(x, foot, note.name, text_anchor="middle", font_weight=600, font_size=size)
            if room >= _HZ_ROOM * size:
                unit = " Hz" if room >= _HZ_WIDTH else ""
                hz = f"{note.hz(self.a4_hz):.0f}{unit}"
                svg.text(x, foot + line, hz, text_anchor="middle", font_size=size)
            if note in ends:
                svg.text(x, foot + 2 * line, ends[note], text_anchor="middle", font_size=size)


def _hatch(svg: Svg) -> None:
    svg.open("defs")
    svg.open(
        "pattern", id="beyond", width=6, height=6, patternUnits="userSpaceOnUse",
        patternTransform="rotate(45)",
    )  # fmt: skip
    svg.add("line", x1=0, y1=0, x2=0, y2=6, stroke=INK, stroke_width=1, stroke_opacity=0.35)
    svg.close("pattern")
    svg.close("defs")
