"""Enrolment, screening, link, archive."""

from functools import partial

from django.contrib import messages
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_http_methods, require_POST

from core.catalogue.materials import sorts
from web.clients.forms import ClientForm
from web.clients.home.note import NoteForm, note_home
from web.clients.home.phrases import (
    ASKED_FOR,
    PhrasesForm,
    PlacesForm,
    count_words,
    own_phrases,
    own_places,
)
from web.clients.intake.intake_file import IntakeFile
from web.clients.intake.screening_form import ScreeningForm
from web.clients.models import Client
from web.clients.scope import client_of
from web.clients.usecases import enrol as enrolment
from web.clients.usecases import link as links
from web.clients.usecases.for_home import save_note, save_phrases, save_places
from web.clinic import clock, revisions


@require_http_methods(["GET", "POST"])
def enrol(request):
    now = clock.now()
    today = clock.local_date(now, request.clinic.time_zone)
    start = {"time_zone": request.clinic.time_zone, "language": request.clinic.language}
    form = ClientForm(request.POST or None, today=today, initial=start)
    if request.method == "POST" and form.is_valid():
        client = enrolment.enrol_client(request.clinic, clinician=request.user, **form.cleaned_data)
        messages.success(request, _("Client added. Next: screening."))
        return redirect("clients:screening", client.pk)
    return render(request, "clients/enrol.html", {"form": form}, status=422 if form.errors else 200)


@require_http_methods(["GET", "POST"])
def screening(request, client_id):
    client, now = client_of(request, client_id), clock.now()
    file = IntakeFile.now(client)
    asked = partial(
        ScreeningForm,
        today=file.today,
        client=client,
        last=file.latest_screening,
        standing=file.screening,
    )
    form, stands = asked(request.POST or None), asked().as_it_stands()
    kept = request.method == "POST" and form.is_valid()
    apart = kept and not revisions.met(form, request.POST.get("shown", ""), stands)
    if kept and not apart:
        enrolment.record_screening(client, by=request.user, now=now, **form.answers())
        messages.success(request, _("Screening saved."))
        return redirect("review:client", client.pk)
    context = {"client": client, "form": form, "here": "client", "shown": revisions.shown(stands)}
    status = 409 if apart else 422 if form.errors else 200
    return render(request, "clients/screening.html", context, status=status)


@require_POST
def telephone(request, client_id):
    """The number to call a client at, for the clinician only."""
    client = client_of(request, client_id)
    number = " ".join(request.POST.get("telephone", "").split())[:40]
    enrolment.set_telephone(client, number)
    messages.success(request, _("Telephone saved."))
    return redirect("review:client", client.pk)


@require_POST
def pitch_at_home(request, client_id):
    """Whether the client's own pages and papers name notes and pitches."""
    client, hidden = client_of(request, client_id), request.POST.get("hidden") == "on"
    enrolment.hide_pitch(client, hidden=hidden)
    messages.success(
        request,
        _("Note names and pitch numbers are hidden from the client.")
        if hidden
        else _("Note names and pitch numbers are shown to the client."),
    )
    return redirect("clients:for_home", client.pk)


@require_http_methods(["GET", "POST"])
def for_home(request, client_id):
    """The client's own phrases and places, and the note on their Today page."""
    client, now = client_of(request, client_id), clock.now()
    own, note = own_phrases(client.pk), note_home(client.pk)
    told = request.POST if request.method == "POST" else None
    of_note = told is not None and "words" in told
    of_places = told is not None and "places" in told
    of_phrases = told is not None and not of_note and not of_places
    phrases = PhrasesForm(told if of_phrases else None, initial={"phrases": "\n".join(own)})
    places = PlacesForm(
        told if of_places else None, initial={"places": "\n".join(own_places(client.pk))}
    )
    noted = NoteForm(told if of_note else None, initial={"words": note.words if note else ""})
    if of_note and noted.is_valid():
        save_note(client, noted.cleaned_data["words"], by=request.user, now=now)
        messages.success(request, _("The note is kept."))
        return redirect("clients:for_home", client.pk)
    if of_places and places.is_valid():
        save_places(client, places.cleaned_data["places"], by=request.user, now=now)
        messages.success(request, _("The places are kept."))
        return redirect("clients:for_home", client.pk)
    if of_phrases and phrases.is_valid():
        came = phrases.cleaned_data["phrases"]
        save_phrases(client, came, by=request.user, now=now)
        messages.success(request, count_words(came))
        return redirect("clients:for_home", client.pk)
    context = {
        "client": client,
        "phrases": phrases,
        "noted": noted,
        "places": places,
        "own": own,
        "examples": sorts()["phrases"].turns,
        "asked_for": ASKED_FOR,
        "here": "client",
    }
    status = 422 if phrases.errors or noted.errors or places.errors else 200
    return render(request, "clients/for_home.html", context, status=status)


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
def renew(request, client_id):
    client = client_of(request, client_id)
    if links.renew_link(client, now=clock.now()):
        messages.success(request, _("The link goes on: same address, same PIN."))
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
    request.noted_as = ""
    messages.success(request, _("The record was erased."))
    return redirect("review:rounds")
