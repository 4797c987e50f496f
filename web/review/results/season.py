"""The Results page: the Season of a client, the same as a table and as CSV, one home session."""

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from statistics import median

from django.utils.safestring import SafeString
from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from core.grading.course import Course
from core.grading.history import History, PastSession
from core.grading.season import Season, SeasonReed, SeasonRow, season_of
from web.clients.baseline.measured import MeasuredView
from web.design.dates import month_day
from web.design.drawings.season import (
    DrawnReed,
    DrawnRow,
    DrawnSeason,
    DrawnSession,
    SeasonMark,
    season,
)
from web.design.speaking import in_their_words
from web.figures.words import name_of, number_of, slope_of, unit_of, value_of
from web.programs.models import ProgramVersion
from web.review.course_file import CourseFile

WEEKS = (4, 8, 12)
_LAST = 5
_SHORTEST_DAYS = 14


@dataclass(frozen=True)
class ResultsLine:
    """One home session of the table: its values in the order of the columns."""

    key: str
    day: date
    routine: str
    cells: list[str]
    strain: str
    mark: str


@dataclass(frozen=True)
class Results:
    """The page: drawing, heads of the columns (step, note, unit) and lines, newest first."""

    first: date
    last: date
    drawing: SafeString | None
    heads: list[tuple[str, str, str]]
    lines: list[ResultsLine]


def results(file: CourseFile, *, first: date, last: date) -> Results:
    """The client's season over the days of the file; None without a program."""
    if file.history is None:
        return Results(first, last, None, [], [])
    found = season_of(file.history, file.rules, first=first, last=last)
    drawing = _drawn(found, file.versions, file.measured, file.history) if found.rows else None
    heads = [(in_their_words(row.name), row.of, unit_of(row.code)) for row in found.rows]
    return Results(first, last, drawing, heads, _lines(found))


def _lines(found: Season) -> list[ResultsLine]:
    by_row = [{reed.sitting: reed for reed in row.reeds} for row in found.rows]
    strain = {one.key: said for one in found.sittings if (said := _strain_of(one))}
    lines = [
        ResultsLine(
            key=one.key,
            day=one.day,
            routine=one.routine,
            cells=[
                _cell(reeds.get(one.key), row.code)
                for reeds, row in zip(by_row, found.rows, strict=True)
            ],
            strain=strain.get(one.key, ""),
            mark=_mark_of(one),
        )
        for one in found.sittings
    ]
    return [line for line in reversed(lines) if any(line.cells) or line.mark]


def _strain_of(one: PastSession) -> str:
    said = [done.said["strain"] for done in one.steps if "strain" in done.said]
    return f"{sum(said) / len(said):.0f}" if said else ""


def _mark_of(one: PastSession) -> str:
    if one.sign is not None:
        return _("stopped")
    return _("short") if one.short else ""


def _cell(reed: SeasonReed | None, code: str) -> str:
    return "" if reed is None else number_of(code, reed.value)


def _drawn(
    found: Season,
    versions: Sequence[ProgramVersion],
    measured: Sequence[MeasuredView],
    history: History,
) -> SafeString:
    places = _places(found.sittings)
    names = [row.name for row in found.rows]
    rows = [
        _row(row, places, again=n > 0 and names[n - 1] == row.name)
        for n, row in enumerate(found.rows)
    ]
    strain = [value for _day, value in found.strain]
    return season(
        DrawnSeason(
            first=_begins(found),
            last=found.last,
            rows=rows,
            sessions=_sessions(found, places),
            strain=found.strain,
            strain_name=_("throat strain"),
            strain_words=_("usual %(n)s") % {"n": f"{median(strain):.0f}"} if strain else "",
            marks=_marks(found, versions, measured, history),
            away=found.away,
            away_words=_("away"),
            label=_("What was held, home session by home session"),
        )
    )


def _begins(found: Season) -> date:
    """The first day drawn: where the first home session is, but never less than two weeks."""
    days = [one.day for one in found.sittings]
    latest = found.last - timedelta(days=_SHORTEST_DAYS - 1)
    return max(found.first, min([latest, *days]))


def _places(sittings: Sequence[PastSession]) -> dict[str, float]:
    """Where in its day each home session stands, 0–1."""
    of_day: dict[date, list[str]] = {}
    for one in sittings:
        of_day.setdefault(one.day, []).append(one.key)
    return {key: (n + 0.5) / len(keys) for keys in of_day.values() for n, key in enumerate(keys)}


def _sessions(found: Season, places: dict[str, float]) -> list[DrawnSession]:
    """Every home session of the rows, with what was held in it in words."""
    said: dict[str, list[str]] = {}
    for row in found.rows:
        name = row.of or in_their_words(row.name)
        for reed in row.reeds:
            words = f"{name} {value_of(row.code, reed.value)}"
            said.setdefault(reed.sitting, []).append(words)
    return [
        DrawnSession(
            day=one.day,
            place=places[one.key],
            title=f"{month_day(one.day)}: {', '.join(said[one.key])}",
            href=f"../sessions/{one.key}/",
        )
        for one in found.sittings
        if one.key in said
    ]


def _row(row: SeasonRow, places: dict[str, float], *, again: bool) -> DrawnRow:
    trend = row.course.trend
    latest = [reed.value for reed in row.reeds[-_LAST:]]
    line = None
    if trend.start is not None and trend.slope is not None:
        weeks = (row.reeds[-1].day - row.reeds[0].day).days / 7
        line = trend.start, trend.start + trend.slope * weeks
    return DrawnRow(
        name=row.of or _shortened(in_their_words(row.name)),
        under=("" if again else _shortened(in_their_words(row.name)))
        if row.of
        else name_of(row.code),
        now=value_of(row.code, median(latest)),
        course=course_words(row.course),
        reeds=[
            DrawnReed(
                day=reed.day,
                place=places[reed.sitting],
                value=reed.value,
                target=reed.target,
                hollow=reed.calm is False,
            )
            for reed in row.reeds
        ],
        line=line,
        spread=row.course.spread,
    )


def _shortened(name: str) -> str:
    return name if len(name) <= 22 else f"{name[:21].rstrip()}…"


def course_words(course: Course) -> str:
    """Where a figure leads, in a few words: its robust slope a week, and whether that is more than the
    usual day-to-day spread."""
    trend = course.trend
    if trend.slope is None:
        return ngettext(
            "%(count)s more session to tell", "%(count)s more sessions to tell", course.missing
        ) % {"count": course.missing}
    if course.real:
        return _("%(by)s a week") % {"by": slope_of(course.code, trend.slope)}
    return _("within day to day")


def _marks(
    found: Season,
    versions: Sequence[ProgramVersion],
    measured: Sequence[MeasuredView],
    history: History,
) -> list[SeasonMark]:
    days = [(row.active_from, "▶", _("version %(n)s") % {"n": row.number}) for row in versions]
    days += [(one.day, "△", _("visit")) for one in history.visits]
    days += [(day, "◇", _("new device")) for day in _new_devices(found.sittings)]
    for one in measured:
        at = one.view.baseline.recorded_at
        if at is not None:
            days.append((at.date(), "○", _("baseline")))
    return [
        SeasonMark(day, sign, words)
        for day, sign, words in days
        if _begins(found) <= day <= found.last
    ]


def _new_devices(sittings: Sequence[PastSession]) -> list[date]:
    """The days on which something was first heard with another device than before."""
    known: set[str] = set()
    days = []
    for one in sittings:
        heard = {done.device for done in one.steps if done.device}
        if known and heard - known:
            days.append(one.day)
        known |= heard
    return days


def as_csv(page: Results) -> str:
    """Exactly the table: sessions down, steps across, units in the head."""
    out = io.StringIO()
    writer = csv.writer(out)
    heads = [f"{name}{f' {of}' if of else ''} ({unit})" for name, of, unit in page.heads]
    writer.writerow(["day", "routine", *heads, "throat strain (0-10)", "mark"])
    for line in page.lines:
        cells = [cell.replace("−", "-") for cell in line.cells]
        writer.writerow([line.day.isoformat(), line.routine, *cells, line.strain, line.mark])
    return out.getvalue()


def window_of(asked, today: date) -> tuple[date, date]:
    """First and last day from a query; what is odd counts as not asked for."""
    try:
        weeks = int(asked.get("weeks", ""))
    except ValueError:
        weeks = WEEKS[-1]
    weeks = weeks if weeks in WEEKS else WEEKS[-1]
    try:
        last = min(date.fromisoformat(asked.get("until", "")), today)
    except ValueError:
        last = today
    return last - timedelta(days=7 * weeks - 1), last
