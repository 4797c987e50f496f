"""The practice sheet on paper: the same rows and columns as the Sheet log, to be filled in by hand."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from typing import Any

from django.urls import reverse
from django.utils.http import urlencode
from django.utils.translation import gettext as _

from core.program.routine import Routine
from core.sheets.rows import SheetColumn, SheetRow, Wants, columns_of, rows_of
from web.clinic.models import User
from web.clinic.refusal import UsecaseRefused
from web.design.numbers import number_text
from web.design.speaking import in_their_words, speaking
from web.papers.models import IssuedKind
from web.papers.paper_log.page import DAYS
from web.papers.print.editions import digest_of, only_while_practiced, words_printed
from web.papers.print.handout import link_to
from web.papers.print.pdf import fitting, html_of, pdf_of
from web.papers.usecases.issue import issue
from web.practice.player.routine_words import routine_words
from web.practice.today.practicable import practicable
from web.programs.client_file import ClientFile
from web.programs.queries import prescribed_stretches

TEMPLATE = "papers/sheet.html"
_MOST_COLUMNS = 14
"""Home sessions beside each other on a page."""
_ROWS_MM = 136.0
"""What of the height of a page is left for the lines, mm."""
_COLUMNS_MM = {False: 221.0, True: 201.0}
"""What of the width of a page is left for the home sessions, mm; less in large type."""
_BOX_MM = 7.0
"""The least height and width a number is written into by hand, mm."""
_BOXES = ("strain", "hoarser", "short", "sign")
"""What is asked once a home session."""
_TALLEST_MM = 12.5
_POINTS = {False: (10.5, 9.5), True: (13.5, 12.0)}
"""Points of the type, and the least of them where a week would not fit on a page; more in large type."""


@dataclass(frozen=True)
class PaperLine:
    """A line of the sheet: name of the step where it begins, what is aimed at, how many numbers a cell takes, so many
    of them beside each other and the others below."""

    begins: str
    aim: str
    tries: range
    across: int

    @property
    def down(self) -> int:
        """How many of its boxes stand below each other."""
        return -(-len(self.tries) // self.across)


@dataclass(frozen=True)
class PaperDay:
    day: date
    columns: list[SheetColumn]


def sheet_context(
    file: ClientFile, routine: Routine, *, first: date, large: bool
) -> dict[str, Any]:
    """What a sheet of two weeks prints, its edition aside; no line for what rests after a stop sign, and UsecaseRefused
    where nothing else is left."""
    client, versions = file.client, file.versions
    version = versions[-1]
    columns = columns_of(routine.key, prescribed_stretches(versions), first=first, days=DAYS)
    days = [
        PaperDay(day, [one for one in columns if one.day == day])
        for day in (first + timedelta(days=offset) for offset in range(DAYS))
    ]
    asked: dict[str, str | int] = {
        "version": version.number,
        "routine": routine.key,
        "first": first.isoformat(),
    }
    resting = {step.step_id for step in practicable(file, version.program).resting}
    rows = [row for row in rows_of(routine) if row.step.step_id not in resting]
    if client.pitch_hidden:
        rows = [replace(row, note=None) for row in rows]
    if not rows:
        raise UsecaseRefused(_("Everything in this routine rests after a stop sign."))
    pages = _pages(days)
    widest = max(sum(len(one.columns) for one in page) for page in pages)
    beside = max(1, int(_COLUMNS_MM[large] / widest / _BOX_MM))
    lines = [_line(row, before, beside) for row, before in _with_former(rows)]
    path = f"{reverse('papers:sheet_log', args=[client.pk])}?{urlencode(asked)}"
    return {
        "client": client,
        "its_clinic": client.clinic,
        "version": version,
        "routine": routine_words(routine),
        "first": first,
        "last": first + timedelta(days=DAYS - 1),
        "lines": lines,
        "pages": pages,
        "ways": _ways(sum(line.down for line in lines), large),
        "log": link_to(path),
    }


def _ways(lines: int, large: bool) -> list[dict[str, float]]:
    """Heights of a line, mm, and points of the type, from the most generous on; never too low to write in."""
    tall = min(max(_ROWS_MM / (lines + len(_BOXES)), _BOX_MM), _TALLEST_MM)
    heights = sorted({round(tall, 1), round(max(0.88 * tall, _BOX_MM), 1), _BOX_MM}, reverse=True)
    most, least = _POINTS[large]
    ways = [{"row_mm": height, "points": most} for height in heights]
    return [*ways, {"row_mm": _BOX_MM, "points": least}]


def _pages(days: list[PaperDay]) -> list[list[PaperDay]]:
    """Days side by side as long as they fit, else a week a page."""
    wide = sum(len(one.columns) for one in days) > _MOST_COLUMNS
    return [days[:7], days[7:]] if wide else [days]


def _with_former(rows: Sequence[SheetRow]) -> list[tuple[SheetRow, SheetRow | None]]:
    return list(zip(rows, (None, *rows[:-1]), strict=True))


def _line(row: SheetRow, before: SheetRow | None, beside: int) -> PaperLine:
    """A line with at most so many boxes beside each other."""
    begins = before is None or before.step.step_id != row.step.step_id
    held = row.wants is Wants.SECONDS
    if held:
        place = "" if row.place is None or row.step.target.attempts == 1 else f"{row.place + 1}"
        note = row.note.name if row.note else ""
        aim = " · ".join(filter(None, (place, note, f"{number_text(row.target_s)} s")))
    elif row.wants is Wants.COUNT:
        aim = _("how many of %(count)s") % {"count": row.count}
    elif row.tries == 1:
        aim = _("1 if done")
    else:
        aim = _("how often, of %(times)s") % {"times": row.tries}
    tries = row.tries if row.wants is not Wants.TIMES else 1
    return PaperLine(
        begins=in_their_words(row.step.name) if begins else "",
        aim=aim,
        tries=range(tries),
        across=min(beside, tries),
    )


def make_sheet(
    file: ClientFile, routine: Routine, *, first: date, large: bool, by: User, now: datetime
) -> bytes:
    """The sheet as PDF; UsecaseRefused while the program rests."""
    client, version = file.client, file.versions[-1]
    only_while_practiced(file)
    with speaking(client.language):
        context = sheet_context(file, routine, first=first, large=large)
        content = {
            "version": version.number,
            "routine": routine.key,
            "first": first.isoformat(),
        }
        issued = issue(
            client,
            IssuedKind.SHEET,
            part=routine.key,
            digest=digest_of(
                words_printed(
                    html_of(TEMPLATE, context | context["ways"][0]), context["log"].address
                )
            ),
            by=by,
            now=now,
            version=version,
            content=content,
        )
        shown = context | {"issued": issued, "large": large}
        return pdf_of(fitting(TEMPLATE, shown, context["ways"], pages=len(context["pages"])))
