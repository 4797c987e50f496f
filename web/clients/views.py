"""Enrolment, screening, link, baseline."""

import uuid

from django.conf import settings
from django.contrib import messages
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_http_methods, require_POST

from core.errors import CoreError
from core.sound.tasks import Measured
from web.clients.forms import BaselineForm, ClientForm, ScreeningForm, TypedForm
from web.clients.models import Baseline, BaselineAttempt, Client, Measure
from web.clients.queries import BaselineView, latest_screening, probe_notes
from web.clients.scope import client_of
from web.clients.usecases import baseline as measuring
from web.clients.usecases import enrol as enrolment
from web.clients.usecases import link as links
from web.clinic import clock
from web.clinic.usecases import UsecaseRefused, note_access
from web.clinic.words import core_words
from web.measuring.tickets import Ticket


@require_http_methods(["GET", "POST"])
def enrol(request):
    now = clock.now()
    today = clock.local_date(now, request.clinic.time_zone)
    start = {"time_zone": request.clinic.time_zone}
    form = ClientForm(request.POST or None, today=today, initial=start)
    if request.method == "POST" and form.is_valid():
        client = enrolment.enrol_client(request.clinic, clinician=request.user, **form.cleaned_data)
        messages.success(request, _("Client added. Screen first."))
        return redirect("clients:screening", client.pk)
    return render(request, "clients/enrol.html", {"form": form}, status=422 if form.errors else 200)


@require_http_methods(["GET", "POST"])
def screening(request, client_id):
    client, now = client_of(request, client_id), clock.now()
    today = clock.local_date(now, client.time_zone)
    last = latest_screening(client)
    start = {name: getattr(last, name) for name in ScreeningForm.base_fields} if last else {}
    form = ScreeningForm(request.POST or None, today=today, initial={**start, "asked_on": today})
    if request.method == "POST" and form.is_valid():
        enrolment.record_screening(client, by=request.user, now=now, **form.cleaned_data)
        messages.success(request, _("Screening recorded."))
        return redirect("review:client", client.pk)
    context = {"client": client, "form": form, "here": "client"}
    return render(request, "clients/screening.html", context, status=422 if form.errors else 200)


@require_POST
def link(request, client_id):
    client = client_of(request, client_id)
    access, pin = links.make_link(client, by=request.user, now=clock.now())
    address = request.build_absolute_uri(reverse("practice:enter", args=[access.pk]))
    request.session["new_link"] = {"address": address, "pin": pin}
    return redirect("review:client", client.pk)


@require_POST
def revoke(request, client_id):
    client = client_of(request, client_id)
    links.revoke_links(client, now=clock.now())
    messages.success(request, _("Link revoked. What still arrives with it is set aside for you."))
    return redirect("review:client", client.pk)


@require_POST
def archive(request, client_id):
    client = client_of(request, client_id)
    enrolment.archive_client(client, now=clock.now())
    messages.success(request, _("Archived. The record stays and can be opened by its address."))
    return redirect("review:rounds")


@require_POST
def erase(request, client_id):
    everybody = Client.objects.for_clinic(request.clinic).select_related("clinic")
    client = get_object_or_404(everybody, pk=client_id)
    if request.POST.get("name", "").strip() != client.name:
        messages.error(request, _("Nothing was erased: the name typed is not the client's."))
        return redirect("review:client", client.pk)
    enrolment.erase_client(client, by=request.user, now=clock.now())
    messages.success(request, _("The record was erased."))
    return redirect("review:rounds")


@require_http_methods(["GET"])
def baseline(request, client_id):
    client = client_of(request, client_id)
    now = clock.now()
    row = measuring.open_baseline(client, by=request.user, now=now)
    note_access(request.clinic, user=request.user, what="read", subject_id=client.pk, now=now)
    return _baseline_page(request, client, row)


@require_POST
def set_baseline(request, client_id):
    client = client_of(request, client_id)
    row = _open_baseline(client)
    form = BaselineForm(request.POST)
    if form.is_valid():
        try:
            measuring.set_baseline(row, form.cleaned_data)
            messages.success(request, _("Values saved."))
            return redirect("clients:baseline", client.pk)
        except CoreError as error:
            form.add_error(None, core_words(error))
    row.refresh_from_db()
    return _baseline_page(request, client, row, form=form, status=422)


@require_POST
def type_attempts(request, client_id):
    client = client_of(request, client_id)
    row = _open_baseline(client)
    form = TypedForm(request.POST)
    if not form.is_valid():
        return _baseline_page(request, client, row, typed=form, status=422)
    try:
        first = uuid.UUID(form.cleaned_data["attempt_ids"])
        for place, seconds in enumerate(form.cleaned_data["seconds"]):
            measuring.type_attempt(
                row,
                attempt_id=uuid.uuid5(first, str(place)),
                measure=form.cleaned_data["measure"],
                seconds=seconds,
                now=clock.now(),
            )
    except (UsecaseRefused, ValueError) as refused:
        messages.error(request, getattr(refused, "words", _("Reload the page and type it again.")))
    return redirect("clients:baseline", client.pk)


@require_POST
def strike_out(request, client_id, attempt_id):
    client = client_of(request, client_id)
    attempt = get_object_or_404(
        BaselineAttempt.objects.for_clinic(request.clinic), pk=attempt_id, client=client
    )
    try:
        measuring.strike_out(attempt, by=request.user, now=clock.now())
    except UsecaseRefused as refused:
        messages.error(request, refused.words)
    return redirect("clients:baseline", client.pk)


@require_POST
def record(request, client_id):
    client = client_of(request, client_id)
    row = Baseline.objects.filter(client=client, recorded_at=None).first()
    if row is None:
        return redirect("review:client", client.pk)
    try:
        measuring.record_baseline(row, now=clock.now())
    except UsecaseRefused as refused:
        messages.error(request, refused.words)
        return redirect("clients:baseline", client.pk)
    messages.success(request, _("Baseline recorded. Next: the Bench."))
    return redirect("programs:bench", client.pk)


def _open_baseline(client: Client) -> Baseline:
    return get_object_or_404(
        Baseline.objects.select_related("client"), client=client, recorded_at=None
    )


def _baseline_page(request, client, row, *, form=None, typed=None, status=200):
    row.client = client
    now = clock.now()
    today = clock.local_date(now, client.time_zone)
    view = BaselineView.of(row, client.age_on(today))
    notes = probe_notes(row)
    measures = [
        {
            "key": measure.value,
            "label": measure.label,
            "note": notes.get(measure),
            "hz": notes[measure].hz(request.clinic.a4_hz) if measure in notes else None,
            "task": Measured.HISS if measure is Measure.S else Measured.HOLD,
            "attempts": [a for a in view.attempts if a.measure == measure],
            "best": view.best_s(measure),
            "attempt_ids": uuid.uuid4(),
        }
        for measure in Measure
    ]
    ticket = Ticket(
        purpose="baseline",
        clinic=str(request.clinic.pk),
        client=str(client.pk),
        holder=str(request.user.pk),
        sitting=str(row.pk),
        issued_at=now.isoformat(),
    )
    start = {name: getattr(row, name) for name in BaselineForm.base_fields}
    for name in ("height_cm", "vital_capacity_ml"):
        start[name] = f"{start[name]:g}" if start[name] is not None else None
    context = {
        "client": client,
        "row": row,
        "view": view,
        "form": form or BaselineForm(initial=start),
        "typed": typed,
        "measures": measures,
        "flags": view.flags(request.clinic),
        "bundle": {
            "ticket": ticket.signed(),
            "issued_at": now.isoformat(),
            "simulated_voice": settings.OFFER_SIMULATED_VOICE,
        },
        "here": "baseline",
    }
    return render(request, "clients/baseline.html", context, status=status)
