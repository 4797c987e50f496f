"""The Bench: propose, edit, undo, activate."""

from django.contrib import messages
from django.http import JsonResponse
from django.shortcuts import redirect, render
from django.template.loader import render_to_string
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from core.errors import CoreError, PlanError
from core.notes.range import VoiceGroup
from core.plans.pitches import PitchSchool, fit_pitches
from core.safety.gate import Gate
from core.safety.program_gate import program_gate, touches_of
from web.clients.queries import BaselineView, as_screening, latest_baseline, latest_screening
from web.clients.scope import client_of
from web.clinic import clock
from web.clinic.usecases import UsecaseRefused, note_access
from web.clinic.words import core_words
from web.programs import usecases
from web.programs.bench import draft_context, goals_of, read_edit, read_goal
from web.programs.models import Draft
from web.programs.queries import active_version


@require_GET
def bench(request, client_id):
    client = client_of(request, client_id)
    note_access(
        request.clinic, user=request.user, what="read", subject_id=client.pk, now=clock.now()
    )
    return _bench(request, client)


def _bench(request, client, *, status=200, written_reason=""):
    today = clock.local_date(clock.now(), client.time_zone)
    baseline = latest_baseline(client)
    view = BaselineView.of(baseline, client.age_on(today)) if baseline else None
    draft = Draft.objects.filter(client=client).first()
    screening = as_screening(latest_screening(client), client, today)
    does = touches_of(draft.program) if draft else {}
    context = {
        "client": client,
        "view": view,
        "goals": goals_of(view) if view else [],
        "schools": _schools(client, view) if view else [],
        "gate": program_gate(screening, does, today),
        "version": active_version(client.pk),
        "written_reason": written_reason,
        "here": "bench",
    }
    if draft is not None:
        context |= draft_context(draft)
    return render(request, "programs/bench.html", context, status=status)


def _schools(client, view) -> list[dict]:
    """Each pitch school with what it would give this client, or why it cannot."""
    labels = {
        PitchSchool.SHIFTED: _("Shifted into the range"),
        PitchSchool.STANDARD: _("Standard notes"),
    }
    offered = []
    for school, label in labels.items():
        try:
            fitted = fit_pitches(view.baseline.comfort, VoiceGroup(client.voice_group), school)
            words = " ".join(note.name for note in fitted.notes)
            offered.append({"key": school.value, "label": label, "words": words, "fits": True})
        except PlanError as error:
            words = core_words(error)
            offered.append({"key": school.value, "label": label, "words": words, "fits": False})
    return offered


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
        goal_s, because = read_goal(
            view, request.POST.get("goal", ""), request.POST.get("goal_s", "")
        )
        school = request.POST.get("school", "")
        usecases.propose(
            client,
            view,
            school=PitchSchool(school) if school in set(PitchSchool) else PitchSchool.SHIFTED,
            goal_s=goal_s,
            goal_because=because,
            a4_hz=request.clinic.a4_hz,
            by=request.user,
            now=clock.now(),
        )
    except CoreError as error:
        messages.error(request, core_words(error))
        return _bench(request, client, status=422)
    return redirect("programs:bench", client.pk)


@require_POST
def edit(request, client_id):
    """One change as JSON; answers the new bench as HTML, or 409 with the current one."""
    client = client_of(request, client_id)
    now = clock.now()
    try:
        revision, change = read_edit(request.body)
        if change is None:
            draft = usecases.undo_edit(client, revision=revision, by=request.user, now=now)
        else:
            draft = usecases.edit_draft(
                client, revision=revision, change=change, by=request.user, now=now
            )
    except CoreError as error:
        return JsonResponse({"message": core_words(error)}, status=422)
    except UsecaseRefused as refused:
        return JsonResponse({"message": refused.words}, status=422)
    except usecases.StaleDraft as stale:
        words = _("Somebody changed this draft meanwhile. Your last change was not saved.")
        return JsonResponse({"message": words, **_answer(request, stale.current)}, status=409)
    return JsonResponse(_answer(request, draft))


def _answer(request, draft: Draft) -> dict:
    html = render_to_string("programs/draft.html", draft_context(draft), request)
    return {"revision": draft.revision, "html": html}


def _gate_of_draft(client, today) -> Gate:
    draft = Draft.objects.filter(client=client).first()
    screening = as_screening(latest_screening(client), client, today)
    return program_gate(screening, touches_of(draft.program) if draft else {}, today)


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
            gate=_gate_of_draft(client, today),
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
