"""Visits, putting off and handing over, as forms of the Client page."""

from django.contrib import messages
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_http_methods, require_POST

from web.clients.models import Client
from web.clinic import clock
from web.clinic.refusal import UsecaseRefused
from web.design.dates import month_day
from web.review.forms import PutOffForm, VisitForm
from web.review.usecases import record_care
from web.review.views import client_page


def _person(request, client_id) -> Client:
    return get_object_or_404(Client.objects.for_clinic(request.clinic), pk=client_id)


def _refused(request, client_id, words: str):
    return client_page(request, client_id, typed=request.POST, care_wrong=words, status=422)


@require_POST
def visit(request, client_id):
    person, asked = _person(request, client_id), VisitForm(request.POST)
    if not asked.is_valid():
        return _refused(request, client_id, _("A day is year-month-day; nothing was changed."))
    try:
        record_care.hold_visit(person, **asked.values, by=request.user, now=clock.now())
    except UsecaseRefused as refused:
        return _refused(request, client_id, refused.words)
    messages.success(request, _("Visit kept."))
    return redirect("review:client", person.pk)


@require_POST
def put_off(request, client_id):
    person, asked = _person(request, client_id), PutOffForm(request.POST)
    if not asked.is_valid():
        return _refused(request, client_id, _("A day is year-month-day; nothing was changed."))
    until = asked.cleaned_data["until"]
    try:
        record_care.snooze(
            person,
            until=until,
            reason=asked.cleaned_data["reason"],
            by=request.user,
            now=clock.now(),
        )
    except UsecaseRefused as refused:
        return _refused(request, client_id, refused.words)
    said = _("Put off to %(day)s; anything more urgent comes before.")
    words = said % {"day": month_day(until)} if until else _("In Rounds again.")
    messages.success(request, words)
    return redirect("review:client", person.pk)


@require_http_methods(["GET", "POST"])
def hand_over(request, client_id):
    person = _person(request, client_id)
    if request.method == "GET":
        return _hand_over_page(request, person)
    try:
        row = record_care.hand_over(
            person,
            to=request.POST.get("to", ""),
            note=request.POST.get("note", ""),
            by=request.user,
            now=clock.now(),
        )
    except UsecaseRefused as refused:
        return _hand_over_page(request, person, wrong=refused.words, status=422)
    messages.success(request, _("Handed over to %(name)s.") % {"name": row.taker.name})
    return redirect("review:client", person.pk)


def _hand_over_page(request, person: Client, *, wrong: str = "", status: int = 200):
    context = {
        "client": person,
        "colleagues": record_care.colleagues(person.clinic, besides=person),
        "typed": request.POST,
        "wrong": wrong,
        "here": "client",
    }
    return render(request, "review/hand_over.html", context, status=status)


@require_POST
def read_note(request, client_id):
    person = _person(request, client_id)
    try:
        record_care.read_note(person, by=request.user, now=clock.now())
    except UsecaseRefused as refused:
        messages.error(request, refused.words)
    else:
        messages.success(request, _("Note marked as read."))
    return redirect("review:client", person.pk)
