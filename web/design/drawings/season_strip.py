"""The Season of one client small, for a line of Rounds: a reed a home session, standing to what was held."""

from collections.abc import Sequence
from datetime import date

from django.utils.safestring import SafeString

from web.design.drawings.svg import FAINT, REED, WATER, Svg

_WIDTH, _HEIGHT, _FOOT = 150.0, 44.0, 42.0
_MOST = 1.3
"""What is over 1.3 times what was asked for is drawn no taller."""


def season_strip(
    points: Sequence[tuple[date, float, float | None]], *, first: date, last: date, label: str
) -> SafeString:
    """points: day, value and what was asked for (None = nothing), in one unit. With something asked
    for, reeds stand to their share of it and the waterline is at all of it; else to the largest."""
    svg = Svg(_WIDTH, _HEIGHT, label=label, kind="season-strip")
    days = max((last - first).days, 1)
    largest = max((abs(value) for _day, value, _asked in points), default=0.0) or 1.0
    unit = (_FOOT - 4) / _MOST
    reeds = []
    for day, value, asked in points:
        share = value / asked if asked else value / largest
        tall = unit * min(max(share, 0.03), _MOST)
        x = 3 + (_WIDTH - 6) * (day - first).days / days
        reeds.append(f"M{x:.0f} {_FOOT:g}v{-tall:.0f}")
    svg.add("path", d="".join(reeds), stroke=REED, stroke_width=3)
    if any(asked for _day, _value, asked in points):
        level = _FOOT - unit
        svg.add("line", x1=0, y1=level, x2=_WIDTH, y2=level, stroke=WATER, stroke_width=1.5)
    svg.add("line", x1=0, y1=_FOOT, x2=_WIDTH, y2=_FOOT, stroke=FAINT, stroke_width=1)
    return svg.done()
