"""What other numbers of the rules would have proposed for a client in the past eight weeks."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, timedelta

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from core.grading.dry_run import DAYS, Difference, differences
from web.clients.models import Client
from web.clinic import clock
from web.clinic.models import Clinic
from web.review.facts import Record
from web.review.history import LOOKED_BACK_DAYS
from web.review.models import CaseloadRow
from web.review.numbers import otherwise, rules_with
from web.review.proposals import TITLES

AT_ONCE = 8
"""So many clients are looked at for one answer of the caseload's dry run."""


@dataclass(frozen=True)
class Tried:
    """A client with what would have been otherwise, in words."""

    client: Client
    lines: list[str]


def tried(client: Client, *, change: Mapping[str, float | None]) -> Tried:
    """The past eight weeks of a client with a changed number; UsecaseRefused for one that cannot be."""
    today = clock.local_date(clock.now(), client.time_zone)
    found = otherwise(client.clinic, client)
    own = {path for path in change if path in found.client}
    other = rules_with(found.values(**{p: v for p, v in change.items() if p not in own}))
    return Tried(client, _lines(client, found.values(), other, today))


def tried_as_own(client: Client, *, change: Mapping[str, float | None]) -> Tried:
    """The same where the number would be the client's own."""
    today = clock.local_date(clock.now(), client.time_zone)
    found = otherwise(client.clinic, client)
    values = found.values(**change)
    for path, value in change.items():
        if value is None and path in found.clinic:
            values[path] = float(found.clinic[path].value or 0.0)
    return Tried(client, _lines(client, found.values(), rules_with(values), today))


def _lines(client: Client, now: Mapping[str, float], other, today: date) -> list[str]:
    since = today - timedelta(days=DAYS + LOOKED_BACK_DAYS)
    record = Record(client, today, since=since)
    if record.history is None:
        return []
    programs = [(version.active_from, version.program) for version in record.versions]
    found = differences(record.history, programs, rules_with(now), other, until=today)
    return [_words(one) for one in found]


def _words(one: Difference) -> str:
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
        f"{one.first:%-d %b}"
        if one.first == one.last
        else f"{one.first:%-d %b} – {one.last:%-d %b}"
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
