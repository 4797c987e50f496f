"""A sheet or a file is typed back into the record: read, asked about, kept; a stop sign at once."""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Any

from core.sheets.csv_file import ReadCsv, read_csv
from core.sheets.rows import SheetColumn
from core.sheets.sitting import ReadSheet, read_sheet
from web.clients.models import Client
from web.clinic.models import User
from web.papers.models import SheetDraft
from web.papers.paper_log.page import SheetPage, maybe_saved
from web.programs.models import ProgramVersion
from web.programs.queries import prescribed_stretches

MOST_TYPED = 4000
"""Cells of a form; what is longer than 40 letters in one is no number."""


def typed_in(form: Mapping[str, str]) -> dict[str, str]:
    """The cells of a form, each cut where no number goes on."""
    names = [name for name in form if "|" in name and len(name) <= 120][:MOST_TYPED]
    return {name: form[name][:40] for name in names if form[name].strip()}


def read_page(page: SheetPage) -> ReadSheet:
    """What stands on the page, with what may be a home session the device kept already."""
    read = read_sheet(page.rows, page.columns, page.typed)
    return replace(read, queries=(*read.queries, *page.doubtful(read.sittings)))


def drafts_of(page: SheetPage, by: User):
    """What this clinician has typed of this sheet and not logged."""
    return SheetDraft.objects.filter(**_of_sheet(page, by))


def _of_sheet(page: SheetPage, by: User) -> dict[str, Any]:
    """What makes a draft the one of this sheet and this clinician."""
    return {
        "client": page.client,
        "by": by,
        "version": page.version,
        "routine": page.routine.key,
        "first": page.first,
        "csv": None,
    }


@dataclass(frozen=True)
class ReadFile:
    """What a file says, and the home sessions in it that the device may have kept already, with how many it kept."""

    csv: ReadCsv
    doubtful: tuple[tuple[SheetColumn, int], ...]

    @property
    def asked_about(self) -> bool:
        return bool(self.doubtful) or any(one.why for one in self.csv.answers)


def read_file(
    client: Client, data: bytes, versions: Sequence[ProgramVersion], *, today: date
) -> ReadFile:
    """A file against the version in force on each day; core.sheets.csv_file.CsvRefused."""

    def routines_on(day: date):
        version = version_on(versions, day)
        return version.program.routines if version else ()

    read = read_csv(data, routines_on, today=today)
    stretches = prescribed_stretches(versions)
    asked: Counter[tuple[date, str]] = Counter()
    for day in {one.column.day for one in read.sittings}:
        for stretch in stretches:
            asked[day, stretch.routine] += stretch.on(day)
    found = maybe_saved(client, read.sittings, asked)
    columns = (one.column for one in read.sittings)
    return ReadFile(read, tuple((one, found[one.key]) for one in columns if one.key in found))


def version_on(versions: Sequence[ProgramVersion], day: date) -> ProgramVersion | None:
    """The version in force on that day; None before the first. versions: oldest first."""
    return next((one for one in reversed(versions) if one.active_from <= day), None)


def held_file(client: Client, by: User) -> bytes | None:
    """The file that waits."""
    row = SheetDraft.objects.filter(client=client, by=by).exclude(csv=None).first()
    return bytes(row.csv) if row is not None and row.csv is not None else None
