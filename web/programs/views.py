"""The Bench: propose, edit, undo, take in and give out a file, activate."""

import json
import uuid
from dataclasses import replace

from django.contrib import messages
from django.http import Http404, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.template.loader import render_to_string
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from core.catalogue.doing import ADVICE
from core.errors import CoreError
from core.formats.program_file import read_program
from core.formats.reading import MOST_BYTES, FileRefused, Problem
from core.proposing.adding import added, shelf
from core.proposing.aims import table
from core.proposing.request import PitchDirection
from core.safety.circumstances import lines_for_clinician
from web.clients.queries import (
    BaselineView,
    latest_baseline,
    living_of,
    screenings_of,
    standing_screening,
)
from web.clients.scope import client_of
from web.clinic import clock
from web.clinic.usecases import UsecaseRefused
from web.clinic.words import core_words
from web.library.queries import by_family, catalogue_of
from web.programs import usecases
from web.programs.asking import (
    offers,
    read_chosen,
    read_direction,
    read_minutes,
    read_wants,
    request_for,
)
from web.programs.bench import began_as, draft_context
from web.programs.edits import Hands, read_edit
from web.programs.gates import gate_with
from web.programs.models import Draft, Went
from web.programs.queries import active_version, tried_tasks
from web.programs.starting import asked_of, starting_points


@require_GET
def bench(request, client_id):
    client = client_of(request, client_id)
    return _bench(request, client)


def _bench(request, client, *, status=200, written_reason="", problems=()):
    today = clock.local_date(clock.now(), client.time_zone)
    baseline = latest_baseline(client)
    if baseline is not None:
        baseline.client = client
    view = BaselineView.of(baseline, client.age_on(today)) if baseline else None
    draft = Draft.objects.filter(client=client).first()
    rows = screenings_of(client)
    catalogue, version = catalogue_of(client.clinic), active_version(client.pk)
    tried = tried_tasks(client.pk)
    screening = standing_screening(client, today, rows)
    gate = gate_with(
        client,
        draft.program if draft else None,
        today,
        screening=screening,
        version=version,
        tasks=catalogue,
    )
    context = {
        "client": client,
        "view": view,
        "gate": gate,
        "to_bear_in_mind": lines_for_clinician(
            living_of(rows[-1] if rows else None),
            today=today,
            steps=len(draft.program.steps) if draft else 0,
            tone_unheard=screening is not None and screening.tone_heard is False,
        ),
        "version": version,
        "written_reason": written_reason,
        "problems_of_file": problems,
        "here": "bench",
    }
    if draft is not None:
        chosen = request.GET.get("step", "")
        context |= draft_context(draft, client, today, chosen=chosen, gate=gate)
    context |= starting_points(request, client)
    context["tasks"] = [t for t in catalogue.values() if t.kind != ADVICE]
    context["went"] = Went.choices
    context["wants"] = [(want.value, leads.words) for want, leads in table().wants.items()]
    context["directions"] = [
        (PitchDirection.UP.value, _("higher")),
        (PitchDirection.DOWN.value, _("lower")),
        (PitchDirection.COMFORTABLE.value, _("find the comfortable one")),
    ]
    context["tried"] = [
        (catalogue[key].name if key in catalogue else key, row) for key, row in tried.items()
    ]
    if view is not None:
        try:
            context["offers"] = offers(view, draft.program if draft else None)
            asked = request_for(client, view, chosen=(), today=today, rows=rows, tried=tried)
            context["shelf"] = by_family(shelf(asked, catalogue))
        except CoreError as error:
            context["not_offered"] = core_words(error)
    return render(request, "programs/bench.html", context, status=status)


@require_POST
def propose(request, client_id):
    client = client_of(request, client_id)
    today = clock.local_date(clock.now(), client.time_zone)
    baseline = latest_baseline(client)
    if baseline is None:
        messages.error(request, _("Record a baseline first."))
        return redirect("clients:baseline", client.pk)
    view = BaselineView.of(baseline, client.age_on(today))
    try:
        wanted = request_for(
            client,
            view,
            chosen=read_chosen(request.POST),
            today=today,
            breath_hold=request.POST.get("breath_hold") == "on",
            minutes=read_minutes(request.POST),
            wants=read_wants(request.POST),
            direction=read_direction(request.POST),
        )
        usecases.propose(client, wanted, by=request.user, now=clock.now())
    except CoreError as error:
        messages.error(request, core_words(error))
        return _bench(request, client, status=422)
    return redirect("programs:bench", client.pk)


@require_POST
def tried(request, client_id):
    """Log how a task went when it was tried in the visit."""
    client = client_of(request, client_id)
    try:
        usecases.log_tried(
            client,
            task=request.POST.get("task", ""),
            went=request.POST.get("went", ""),
            by=request.user,
            now=clock.now(),
        )
    except UsecaseRefused as refused:
        messages.error(request, refused.words)
        return _bench(request, client, status=422)
    return redirect("programs:bench", client.pk)


@require_GET
def export(request, client_id):
    """The draft, or else the active program, as a file in the open format."""
    client = client_of(request, client_id)
    draft = Draft.objects.filter(client=client).first()
    version = active_version(client.pk)
    held = draft or version
    if held is None:
        raise Http404
    request.noted_as = "exported program"
    text = json.dumps(held.content, ensure_ascii=False, indent=2)
    answer = HttpResponse(text, content_type="application/json; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="still-reed-program.json"'
    return answer


@require_POST
def take_in(request, client_id):
    """A program file onto the Bench: all of it, or nothing and every problem by line."""
    client = client_of(request, client_id)
    baseline = latest_baseline(client)
    if baseline is None:
        messages.error(request, _("Record a baseline first."))
        return redirect("clients:baseline", client.pk)
    try:
        text = _text_of(request.FILES.get("program"))
        program = read_program(text, tasks=catalogue_of(request.clinic))
    except FileRefused as refused:
        messages.error(request, _("The file was not taken; the Bench is as it was."))
        return _bench(request, client, status=422, problems=refused.problems)
    # Whatever range the file was made for: the notes are judged by this client's own.
    program = replace(program, comfort=baseline.comfort)
    usecases.lay_on_bench(client, program, by=request.user, now=clock.now())
    messages.success(
        request, _("The program of the file lies on the Bench. Look at it, then activate.")
    )
    return redirect("programs:bench", client.pk)


def _text_of(file) -> str:
    if file is None:
        raise FileRefused([Problem(1, "", _("choose a file first"))])
    if file.size > MOST_BYTES:
        raise FileRefused([Problem(1, "", _("the file is over 2 MB"))])
    try:
        return file.read().decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise FileRefused([Problem(1, "", _("the file is no UTF-8 text"))]) from error


@require_POST
def edit(request, client_id):
    """One change as JSON; answers the new bench as HTML, or 409 with the current one."""
    client = client_of(request, client_id)
    now = clock.now()
    today = clock.local_date(now, client.time_zone)
    chosen = ""
    try:
        came = read_edit(request.body, _hands(client, today))
        chosen, who = came.chosen, {"revision": came.revision, "by": request.user, "now": now}
        if came.kind == "undo":
            draft = usecases.undo_edit(client, **who)
        elif came.kind == "redo":
            draft = usecases.redo_edit(client, **who)
        elif came.change is None:
            draft = usecases.draft_of(client)
        else:
            draft = usecases.edit_draft(client, change=came.change, **who)
    except CoreError as error:
        return JsonResponse({"message": core_words(error)}, status=422)
    except UsecaseRefused as refused:
        return JsonResponse({"message": refused.words}, status=422)
    except usecases.StaleDraft as stale:
        words = _("Somebody changed this draft meanwhile. Your last change was not saved.")
        answer = _answer(request, client, stale.current, today, chosen)
        return JsonResponse({"message": words, **answer}, status=409)
    return JsonResponse(_answer(request, client, draft, today, chosen))


def _hands(client, today) -> Hands:
    """What changes need of the record; read only where one needs it."""

    def base():
        draft = Draft.objects.filter(client=client).first()
        return began_as(draft) if draft else None

    def add(program, task, routine):
        wanted = asked_of(client, today)
        if wanted is None:
            raise UsecaseRefused(_("Record a baseline first."))
        return added(
            program,
            wanted,
            catalogue_of(client.clinic),
            task_key=task,
            routine_key=routine,
            step_id=str(uuid.uuid4()),
        )

    return Hands(
        base=base,
        today=today,
        added=add,
        new_id=lambda: str(uuid.uuid4()),
    )


def _answer(request, client, draft: Draft, today, chosen: str) -> dict:
    context = draft_context(draft, client, today, chosen=chosen)
    html = render_to_string("programs/draft.html", context, request)
    return {"revision": draft.revision, "html": html}


@require_POST
def activate(request, client_id):
    client = client_of(request, client_id)
    now = clock.now()
    today = clock.local_date(now, client.time_zone)
    reason = request.POST.get("written_reason", "")
    try:
        version = usecases.activate(
            client,
            revision=int(request.POST.get("revision") or 0),
            written_reason=reason,
            by=request.user,
            now=now,
            active_from=today,
        )
    except UsecaseRefused as refused:
        messages.error(request, refused.words)
        return _bench(request, client, status=422, written_reason=reason)
    except usecases.StaleDraft:
        words = _("Somebody changed this draft meanwhile: look at it, then activate.")
        messages.error(request, words)
        return _bench(request, client, status=409, written_reason=reason)
    except ValueError:
        messages.error(request, _("Reload the page and activate again."))
        return _bench(request, client, status=422, written_reason=reason)
    messages.success(
        request, _("Program version %(number)s is active.") % {"number": version.number}
    )
    return redirect("review:client", client.pk)
