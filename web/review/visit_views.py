"""The visit: what is due, what is tried, taught and measured again, the next visit, the note."""

from django.contrib import messages
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from core.catalogue.doing import ADVICE
from core.safety.circumstances import lines_for_clinician
from web.clients.measured import MeasuredView
from web.clients.models import Client
from web.clients.phrases import kept_words, own_phrases, own_places
from web.clients.queries import BaselineView
from web.clients.scope import client_of
from web.clinic import clock
from web.clinic.usecases import UsecaseRefused
from web.library.queries import catalogue_of
from web.programs.models import Draft, Went
from web.programs.queries import active_version, tried_tasks
from web.programs.trying import trying_data
from web.programs.usecases import log_tried
from web.review import queries, visiting
from web.review.care import visits_from
from web.review.models import CaseloadRow, CueLevel, OpenNote, Response, SignedNote, Taught
from web.review.row import living_from, screening_from
from web.review.since_first import since_first
from web.review.visit_note import composed, taught_words

SIGNED_SHOWN = 6


@require_GET
def in_visit(request, client_id):
    return _page(request, client_of(request, client_id))


def _page(request, client: Client, *, wrong: str = "", note: str | None = None, status: int = 200):
    """note: what was typed and could not be kept; else what is kept, else what the record says."""
    row = get_object_or_404(CaseloadRow.objects.for_clinic(request.clinic), client=client)
    today = clock.local_date(clock.now(), client.time_zone)
    screening = screening_from(row, client, today)
    views = BaselineView.first_and_latest(client, client.age_on(today))
    measured = [MeasuredView(one, request.clinic.a4_hz) for one in views]
    version, draft = active_version(client.pk), Draft.objects.filter(client=client).first()
    program = draft.program if draft else version.program if version else None
    open_note = OpenNote.objects.filter(client=client).first()
    kept = open_note.text if open_note else ""
    catalogue = catalogue_of(client.clinic)
    taught = {row.step_id: row for row in Taught.objects.filter(client=client).order_by("at")}
    context = {
        "client": client,
        "here": "client",
        "page": queries.client_page(client, row, today, screening=screening, measured=measured),
        "row": row,
        "visits": visits_from(row, today),
        "asked": program.asked if program else (),
        "phrases": kept_words(own_phrases(client.pk)),
        "places": own_places(client.pk),
        "living": lines_for_clinician(living_from(row), today=today, steps=0),
        "baseline": views[-1] if views else None,
        "since_first": since_first(measured, client),
        "tasks": [task for task in catalogue.values() if task.kind != ADVICE],
        "went": Went.choices,
        "trying": trying_data(request, client, today),
        "tried": [
            (catalogue[key].name if key in catalogue else key, one)
            for key, one in tried_tasks(client.pk).items()
        ],
        "steps": program.steps if program else (),
        "cues": {step.step_id: _cues(catalogue, step) for step in program.steps} if program else {},
        "levels": CueLevel.choices,
        "responses": Response.choices,
        "taught": [(one, taught_words(one)) for one in reversed(taught.values())],
        "has_draft": draft is not None,
        "note": note if note is not None else kept or composed(client, row, today, measured),
        "from_record": note is None and not kept,
        "revision": open_note.revision if open_note else 0,
        "signed": SignedNote.objects.filter(client=client)
        .select_related("by")
        .prefetch_related("addenda__by")
        .order_by("-at")[:SIGNED_SHOWN],
        "wrong": wrong,
        "today": today,
    }
    return render(request, "review/in_visit.html", context, status=status)


def _cues(catalogue, step) -> list[str]:
    task = catalogue.get(step.task)
    return [fault.cue for fault in task.faults] if task else []


@require_POST
def tried(request, client_id):
    """How a task went when it was tried."""
    client = client_of(request, client_id)
    try:
        log_tried(
            client,
            task=request.POST.get("task", ""),
            went=request.POST.get("went", ""),
            by=request.user,
            now=clock.now(),
        )
    except UsecaseRefused as refused:
        return _page(request, client, wrong=refused.words, status=422)
    return redirect("review:in_visit", client.pk)


@require_POST
def teach(request, client_id):
    client, asked = client_of(request, client_id), request.POST
    try:
        row = visiting.teach(
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
        return _page(request, client, wrong=refused.words, status=422)
    messages.success(request, _("Kept: %(step)s was taught.") % {"step": row.name})
    return redirect("review:in_visit", client.pk)


@require_POST
def note(request, client_id):
    """The note kept as far as it is written, or signed."""
    client, text = client_of(request, client_id), request.POST.get("text", "")
    signs = request.POST.get("act") == "sign"
    revision = request.POST.get("revision", "")
    try:
        write = visiting.sign_note if signs else visiting.write_note
        write(
            client,
            text=text,
            revision=int(revision) if revision.isascii() and revision.isdecimal() else -1,
            by=request.user,
            now=clock.now(),
        )
    except UsecaseRefused as refused:
        return _page(request, client, wrong=refused.words, note=text, status=422)
    except visiting.StaleNote as stale:
        words = _("%(name)s wrote meanwhile. Hers stands below yours: join them, then keep.") % {
            "name": stale.current.changed_by.name
        }
        both = f"{text.strip()}\n\n{stale.current.text}"
        return _page(request, client, wrong=words, note=both, status=409)
    messages.success(request, _("Signed.") if signs else _("Note kept, not signed yet."))
    return redirect("review:in_visit", client.pk)


@require_POST
def addendum(request, client_id, note_id):
    client = client_of(request, client_id)
    signed = get_object_or_404(SignedNote.objects.filter(client=client), pk=note_id)
    try:
        visiting.add_to_note(
            signed, text=request.POST.get("text", ""), by=request.user, now=clock.now()
        )
    except UsecaseRefused as refused:
        return _page(request, client, wrong=refused.words, status=422)
    messages.success(request, _("Added to the signed note."))
    return redirect("review:in_visit", client.pk)
