"""Reports: to the referrer, at discharge, a visit note, a decision; as PDF and as text to copy."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.utils.functional import Promise
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from web.clients.models import Client
from web.clinic.models import User
from web.clinic.refusal import UsecaseRefused
from web.papers.models import Issued, IssuedKind
from web.papers.print.editions import digest_of
from web.papers.print.pdf import html_of, laid_out, pdf_of
from web.papers.reports.parts import PARTS, ReportPart, parts_of, report_data
from web.papers.usecases.issue import issue

TEMPLATE = "papers/report.html"


@dataclass(frozen=True)
class ReportType:
    """A sort of report: its title, the parts it begins with, how it closes."""

    title: Promise
    parts: tuple[str, ...]
    closing: Promise | str = ""


SORTS: Mapping[str, ReportType] = {
    "progress": ReportType(
        gettext_lazy("Progress report"),
        ("who", "examination", "baseline", "change", "program", "practice", "results", "decisions"),
    ),
    "discharge": ReportType(
        gettext_lazy("Discharge summary"),
        ("who", "examination", "change", "goals", "program", "results", "decisions"),
        gettext_lazy("A look again is due in three months, sooner if the voice changes."),
    ),
    "visit_note": ReportType(gettext_lazy("Visit note"), ("who", "note")),
    "decision": ReportType(gettext_lazy("Decision"), ("who", "letter", "practice")),
}


@dataclass(frozen=True)
class Report:
    """A report as it is told: to whom, its own words before, its parts, how it closes."""

    sort: str
    title: str
    to: str
    opening: str
    parts: list[ReportPart]
    closing: str
    client: Client
    by: str
    made_at: datetime

    @property
    def text(self) -> str:
        """The same as plain text, to be copied."""
        lines = [self.title, self.client.name, *filter(None, (self.to, self.opening)), ""]
        for part in self.parts:
            lines += [part.title, *part.lines]
            lines += [_row(part.head, row) for row in part.rows]
            lines += [*part.small, ""]
        lines += [*filter(None, (self.closing,)), f"{self.by}, {self.client.clinic.name}"]
        return "\n".join(lines)


def _row(head: Sequence[str], row: Sequence[str]) -> str:
    """A line of a table in words: the first cell, then the others by their heads."""
    first, second, *others = row
    said = [f"{name} {cell}" for name, cell in zip(head[2:], others, strict=True) if cell]
    return f"{first}: {'; '.join([second, *said])}"


def report_of(
    client: Client,
    sort: str,
    *,
    chosen: Sequence[str],
    to: str,
    opening: str,
    by: User,
    now: datetime,
) -> Report:
    """A report of the chosen parts and no more of the record. UsecaseRefused where nothing is left to tell."""
    if sort not in SORTS or not set(chosen) <= set(PARTS):
        raise UsecaseRefused(_("There is no such report."))
    parts = parts_of(report_data(client, now=now), chosen)
    if not parts.keys() - {"who"}:
        raise UsecaseRefused(_("There is nothing in the record for this report yet."))
    return Report(
        sort=sort,
        title=str(SORTS[sort].title),
        to=to.strip(),
        opening=opening.strip(),
        parts=list(parts.values()),
        closing=str(SORTS[sort].closing),
        client=client,
        by=by.name,
        made_at=now,
    )


def report_pdf(
    report: Report, *, chosen: Sequence[str], by: User, now: datetime
) -> tuple[Issued, bytes]:
    """The report as PDF, and that it was given out: what of the record it holds, not the words."""
    issued = issue(
        report.client,
        IssuedKind.REPORT,
        part=report.sort,
        digest=digest_of(report.text),
        by=by,
        now=now,
        content={"parts": list(chosen)},
    )
    context: dict[str, Any] = {
        "report": report,
        "issued": issued,
        "its_clinic": report.client.clinic,
    }
    return issued, pdf_of(laid_out(html_of(TEMPLATE, context)))
