"""Where a program can begin: schools compared side by side, another client's program, a template of the clinic."""

import uuid

from django.contrib import messages
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.utils.translation import gettext_noop
from django.views.decorators.http import require_GET, require_POST

from core.errors import CoreError
from core.fitting.schools import schools
from core.program.program import Chosen
from core.proposing.compare import MOST_COMPARED, compared, each_option
from core.proposing.outline import Outline, outline_of, refitted
from web.clients.models import Client
from web.clients.scope import client_of
from web.clinic import clock
from web.clinic.refusal import UsecaseRefused
from web.clinic.usecases.staff import note_access
from web.clinic.words import core_words
from web.library.queries import proposed_from
from web.programs.client_file import ClientFile
from web.programs.models import Draft, ProgramTemplate, ProgramVersion
from web.programs.plan_request import BaselineMissing, plan_request
from web.programs.queries import active_version
from web.programs.usecases import drafts, templates


def starting_points(request, client) -> dict:
    """What a program of this client can begin with, for the Bench."""
    own = Client.objects.for_clinic(request.clinic).active().filter(clinician=request.user)
    return {
        "templates": ProgramTemplate.objects.for_clinic(request.clinic)
        .filter(taken_away_at=None)
        .order_by("name"),
        "others": own.exclude(pk=client.pk)
        .filter(pk__in=ProgramVersion.objects.for_clinic(request.clinic).values("client_id"))
        .order_by("name"),
    }


@require_GET
def compare(request, client_id):
    """The ticked schools, or the options of one choice of one school, each alone."""
    client = client_of(request, client_id)
    try:
        wanted = plan_request(ClientFile.now(client))
    except BaselineMissing as missing:
        return _to_baseline(request, client, missing)
    ticked = [key for key in schools() if key in request.GET.getlist("school")]
    by = request.GET.get("by", "")
    chosen = (
        each_option(ticked[0], by)
        if len(ticked) == 1 and by
        else tuple(Chosen(school=k) for k in ticked)
    )
    if not chosen:
        messages.error(request, _("Tick the schools to compare first."))
        return redirect("programs:bench", client.pk)
    columns = compared(
        wanted,
        chosen,
        new_step_id=lambda: str(uuid.uuid4()),
        tasks=proposed_from(client.clinic),
    )
    only = schools()[ticked[0]] if len(ticked) == 1 else None
    context = {
        "client": client,
        "here": "bench",
        "columns": columns,
        "more": max(len(chosen) - MOST_COMPARED, 0),
        "only": only,
        "by": by,
    }
    return render(request, "programs/compare.html", context)


@require_POST
def from_client(request, client_id):
    """The active program of another of the clinician's own clients, fitted anew to this one."""
    client = client_of(request, client_id)
    own = Client.objects.for_clinic(request.clinic).active().filter(clinician=request.user)
    other = _chosen(own, request.POST.get("other", ""))
    version = active_version(other.pk) if other else None
    if other is None or version is None:
        return _none_chosen(request, client)
    note_access(
        request.clinic,
        user=request.user,
        what=gettext_noop("took the program for another client"),
        where="programs:from_client",
        subject_id=other.pk,
        now=clock.now(),
    )
    words = _(
        "The program of %(name)s was fitted to this client. It is now the draft on the Bench."
    ) % {"name": other.name}
    return _lay(request, client, outline_of(version.program), words)


@require_POST
def from_template(request, client_id):
    """A template of the clinic, fitted to this client."""
    client = client_of(request, client_id)
    row = _template(request)
    if row is None:
        return _none_chosen(request, client)
    words = _(
        "The template “%(name)s” was fitted to this client. It is now the draft on the Bench."
    )
    return _lay(request, client, row.outline, words % {"name": row.name})


def _template(request) -> ProgramTemplate | None:
    rows = ProgramTemplate.objects.for_clinic(request.clinic).filter(taken_away_at=None)
    return _chosen(rows, request.POST.get("template", ""))


def _chosen(rows, key: str):
    """The row of that key; None for one that is not among them, or no key at all."""
    try:
        return rows.filter(pk=uuid.UUID(key)).first()
    except ValueError:
        return None


def _none_chosen(request, client):
    messages.error(request, _("That is not there any more: choose one of the list."))
    return redirect("programs:bench", client.pk)


def _to_baseline(request, client, missing: BaselineMissing):
    messages.error(request, missing.words)
    return redirect("clients:baseline", client.pk)


def _lay(request, client, outline: Outline, words: str):
    file = ClientFile.now(client)
    try:
        program = refitted(
            outline, plan_request(file), file.tasks, new_step_id=lambda: str(uuid.uuid4())
        )
    except BaselineMissing as missing:
        return _to_baseline(request, client, missing)
    except CoreError as error:
        messages.error(request, core_words(error))
        return redirect("programs:bench", client.pk)
    drafts.replace_draft(client, program, by=request.user, now=clock.now())
    messages.success(request, words)
    return redirect("programs:bench", client.pk)


@require_POST
def save_template(request, client_id):
    """The draft, without its client, as a template of the clinic."""
    client = client_of(request, client_id)
    draft = get_object_or_404(Draft.objects.filter(client=client))
    try:
        row = templates.save_template(
            client,
            draft.program,
            name=request.POST.get("name", ""),
            by=request.user,
            now=clock.now(),
        )
    except UsecaseRefused as refused:
        messages.error(request, refused.words)
    else:
        words = _(
            "Saved as the clinic's template “%(name)s”: tasks, order and dose, nothing of the client."
        )
        messages.success(request, words % {"name": row.name})
    return redirect("programs:bench", client.pk)


@require_POST
def drop_template(request, client_id):
    """A template that the clinic does without from now on."""
    client = client_of(request, client_id)
    row = _template(request)
    if row is None:
        return _none_chosen(request, client)
    templates.drop_template(row, now=clock.now())
    messages.success(request, _("The template “%(name)s” is taken away.") % {"name": row.name})
    return redirect("programs:bench", client.pk)
