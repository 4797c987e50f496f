"""The calendar file, for the client and for the clinician beside them."""

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.utils.translation import gettext_noop
from django.views.decorators.http import require_GET

from core.formats.calendar_file import TYPE
from web.clients.intake.intake_file import IntakeFile
from web.clients.models import ClientAccess
from web.clients.scope import client_of
from web.clinic import clock
from web.clinic.refusal import UsecaseRefused
from web.papers.export.calendar import REMINDERS, calendar_of
from web.practice.access.auth import client_required, page_context


@require_GET
def calendar(request, client_id):
    """The clinician saves it for the client."""
    client = client_of(request, client_id)
    remind = _remind(request)
    try:
        _issued, data = calendar_of(client, by=request.user, now=clock.now(), remind_min=remind)
    except UsecaseRefused as refused:
        messages.error(request, refused.words)
        return redirect("papers:papers", client.pk)
    request.noted_as = gettext_noop("saved the calendar")
    return _file(data)


@require_GET
@client_required
def own_calendar(request, access: ClientAccess):
    """The client takes it into the calendar of their telephone."""
    remind = _remind(request)
    try:
        _issued, data = calendar_of(access.client, by=None, now=clock.now(), remind_min=remind)
    except UsecaseRefused as refused:
        file = IntakeFile.now(access.client)
        context = {**page_context(access, file), "here": "today", "words": refused.words}
        return render(request, "papers/no_calendar.html", context, status=409)
    return _file(data)


def _remind(request) -> int | None:
    """Minutes before each entry, one of those offered; None for anything else."""
    said = request.GET.get("remind", "")
    return next((one for one in REMINDERS if str(one) == said), None)


def _file(data: bytes) -> HttpResponse:
    answer = HttpResponse(data, content_type=TYPE)
    answer["Content-Disposition"] = 'attachment; filename="home-practice.ics"'
    return answer
