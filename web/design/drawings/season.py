"""The Season: a small reed for each home session, standing to what was held, row by row."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta

from django.utils.safestring import SafeString

from web.design.dates import month_day, short_day
from web.design.drawings.svg import CLAY, FAINT, INK, REED, STRAW, WATER, Svg

_LEFT, _RIGHT, _WIDTH = 200.0, 1010.0, 1184.0
_TOP, _ROW, _FOOT = 46.0, 74.0, 66.0
_TALL = 46.0
_QUIET = "#4C5F5B"
_HIGH_STRAIN = 5.0


@dataclass(frozen=True)
class DrawnReed:
    """One home session in a row: its day and place in the day (0–1), value and target in the row's
    unit, hollow: pressed or unsteady."""

    day: date
    place: float
    value: float
    target: float | None
    hollow: bool


@dataclass(frozen=True)
class DrawnSession:
    """A home session over all rows; title: what hovering says; href: where it leads."""

    day: date
    place: float
    title: str
    href: str


@dataclass(frozen=True)
class DrawnRow:
    """A row: two lines of name, two of where it leads; line: the trend on the first and the last day;
    spread: half of the calm band; all in the row's unit; flag: draw the second line as one to see."""

    name: str
    under: str
    now: str
    course: str
    reeds: Sequence[DrawnReed]
    line: tuple[float, float] | None = None
    spread: float | None = None


@dataclass(frozen=True)
class SeasonMark:
    """A flag at the head: a version, visit or baseline."""

    day: date
    sign: str
    words: str


@dataclass(frozen=True)
class DrawnSeason:
    first: date
    last: date
    rows: Sequence[DrawnRow]
    sessions: Sequence[DrawnSession]
    strain: Sequence[tuple[date, float]]
    strain_words: str
    marks: Sequence[SeasonMark] = ()
    away: Sequence[tuple[date, date]] = ()
    away_words: str = ""
    label: str = ""
    strain_name: str = field(default="")


def season(drawn: DrawnSeason) -> SafeString:
    """The drawing; the reeds of a home session are one link to it."""
    height = _TOP + _ROW * len(drawn.rows) + _FOOT
    svg = Svg(_WIDTH, height, label=drawn.label, kind="season", role="group")
    across = _Across(drawn.first, drawn.last)
    foot = _TOP + _ROW * len(drawn.rows)
    _away(svg, drawn, across, foot)
    _marks(svg, drawn.marks, across, foot)
    for place, row in enumerate(drawn.rows):
        _row(svg, row, across, _TOP + _ROW * (place + 1) - 14)
    for session in drawn.sessions:
        _session(svg, session, across, foot)
    _strain(svg, drawn, across, foot + 14)
    _dates(svg, across, foot + 48)
    return svg.done()


class _Across:
    """Days from left to right."""

    def __init__(self, first: date, last: date) -> None:
        self.first, self.last = first, last
        self.day_px = (_RIGHT - _LEFT) / ((last - first).days + 1)

    def x(self, day: date, place: float = 0.5) -> float:
        return _LEFT + self.day_px * ((day - self.first).days + place)


def _row(svg: Svg, row: DrawnRow, across: _Across, ground: float) -> None:
    values = [reed.value for reed in row.reeds]
    targets = [reed.target for reed in row.reeds if reed.target is not None]
    low = min(0.0, *values)
    high = max([*values, *targets, low + 1e-6])

    def y(value: float) -> float:
        return ground - _TALL * (value - low) / (high - low)

    _band(svg, row, across, y)
    _waterline(svg, row.reeds, across, y)
    for hollow in (False, True):
        own = [reed for reed in row.reeds if reed.hollow is hollow]
        drawn = "".join(_reed(across.x(r.day, r.place), ground, y(r.value)) for r in own)
        if drawn:
            fill = "#FFFDF6" if hollow else REED
            svg.add("path", d=drawn, fill=fill, stroke=REED, stroke_width=1.3)
    svg.add("line", x1=_LEFT, y1=ground, x2=_RIGHT, y2=ground, stroke=STRAW, stroke_width=2.5)
    svg.text(_LEFT - 12, ground - 16, row.name, text_anchor="end", font_weight=700, font_size=15)
    svg.text(_LEFT - 12, ground + 1, row.under, text_anchor="end", fill=_QUIET)
    svg.text(_RIGHT + 14, ground - 16, row.now, font_weight=700, font_size=15)
    svg.text(_RIGHT + 14, ground + 1, row.course, fill=_QUIET)


def _band(svg: Svg, row: DrawnRow, across: _Across, y) -> None:
    """The usual day-to-day spread around the trend."""
    if row.line is None or row.spread is None or len(row.reeds) < 2:
        return
    ends = [across.x(row.reeds[0].day), across.x(row.reeds[-1].day)]
    over = [f"{x:.1f},{y(at + row.spread):.1f}" for x, at in zip(ends, row.line, strict=True)]
    under = [f"{x:.1f},{y(at - row.spread):.1f}" for x, at in zip(ends, row.line, strict=True)]
    svg.add("polygon", points=" ".join([*over, *reversed(under)]), fill=WATER, fill_opacity=0.14)


def _waterline(svg: Svg, reeds: Sequence[DrawnReed], across: _Across, y) -> None:
    """What was asked for; it steps where the program did."""
    parts: list[str] = []
    level: float | None = None
    for reed in reeds:
        if reed.target is None:
            continue
        x = across.x(reed.day, reed.place)
        if level is None:
            parts.append(f"M{x - 4:.1f} {y(reed.target):.1f}")
        elif reed.target != level:
            parts.append(f"H{x - 3:.1f} V{y(reed.target):.1f}")
        parts.append(f"H{x + 4:.1f}")
        level = reed.target
    if parts:
        svg.add("path", d=" ".join(parts), stroke=WATER, stroke_width=1.6, fill="none")


def _reed(x: float, ground: float, top: float) -> str:
    """The path of one reed: a stem and a rounded head."""
    head = min(12.0, max(ground - top, 4.0)) - 5.2
    stem = f"M{x:.1f} {ground:g}V{top:.1f}"
    return f"{stem}m-2.6 2.6a2.6 2.6 0 0 1 5.2 0v{head:.1f}a2.6 2.6 0 0 1-5.2 0z"


def _session(svg: Svg, session: DrawnSession, across: _Across, foot: float) -> None:
    x, wide = across.x(session.day, session.place), max(6.0, min(14.0, across.day_px / 2))
    svg.open("a", href=session.href, class_="season-reed")
    svg.title(session.title)
    column = f"M{x - wide / 2:.1f} {_TOP - 6:g}h{wide:.1f}V{foot:g}h-{wide:.1f}z"
    svg.add("path", d=column, fill="none")
    svg.close("a")


def _strain(svg: Svg, drawn: DrawnSeason, across: _Across, y: float) -> None:
    svg.text(_LEFT - 12, y + 4, drawn.strain_name, text_anchor="end", font_size=14)
    svg.add("line", x1=_LEFT, y1=y, x2=_RIGHT, y2=y, stroke=FAINT, stroke_width=1.5)
    for day, value in drawn.strain:
        x = across.x(day)
        if value >= _HIGH_STRAIN:
            points = f"{x},{y - 7} {x + 5},{y} {x},{y + 7} {x - 5},{y}"
            svg.add("polygon", points=points, fill=CLAY)
            svg.text(x, y + 20, f"{value:.0f}", text_anchor="middle", fill=CLAY, font_weight=700)
        else:
            svg.add("circle", cx=x, cy=y, r=1.6 + 0.55 * value, fill=INK)
    svg.text(_RIGHT + 14, y + 4, drawn.strain_words, fill=_QUIET)


def _away(svg: Svg, drawn: DrawnSeason, across: _Across, foot: float) -> None:
    for first, last in drawn.away:
        if last < drawn.first:
            continue
        x, to = across.x(max(first, drawn.first), 0.0), across.x(last, 1.0)
        svg.add(
            "rect", x=x, y=_TOP - 6, width=to - x, height=foot - _TOP, fill=FAINT,
            fill_opacity=0.45,
        )  # fmt: skip
        if to - x > 40:
            svg.text((x + to) / 2, _TOP + 8, drawn.away_words, text_anchor="middle", fill=_QUIET)


def _marks(svg: Svg, marks: Sequence[SeasonMark], across: _Across, foot: float) -> None:
    """Flags with their words; where two would lie on each other the later keeps its sign alone."""
    free_from = [0.0, 0.0]
    for mark in sorted(marks, key=lambda one: one.day):
        x = across.x(mark.day, 0.0)
        svg.open("g")
        svg.title(f"{month_day(mark.day)}: {mark.words}")
        svg.add(
            "line", x1=x, y1=_TOP - 14, x2=x, y2=foot, stroke=_QUIET, stroke_width=1,
            stroke_dasharray="1 4",
        )  # fmt: skip
        line = 0 if x >= free_from[0] else 1
        words = f"{mark.sign} {mark.words}"
        if x < free_from[line]:
            words = mark.sign
        svg.text(x, 16 + 17 * line, words, font_size=13)
        free_from[line] = x + 7.2 * len(words) + 10
        svg.close("g")


def _dates(svg: Svg, across: _Across, y: float) -> None:
    """The Mondays, as many as have room."""
    monday = across.first + timedelta(days=-across.first.weekday() % 7)
    step = 7 * max(1, round(64 / (7 * across.day_px) + 0.49))
    while monday <= across.last:
        svg.text(across.x(monday), y, short_day(monday), text_anchor="middle", fill=_QUIET)
        monday += timedelta(days=step)
