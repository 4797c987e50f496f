"""The page after a home session."""

from django.shortcuts import get_object_or_404, render
from django.views.decorators.http import require_GET

from web.clients.models import ClientAccess
from web.practice.access.auth import client_required, page_context
from web.practice.models import HomeSession, Outcome
from web.practice.sessions import queries
from web.practice.sessions.before_session import is_emergency
from web.practice.sessions.hold_drawing import last_reeds
from web.practice.today.day_assignments import open_assignments
from web.practice.today.practicable import cool_down_after, practicable
from web.programs.client_file import ClientFile


@require_GET
@client_required
def finished(request, access: ClientAccess, session_id):
    rows = HomeSession.objects.select_related("version")
    session = get_object_or_404(rows, pk=session_id, client=access.client)
    attempts = queries.attempts_in(HomeSession.objects.filter(pk=session.pk))
    client_id, file = access.client_id, ClientFile.now(access.client)
    program = session.version.program
    context = page_context(access, file) | {
        "session": session,
        "held": sum(1 for attempt in attempts if attempt.seconds),
        "drawing": last_reeds(client_id, program, attempts),
        "stopped": session.outcome == Outcome.STOPPED,
        "emergency": session.outcome == Outcome.STOPPED and is_emergency(session),
    }
    if not context["stopped"]:
        can = practicable(file, program)
        left = open_assignments(file, session.practice_day, program=program)
        context["later"] = [one.name for one in left if one.session == session]
        context["cool_down"] = cool_down_after(can, can.of(session.routine).routine)
    return render(request, "practice/finished.html", context)
