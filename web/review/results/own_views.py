"""My reeds: the client's own course, on their own page."""

from datetime import date, timedelta
from typing import Any

from django.shortcuts import render
from django.views.decorators.http import require_GET

from core.grading.season import season_of, step_courses
from web.clients.intake.intake_file import IntakeFile
from web.clients.models import ClientAccess
from web.practice.access.auth import client_required, page_context
from web.practice.sessions.hold_drawing import last_reeds
from web.practice.sessions.queries import last_power_attempts
from web.review.caseload.row import RowFile
from web.review.models import CaseloadRow
from web.review.results.own_course import own_courses

OWN_WEEKS = 4


@require_GET
@client_required
def reeds(request, access: ClientAccess):
    """The last home session's notes, and the last weeks of every step."""
    client = access.client
    file = IntakeFile.now(client)
    context = page_context(access, file) | {"here": "reeds", "weeks": OWN_WEEKS}
    row = CaseloadRow.objects.filter(client=client).select_related("client__clinic").first()
    if row is not None:
        first = file.today - timedelta(days=7 * OWN_WEEKS - 1)
        context |= _own(RowFile(row, file.today, since=first), first)
    return render(request, "review/own_reeds.html", context)


def _own(file: RowFile, first: date) -> dict[str, Any]:
    client, program = file.client, file.program
    if file.history is None or program is None:
        return {}
    season = season_of(file.history, file.rules, first=first, last=file.today)
    step = program.main_step
    return {
        "drawing": last_reeds(client.pk, program, last_power_attempts(client.pk, program)),
        "notes": [
            {"name": hold.note.name, "hz": hold.note.hz(program.a4_hz)}
            for hold in (step.holds if step and not client.pitch_hidden else ())
        ],
        "courses": own_courses(step_courses(season), first=first, last=file.today),
        "practiced": len({one.day for one in season.sittings}),
    }
