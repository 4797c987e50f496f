"""The tide table of what is still ahead: the real dates of a draft, weekdays and days turned on and off on it."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from django.utils.safestring import SafeString
from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from core.dose.calendar import asked_on, stage_on
from core.program.dosing import Dose
from web.design.dates import short_day, weekday, weekday_name, weekday_short
from web.design.drawings.svg import CLAY, FAINT, INK, PAPER, REED, STRAW, Svg

_LEFT, _TOP, _COLUMN, _ROW, _SIZE = 76.0, 26.0, 44.0, 25.0, 14.5
_MOST_WEEKS = 12


@dataclass(frozen=True, slots=True)
class DaysAhead:
    """One day of a dose: how many home sessions, whether it is a day away, a visit's, in the taper."""

    day: date
    asked: int
    away: bool
    visit: bool
    taper: bool


def days_ahead(dose: Dose, start: date) -> list[DaysAhead]:
    """Every day of a dose from the Monday of its start, whole weeks, at most twelve; with its taper."""
    first = start - timedelta(days=start.weekday())
    weeks = min(dose.weeks + sum(stage.weeks for stage in dose.taper) + 1, _MOST_WEEKS)
    days = (first + timedelta(days=offset) for offset in range(7 * weeks))
    return [
        DaysAhead(
            day=day,
            asked=asked_on(dose, start, day),
            away=any(away.first <= day <= away.last for away in dose.away),
            visit=day.isoweekday() in dose.visit_weekdays,
            taper=day >= start and stage_on(dose, start, day) is not None,
        )
        for day in days
    ]


def schedule(
    days: Sequence[DaysAhead], *, routine: str, weekdays: Sequence[int], today: date, label: str
) -> SafeString:
    """Weeks down, days across, a stroke for each home session. weekdays: those practiced on, empty = all."""
    weeks = [days[at : at + 7] for at in range(0, len(days), 7)]
    width, height = _LEFT + 7 * _COLUMN + 4, _TOP + _ROW * len(weeks) + 4
    svg = Svg(width, height, label=label, kind="schedule", role="group")
    for place, one in enumerate(weeks[0]):
        _weekday(
            svg, one.day, _LEFT + place * _COLUMN, routine, on=not weekdays or place + 1 in weekdays
        )
    for number, week in enumerate(weeks):
        y = _TOP + number * _ROW
        words = short_day(week[0].day)
        svg.text(_LEFT - 10, y + 18, words, text_anchor="end", font_size=_SIZE)
        for place, one in enumerate(week):
            _day(svg, one, _LEFT + place * _COLUMN, y, today)
    return svg.done()


def _weekday(svg: Svg, day: date, x: float, routine: str, *, on: bool) -> None:
    svg.open("g", class_="toggle", tabindex=0, role="checkbox", aria_checked="true" if on else "false",
             aria_label=weekday_name(day), data_weekday=day.isoweekday(), data_routine=routine)  # fmt: skip
    svg.add("rect", x=x + 1, y=1, width=_COLUMN - 4, height=_TOP - 5, fill=STRAW if on else PAPER,
            fill_opacity=0.55 if on else 0.01, stroke=INK, stroke_width=0.75, rx=2)  # fmt: skip
    svg.text(x + _COLUMN / 2 - 1, 17, weekday_short(day), text_anchor="middle", font_size=_SIZE)
    svg.close()


def _day(svg: Svg, one: DaysAhead, x: float, y: float, today: date) -> None:
    sessions = ngettext("%(n)s home session", "%(n)s home sessions", one.asked) % {"n": one.asked}
    told = [
        _("away") if one.away else sessions,
        _("visit") if one.visit else "",
        _("taper") if one.taper else "",
    ]
    svg.open("g", class_="toggle", data_away=one.day.isoformat())
    svg.title(f"{weekday(one.day)}: {', '.join(filter(None, told))}")
    svg.add("rect", x=x + 1, y=y, width=_COLUMN - 4, height=_ROW - 2, rx=2,
            fill=CLAY if one.away else PAPER, fill_opacity=0.2 if one.away else 0.01,
            stroke=INK if one.day == today else FAINT, stroke_width=1.5 if one.day == today else 0.75)  # fmt: skip
    if one.away:
        svg.text(x + _COLUMN / 2 - 1, y + 17, _("away"), text_anchor="middle", font_size=_SIZE)
    for place in range(one.asked):
        svg.add("rect", x=x + 5 + 6 * place, y=y + 4, width=4, height=_ROW - 10, fill=REED,
                fill_opacity=0.35 if one.taper else 0.9)  # fmt: skip
    if one.visit:
        svg.add("circle", cx=x + _COLUMN - 9, cy=y + _ROW / 2 - 1, r=4, fill="none", stroke=INK,
                stroke_width=1.5)  # fmt: skip
    svg.close()
