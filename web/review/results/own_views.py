"""My reeds: the client's own course, on their own page."""

from collections.abc import Sequence
from datetime import timedelta
from typing import Any

from django.shortcuts import render
from django.views.decorators.http import require_GET

from core.grading.season import season_of, step_courses
from web.clients.measured import MeasuredView
from web.clients.models import ClientAccess
from web.clients.queries import BaselineView
from web.clinic import clock
from web.practice.door import for_client, page_context
from web.practice.last_reeds import last_reeds
from web.practice.queries import last_power_attempts, strain_said
from web.programs.models import ProgramVersion
from web.programs.queries import versions_of
from web.review.caseload.row import history_from, screening_from
from web.review.models import CaseloadRow
from web.review.results.history import rules_for
from web.review.results.own_course import own_courses

OWN_WEEKS = 4


@require_GET
@for_client
def reeds(request, access: ClientAccess):
    """The last home session's notes, and the last weeks of every step."""
    client = access.client
    context = page_context(access) | {"here": "reeds", "weeks": OWN_WEEKS}
    versions = versions_of(client)
    row = CaseloadRow.objects.filter(client=client).select_related("client__clinic").first()
    if versions and row is not None:
        context |= _own(row, versions)
    return render(request, "review/own_reeds.html", context)


def _own(row: CaseloadRow, versions: Sequence[ProgramVersion]) -> dict[str, Any]:
    client, program = row.client, versions[-1].program
    today = clock.local_date(clock.now(), client.time_zone)
    first = today - timedelta(days=7 * OWN_WEEKS - 1)
    views = BaselineView.first_and_latest(client, client.age_on(today))
    history = history_from(
        row,
        versions,
        today,
        screening=screening_from(row, client, today),
        measured=[MeasuredView(one, client.clinic.a4_hz) for one in views],
        said=strain_said(client.pk, today),
        since=first,
    )
    if history is None:
        return {}
    season = season_of(history, rules_for(client), first=first, last=today)
    step = program.main_step
    return {
        "drawing": last_reeds(client.pk, program, last_power_attempts(client.pk, program)),
        "notes": [
            {"name": hold.note.name, "hz": hold.note.hz(program.a4_hz)}
            for hold in (step.holds if step and not client.pitch_hidden else ())
        ],
        "courses": own_courses(step_courses(season), first=first, last=today),
        "practised": len({one.day for one in season.sittings}),
    }
