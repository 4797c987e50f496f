"""The tide table: a stroke for each home session; kept, short, missed, added, stopped, ahead."""

from collections.abc import Sequence

from django.utils.safestring import SafeString

from core.dose.tide import Stroke, TideDay
from web.design.drawings.svg import CLAY, FAINT, INK, REED, STRAW, WATER, Svg

_BAR_W, _BAR_H = 7, 16
_DAY_W = 17.0
_MOST_ROWS = 4


def tide_strip(days: Sequence[TideDay], *, label: str) -> SafeString:
    """One row of days, for a line of Rounds."""
    width = _DAY_W * len(days) + 4
    svg = Svg(width, 44, label=label, kind="tide-strip")
    for place, day in enumerate(days):
        _day(svg, day, 4 + place * _DAY_W, 40, small=True)
    svg.add("line", x1=0, y1=42, x2=width, y2=42, stroke=INK, stroke_width=0.75)
    return svg.done()


def tide_table(days: Sequence[TideDay], *, label: str) -> SafeString:
    """Weeks down, days across; the first row starts with the first day given."""
    weeks = [days[at : at + 7] for at in range(0, len(days), 7)]
    column, row = 46, 44
    svg = Svg(70 + 7 * column, 22 + row * len(weeks), label=label, kind="tide-table")
    for place, day in enumerate(weeks[0] if weeks else ()):
        svg.text(70 + place * column + 16, 14, f"{day.day:%a}", text_anchor="middle", font_size=12)
    for number, week in enumerate(weeks):
        ground = 22 + row * number + row - 8
        svg.text(60, ground - 4, f"{week[0].day:%-d %b}", text_anchor="end", font_size=12)
        svg.add(
            "line", x1=66, y1=ground + 2, x2=70 + 7 * column, y2=ground + 2, stroke=FAINT,
            stroke_width=1,
        )  # fmt: skip
        for place, day in enumerate(week):
            _day(svg, day, 70 + place * column, ground, small=False)
    return svg.done()


def _day(svg: Svg, day: TideDay, x: float, ground: float, *, small: bool) -> None:
    svg.open("g")
    words = ", ".join(stroke.value for stroke in day.strokes) or "nothing prescribed"
    svg.title(f"{day.day:%a %-d %b}: {words}")
    count = len(day.strokes)
    asked = sum(stroke is not Stroke.ADDED for stroke in day.strokes)
    rows = max(2, asked if asked <= _MOST_ROWS else -(-asked // 2))
    pitch = 38.0 / rows
    beside = min(11.0, 44.0 / max(count, 1))
    for place, stroke in enumerate(day.strokes):
        if small:
            column, row = divmod(place, rows)
            foot = ground - pitch * row
            _stroke(svg, stroke, x + 8 * column, foot - pitch + 3, height=pitch - 5)
        else:
            _stroke(svg, stroke, x + beside * place, ground - _BAR_H, height=_BAR_H)
    svg.close()


def _stroke(svg: Svg, stroke: Stroke, x: float, y: float, *, height: float) -> None:
    right, foot = x + _BAR_W, y + height
    if stroke is Stroke.KEPT:
        svg.add("rect", x=x, y=y, width=_BAR_W, height=height, rx=2, fill=REED)
    elif stroke is Stroke.SHORT:
        half = y + height / 2
        path = f"M{x} {y} L{right} {y + 3} V{half - 2} L{x + 3} {half} L{right} {half + 2} V{foot} H{x} Z"
        svg.add("path", d=path, fill=STRAW, stroke=INK, stroke_width=1)
    elif stroke is Stroke.ADDED:
        svg.add("circle", cx=x + _BAR_W / 2, cy=y + height / 2, r=2.5, fill=WATER)
    elif stroke is Stroke.STOPPED:
        for start, end in ((y, foot), (foot, y)):
            svg.add("line", x1=x - 1, y1=start, x2=right + 1, y2=end, stroke=CLAY, stroke_width=2.5)
    else:
        svg.add(
            "rect", x=x + 0.75, y=y + 0.75, width=_BAR_W - 1.5, height=height - 1.5, rx=2,
            fill="none", stroke=INK if stroke is Stroke.MISSED else FAINT, stroke_width=1.25,
        )  # fmt: skip
