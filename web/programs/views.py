"""The Bench: propose, edit, undo, take in and give out a file, activate."""

import json
import uuid
from dataclasses import replace

from django.contrib import messages
from django.http import Http404, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.template.loader import render_to_string
from django.utils.translation import gettext as _
from django.utils.translation import gettext_noop
from django.views.decorators.http import require_GET, require_POST

from core.catalogue.doing import ADVICE
from core.errors import CoreError
from core.formats.program_file import read_program
from core.formats.reading import MOST_BYTES, FileRefused, Problem
from core.proposing.add_task import added, shelf
from core.proposing.aims import want_words
from core.proposing.request import PitchDirection
from core.safety.circumstances import lines_for_clinician
from web.clients.scope import client_of
from web.clinic import clock
from web.clinic.refusal import UsecaseRefused
from web.clinic.words import core_words
from web.library.queries import by_family
from web.programs.client_file import ClientFile
from web.programs.draft_page import began_as, draft_context
from web.programs.edit_requests import EditTools, read_edit
from web.programs.method_offers import (
    offers,
    read_chosen,
    read_direction,
    read_minutes,
    read_wants,
)
from web.programs.models import Draft, Went
from web.programs.plan_request import BaselineMissing, baseline_for, plan_request
from web.programs.starting_points import starting_points
from web.programs.usecases import drafts, trials, versions


@require_GET
def bench(request, client_id):
    client = client_of(request, client_id)
    return _bench(request, client)


def _bench(request, client, *, status=200, written_reason="", problems=()):
    file = ClientFile.now(client)
    draft, screening = file.draft, file.screening
    program = draft.program if draft else None
    context = {
        "client": client,
        "view": file.baseline,
        "gate": file.gate_of(program),
        "to_bear_in_mind": lines_for_clinician(
            file.living,
            today=file.today,
            steps=len(program.steps) if program else 0,
            tone_unheard=screening is not None and screening.tone_heard is False,
        ),
        "version": file.version,
        "written_reason": written_reason,
        "problems_of_file": problems,
        "here": "bench",
    }
    if draft is not None:
        chosen = request.GET.get("step", "")
        context |= draft_context(draft, file, chosen=chosen, gate=context["gate"])
    context |= starting_points(request, client)
    context["tasks"] = [t for t in file.tasks.values() if t.kind != ADVICE]
    context["went"] = Went.choices
    context["wants"] = [(want.value, words) for want, words in want_words().items()]
    context["directions"] = [
        (PitchDirection.UP.value, _("higher")),
        (PitchDirection.DOWN.value, _("lower")),
        (PitchDirection.COMFORTABLE.value, _("find the comfortable one")),
    ]
    context["tried"] = [
        (file.tasks[key].name if key in file.tasks else key, row) for key, row in file.tried.items()
    ]
    if file.baseline is not None:
        try:
            context["offers"] = offers(file.baseline, program)
            context["shelf"] = by_family(shelf(plan_request(file), file.tasks))
        except CoreError as error:
            context["not_offered"] = core_words(error)
    return render(request, "programs/bench.html", context, status=status)


@require_POST
def propose(request, client_id):
    client = client_of(request, client_id)
    try:
        wanted = plan_request(
            ClientFile.now(client),
            chosen=read_chosen(request.POST),
            breath_hold=request.POST.get("breath_hold") == "on",
            minutes=read_minutes(request.POST),
            wants=read_wants(request.POST),
            direction=read_direction(request.POST),
        )
        drafts.propose(client, wanted, by=request.user, now=clock.now())
    except BaselineMissing as missing:
        messages.error(request, missing.words)
        return redirect("clients:baseline", client.pk)
    except CoreError as error:
        messages.error(request, core_words(error))
        return _bench(request, client, status=422)
    return redirect("programs:bench", client.pk)


@require_POST
def tried(request, client_id):
    """Log how a task went when it was tried in the visit."""
    client = client_of(request, client_id)
    try:
        trials.record_trial(
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
    file = ClientFile.now(client_of(request, client_id))
    held = file.draft or file.version
    if held is None:
        raise Http404
    request.noted_as = gettext_noop("exported program")
    text = json.dumps(held.content, ensure_ascii=False, indent=2)
    answer = HttpResponse(text, content_type="application/json; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="still-reed-program.json"'
    return answer


@require_POST
def take_in(request, client_id):
    """A program file onto the Bench: all of it, or nothing and every problem by line."""
    client = client_of(request, client_id)
    file = ClientFile.now(client)
    try:
        comfort = baseline_for(file).baseline.comfort
        text = _text_of(request.FILES.get("program"))
        program = read_program(text, tasks=file.tasks)
    except BaselineMissing as missing:
        messages.error(request, missing.words)
        return redirect("clients:baseline", client.pk)
    except FileRefused as refused:
        messages.error(request, _("The file was not taken; the Bench is as it was."))
        return _bench(request, client, status=422, problems=refused.problems)
    # Whatever range the file was made for: the notes are judged by this client's own.
    program = replace(program, comfort=comfort)
    drafts.replace_draft(client, program, by=request.user, now=clock.now())
    messages.success(
        request,
        _("The imported program is now the draft on the Bench. Review it, then activate it."),
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
    file = ClientFile(client, clock.local_date(now, client.time_zone))
    chosen = ""
    try:
        came = read_edit(request.body, _edit_tools(file))
        chosen, who = came.chosen, {"revision": came.revision, "by": request.user, "now": now}
        if came.kind == "undo":
            draft = drafts.undo_edit(client, **who)
        elif came.kind == "redo":
            draft = drafts.redo_edit(client, **who)
        elif came.change is None:
            draft = drafts.current_draft(client)
        else:
            draft = drafts.edit_draft(client, change=came.change, **who)
    except CoreError as error:
        return JsonResponse({"message": core_words(error)}, status=422)
    except UsecaseRefused as refused:
        return JsonResponse({"message": refused.words}, status=422)
    except drafts.StaleDraft as stale:
        words = _("Somebody changed this draft meanwhile. Your last change was not saved.")
        answer = _answer(request, file, stale.current, chosen)
        return JsonResponse({"message": words, **answer}, status=409)
    return JsonResponse(_answer(request, file, draft, chosen))


def _edit_tools(file: ClientFile) -> EditTools:
    """What changes need of the record; read only where one needs it."""

    def base():
        return began_as(file.draft) if file.draft else None

    def add(program, task, routine):
        return added(
            program,
            plan_request(file),
            file.tasks,
            task_key=task,
            routine_key=routine,
            step_id=str(uuid.uuid4()),
        )

    return EditTools(
        base=base,
        today=file.today,
        added=add,
        new_id=lambda: str(uuid.uuid4()),
    )


def _answer(request, file: ClientFile, draft: Draft, chosen: str) -> dict:
    context = draft_context(draft, file, chosen=chosen)
    html = render_to_string("programs/draft.html", context, request)
    return {"revision": draft.revision, "html": html}


@require_POST
def activate(request, client_id):
    client = client_of(request, client_id)
    now = clock.now()
    today = clock.local_date(now, client.time_zone)
    reason = request.POST.get("written_reason", "")
    try:
        version = versions.activate(
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
    except drafts.StaleDraft:
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
