"""A client's own weeks: a reed a day, standing to its share of what was asked for that day."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from django.utils.safestring import SafeString

from web.design.drawings.svg import INK, PAPER, REED, Svg

_WIDTH, _HEIGHT, _GROUND, _TOP = 320.0, 126.0, 92.0, 8.0
_TALLEST, _SHORTEST = 1.1, 0.05
_WIDE = 7.0


@dataclass(frozen=True, slots=True, kw_only=True)
class OwnDay:
    """The best of a day: value and what was asked for in one unit, None = nothing was; calm: soft and
    steady, as far as is known, so the reed is filled."""

    day: date
    value: float
    asked: float | None
    calm: bool


def own_course(
    days: Sequence[OwnDay], *, first: date, last: date, ends: tuple[str, str], label: str
) -> SafeString:
    """Reeds over the days from first to last, never taller than 10 % over the bar; ends: what stands under
    the first and the last day."""
    svg = Svg(_WIDTH, _HEIGHT, label=label, kind="own-course")
    largest = max((one.value for one in days), default=0.0) or 1.0
    unit = (_GROUND - _TOP) / _TALLEST
    step = (_WIDTH - 2 * _WIDE) / max((last - first).days, 1)
    svg.add("line", x1=0, y1=_GROUND, x2=_WIDTH, y2=_GROUND, stroke=INK, stroke_width=1.5)
    for one in days:
        share = min(max(one.value / (one.asked or largest), _SHORTEST), _TALLEST)
        x, tall = _WIDE + step * (one.day - first).days, unit * share
        svg.add(
            "rect", x=x - _WIDE / 2, y=_GROUND - tall, width=_WIDE, height=tall, rx=3,
            fill=REED if one.calm else PAPER, stroke=REED, stroke_width=2,
        )  # fmt: skip
    if any(one.asked for one in days):
        svg.add(
            "line", x1=0, y1=_GROUND - unit, x2=_WIDTH, y2=_GROUND - unit, stroke=INK,
            stroke_width=2,
        )  # fmt: skip
    svg.text(0, _HEIGHT - 10, ends[0], font_size=20)
    svg.text(_WIDTH, _HEIGHT - 10, ends[1], text_anchor="end", font_size=20)
    return svg.done()
