"""What other numbers of the rules would have proposed for a client in the past eight weeks."""

from dataclasses import dataclass
from datetime import timedelta

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from core.grading.rule import Rules
from core.grading.rule_preview import DAYS, ProposalDifference, differences
from web.clients.models import Client
from web.clinic import clock
from web.clinic.models import Clinic
from web.design.dates import short_day
from web.review.course_file import LOOKED_BACK_DAYS, CourseFile
from web.review.deciding.proposals import TITLES
from web.review.deciding.rule_numbers import rules_with
from web.review.models import CaseloadRow

AT_ONCE = 8
"""So many clients are looked at for one answer of the caseload's dry run."""


@dataclass(frozen=True)
class RulePreview:
    """A client with what would have been otherwise, in words."""

    client: Client
    lines: list[str]


def rule_preview(client: Client, path: str, value: float | None, *, own: bool) -> RulePreview:
    """The past eight weeks of a client with a number changed or taken back, as their own or the clinic's;
    UsecaseRefused for one that cannot be."""
    today = clock.local_date(clock.now(), client.time_zone)
    file = CourseFile(client, today, since=today - timedelta(days=DAYS + LOOKED_BACK_DAYS))
    other = rules_with(file.rule_overrides.with_number(path, value, own=own))
    return RulePreview(client, _lines(file, other))


def _lines(file: CourseFile, other: Rules) -> list[str]:
    if file.history is None:
        return []
    programs = [(version.active_from, version.program) for version in file.versions]
    found = differences(file.history, programs, file.rules, other, until=file.today)
    return [_words(one) for one in found]


def _words(one: ProposalDifference) -> str:
    what = str(TITLES[one.act])
    if one.about:
        what = f"{what} ({', '.join(dict.fromkeys(one.about))})"
    if one.more:
        said = ngettext(
            "%(what)s: proposed on %(count)s day more",
            "%(what)s: proposed on %(count)s days more",
            one.days,
        )
    else:
        said = ngettext(
            "%(what)s: not proposed on %(count)s day",
            "%(what)s: not proposed on %(count)s days",
            one.days,
        )
    words = said % {"what": what, "count": one.days}
    days = (
        short_day(one.first)
        if one.first == one.last
        else f"{short_day(one.first)} – {short_day(one.last)}"
    )
    return _("%(words)s (%(days)s)") % {"words": words, "days": days}


def caseload_window(clinic: Clinic, *, start: int) -> tuple[list[Client], int]:
    """The clients with a program from a place on, as many as are looked at for one answer, and how many
    there are."""
    rows = CaseloadRow.objects.for_clinic(clinic).filter(
        client__archived_at=None, active_since__isnull=False
    )
    ordered = rows.select_related("client__clinic").order_by("client__name", "pk")
    return [row.client for row in ordered[start : start + AT_ONCE]], rows.count()
