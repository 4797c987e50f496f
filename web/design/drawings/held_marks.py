"""What a task adds to the still line at rest: rings of bubbles, notes to sing, stretches with words."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from core.notes.note import Note
from web.design.drawings.svg import CLAY, INK, STRAW, WATER, Svg

ROW = 276.0
RING = 3.2
MOST_RINGS = 140
_NARROWEST = 26.0

Place = Callable[[float], float]


@dataclass(frozen=True, slots=True, kw_only=True)
class MarkedStretch:
    """From start to end in s with its words; `needs_care`: something stopped here."""

    start_s: float
    end_s: float
    words: str
    needs_care: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Rings:
    """Bubbles of a rate (Hz) from start to end in s, none where they stopped."""

    rate_hz: float
    start_s: float
    end_s: float
    stops: Sequence[tuple[float, float]] = ()

    def times_s(self) -> list[float]:
        """One time a bubble; of very many every second, third …"""
        count = int((self.end_s - self.start_s) * self.rate_hz)
        step = max(-(-count // MOST_RINGS), 1)
        times = [self.start_s + k / self.rate_hz for k in range(0, count, step)]
        return [t for t in times if not any(a <= t < b for a, b in self.stops)]


def draw_rings(svg: Svg, rings: Rings, x: Place, row: float = ROW) -> None:
    """A row of rings under the pitch: a missing ring is a stop."""
    for time in rings.times_s():
        svg.add("circle", cx=x(time), cy=row, r=RING, fill="none", stroke=WATER,
                stroke_width=1.2, class_="ring")  # fmt: skip


def draw_stretches(
    svg: Svg, stretches: Sequence[MarkedStretch], x: Place, row: float = ROW
) -> None:
    """A row of bars under the pitch; words where there is room for them."""
    for one in stretches:
        left, wide = x(one.start_s), max(x(one.end_s) - x(one.start_s), 2.0)
        colour = CLAY if one.needs_care else INK
        svg.add("rect", x=left, y=row - 4, width=wide, height=8, fill=STRAW,
                fill_opacity=0.5 if one.needs_care else 0.25, stroke=colour, stroke_width=1,
                class_="stretch")  # fmt: skip
        if wide >= _NARROWEST or one.needs_care:
            svg.text(left + wide / 2, row - 9, one.words, text_anchor="middle", font_size=14,
                     fill=colour)  # fmt: skip


def draw_notes(svg: Svg, notes: Sequence[tuple[float, float, Note]], x: Place, y: Place) -> None:
    """Each note to sing as a line at its height, with its name above it."""
    for start_s, end_s, note in notes:
        height = y(float(note.number))
        svg.add("line", x1=x(start_s), x2=x(end_s), y1=height, y2=height, stroke=WATER,
                stroke_width=2, class_="wanted")  # fmt: skip
        svg.text((x(start_s) + x(end_s)) / 2, height - 14, note, text_anchor="middle",
                 font_size=14, fill=WATER)  # fmt: skip
