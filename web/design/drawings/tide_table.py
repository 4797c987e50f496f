"""The tide table: a stroke for each home session; kept, short, missed, added, stopped, ahead."""

from collections.abc import Mapping, Sequence

from django.utils.safestring import SafeString
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from core.dose.tide import Stroke, TideDay
from web.design.dates import short_day, weekday, weekday_short
from web.design.drawings.svg import CLAY, FAINT, INK, REED, STRAW, WATER, Svg

_BAR_W, _BAR_H = 7, 16
_DAY_W = 17.0
_STRIP_H = 38.0
_TEXT = 13.2
_MOST_ROWS = 4


_STROKES = {
    Stroke.KEPT: gettext_lazy("kept"),
    Stroke.SHORT: gettext_lazy("short"),
    Stroke.MISSED: gettext_lazy("missed"),
    Stroke.ADDED: gettext_lazy("added"),
    Stroke.STOPPED: gettext_lazy("stopped"),
    Stroke.AHEAD: gettext_lazy("ahead"),
}


def tide_strip(days: Sequence[TideDay], *, label: str) -> SafeString:
    """One row of days, for a line of Rounds; strokes of a kind are one path, for there are many lines."""
    width = _DAY_W * len(days) + 4
    svg = Svg(width, 44, label=label, kind="tide-strip")
    drawn: dict[Stroke, list[str]] = {}
    for place, day in enumerate(days):
        rows = _rows_of(day)
        pitch = _STRIP_H / rows
        for number, stroke in enumerate(day.strokes):
            column, row = divmod(number, rows)
            x, y = 4 + place * _DAY_W + 8 * column, 43 - pitch * (row + 1)
            drawn.setdefault(stroke, []).append(_outline(stroke, x, y, height=pitch - 5))
    for stroke, paths in drawn.items():
        svg.add("path", d="".join(paths), **_PAINTED[stroke])
    svg.add("line", x1=0, y1=42, x2=width, y2=42, stroke=INK, stroke_width=0.75)
    return svg.done()


def tide_table(days: Sequence[TideDay], *, label: str) -> SafeString:
    """Weeks down, days across; the first row starts with the first day given."""
    weeks = [days[at : at + 7] for at in range(0, len(days), 7)]
    column, row = 36, 44
    svg = Svg(74 + 7 * column, 22 + row * len(weeks), label=label, kind="tide-table")
    for place, day in enumerate(weeks[0] if weeks else ()):
        svg.text(
            74 + place * column + 14,
            14,
            weekday_short(day.day),
            text_anchor="middle",
            font_size=_TEXT,
        )
    for number, week in enumerate(weeks):
        ground = 22 + row * number + row - 8
        svg.text(62, ground - 4, short_day(week[0].day), text_anchor="end", font_size=_TEXT)
        svg.add(
            "line", x1=68, y1=ground + 2, x2=74 + 7 * column, y2=ground + 2, stroke=FAINT,
            stroke_width=1,
        )  # fmt: skip
        for place, day in enumerate(week):
            _day(svg, day, 74 + place * column, ground)
    return svg.done()


def _rows_of(day: TideDay) -> int:
    """So many strokes stand on top of each other before the next column begins."""
    asked = sum(stroke is not Stroke.ADDED for stroke in day.strokes)
    return max(2, asked if asked <= _MOST_ROWS else -(-asked // 2))


def _day(svg: Svg, day: TideDay, x: float, ground: float) -> None:
    svg.open("g")
    words = ", ".join(str(_STROKES[stroke]) for stroke in day.strokes) or _("nothing prescribed")
    svg.title(f"{weekday(day.day)}: {words}")
    beside = min(11.0, 33.0 / max(len(day.strokes), 1))
    for place, stroke in enumerate(day.strokes):
        outline = _outline(stroke, x + beside * place, ground - _BAR_H, height=_BAR_H)
        svg.add("path", d=outline, **_PAINTED[stroke])
    svg.close()


def _outline(stroke: Stroke, x: float, y: float, *, height: float) -> str:
    """The path of a stroke; x, y: its upper left corner."""
    w, h = _BAR_W, round(height, 1)
    at = f"M{x:g} {round(y, 1):g}"
    if stroke is Stroke.SHORT:
        half = round(h / 2, 1)
        return f"{at}l{w} 3v{half - 5:g}l{3 - w} 2l{w - 3} 2v{h - half - 2:g}h{-w}z"
    if stroke is Stroke.ADDED:
        return f"M{x + w / 2 - 2.5:g} {round(y + h / 2, 1):g}a2.5 2.5 0 1 0 5 0a2.5 2.5 0 1 0 -5 0z"
    if stroke is Stroke.STOPPED:
        return f"{at}l{w} {h:g}m0 {-h:g}l{-w} {h:g}"
    return f"{at}h{w}v{h:g}h{-w}z"


_PAINTED: Mapping[Stroke, Mapping[str, object]] = {
    Stroke.KEPT: {"fill": REED},
    Stroke.SHORT: {"fill": STRAW, "stroke": INK},
    Stroke.ADDED: {"fill": WATER},
    Stroke.STOPPED: {"fill": "none", "stroke": CLAY, "stroke_width": 2.5},
    Stroke.MISSED: {"fill": "none", "stroke": INK, "stroke_width": 1.25},
    Stroke.AHEAD: {"fill": "none", "stroke": FAINT, "stroke_width": 1.25},
}
