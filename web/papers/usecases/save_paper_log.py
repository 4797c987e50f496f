"""Save a paper log while it is typed, and then as home sessions. Each save is one transaction."""

from collections.abc import Sequence
from datetime import datetime

from django.db import transaction

from core.sheets.sitting import PaperSession, ReadSheet
from web.clients.models import Client
from web.clinic.models import User
from web.papers.models import SheetDraft
from web.papers.paper_log.page import SheetPage
from web.papers.paper_log.typed import ReadFile, _of_sheet, drafts_of, version_on
from web.practice.models import PaperLog
from web.practice.usecases.save_paper_session import OnPaper, SavedPaper, save_paper_session
from web.programs.models import ProgramVersion


@transaction.atomic
def save_page(
    page: SheetPage, read: ReadSheet, *, knowingly: bool, by: User, now: datetime
) -> SavedPaper | None:
    """Keep all of a sheet that fits; with something to ask about only what is a stop sign, unless it is taken
    knowingly, and then None."""
    kept = None
    if read.queries and not knowingly:
        save_signs(page.client, [(page.version, one) for one in read.sittings], by=by, now=now)
    else:
        written = [OnPaper(page.version, one) for one in read.sittings]
        kept = save_paper_session(page.client, written, how=PaperLog.SHEET, by=by, now=now)
        drafts_of(page, by).delete()
    return kept


def save_signs(
    client: Client, found: Sequence[tuple[ProgramVersion, PaperSession]], *, by: User, now: datetime
) -> None:
    """Only the stop signs of what was written down: they wait for nothing."""
    signs = [
        OnPaper(version, PaperSession(column=one.column, sign=one.sign))
        for version, one in found
        if one.sign is not None
    ]
    save_paper_session(client, signs, how=PaperLog.SHEET, by=by, now=now)


@transaction.atomic
def save_draft(page: SheetPage, *, by: User, now: datetime) -> None:
    """What is typed so far stays, also when the page is closed."""
    SheetDraft.objects.update_or_create(
        **_of_sheet(page, by),
        defaults={"clinic_id": page.client.clinic_id, "typed": page.typed, "at": now},
    )


@transaction.atomic
def save_file(
    client: Client,
    versions: Sequence[ProgramVersion],
    read: ReadFile,
    *,
    knowingly: bool,
    by: User,
    now: datetime,
) -> SavedPaper | None:
    """As `save_page`, of a file."""
    found = [
        (version, one)
        for one in read.csv.sittings
        if (version := version_on(versions, one.column.day)) is not None
    ]
    if read.asked_about and not knowingly:
        save_signs(client, found, by=by, now=now)
        return None
    written = [OnPaper(version, one) for version, one in found]
    SheetDraft.objects.filter(client=client, by=by).exclude(csv=None).delete()
    return save_paper_session(client, written, how=PaperLog.CSV, by=by, now=now)


@transaction.atomic
def hold_file(client: Client, data: bytes, *, by: User, now: datetime) -> None:
    """Keep a file that waits to be logged knowingly."""
    SheetDraft.objects.filter(client=client, by=by).exclude(csv=None).delete()
    SheetDraft.objects.create(clinic_id=client.clinic_id, client=client, by=by, csv=data, at=now)
