"""The visit: what is due, what is tried and taught, and the next visit."""

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from web.clients.scope import client_of
from web.clinic import clock
from web.clinic.refusal import UsecaseRefused
from web.programs.usecases.trials import record_trial
from web.review.forms import VisitForm
from web.review.usecases import record_care, record_teaching
from web.review.visits.page import visit_page


@require_GET
def in_visit(request, client_id) -> HttpResponse:
    return visit_page(request, client_of(request, client_id))


@require_POST
def tried(request, client_id) -> HttpResponse:
    """How a task went when it was tried."""
    client, asked = client_of(request, client_id), request.POST
    try:
        record_trial(
            client,
            task=asked.get("task", ""),
            went=asked.get("went", ""),
            by=request.user,
            now=clock.now(),
        )
    except UsecaseRefused as refused:
        return visit_page(request, client, wrong=refused.words, typed=asked, status=422)
    return redirect("review:in_visit", client.pk)


@require_POST
def teach(request, client_id) -> HttpResponse:
    client, asked = client_of(request, client_id), request.POST
    try:
        row = record_teaching.teach(
            client,
            step_id=asked.get("step", ""),
            cue=asked.get("cue", ""),
            cue_level=asked.get("cue_level", ""),
            response=asked.get("response", ""),
            shown_back=asked.get("shown_back", ""),
            fade=asked.get("fade", ""),
            at_home=asked.get("at_home") == "on",
            by=request.user,
            now=clock.now(),
        )
    except UsecaseRefused as refused:
        return visit_page(request, client, wrong=refused.words, typed=asked, status=422)
    messages.success(request, _("Saved: %(step)s was taught.") % {"step": row.name})
    return redirect("review:in_visit", client.pk)


@require_POST
def record_visit(request, client_id) -> HttpResponse:
    """That this visit took place, and when the next is."""
    client, asked = client_of(request, client_id), VisitForm(request.POST)
    words = "" if asked.is_valid() else _("Type a date as year-month-day. Nothing was saved.")
    if not words:
        try:
            record_care.hold_visit(client, **asked.values, by=request.user, now=clock.now())
        except UsecaseRefused as refused:
            words = refused.words
    if words:
        return visit_page(request, client, wrong=words, typed=request.POST, status=422)
    messages.success(request, _("Visit saved."))
    return redirect("review:in_visit", client.pk)
