"""The Today page: what is due, what is on hold, questions and answers."""

from django import forms
from django.shortcuts import redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from core.dose.taper import on_day
from core.safety.circumstances import lines_for_client
from web.clients.home.note import note_home
from web.clients.models import ClientAccess
from web.clinic import clock
from web.clinic.refusal import UsecaseRefused
from web.design.speaking import in_their_words
from web.measuring.views import MOST_COUNTED
from web.practice.access.auth import client_required, page_context
from web.practice.models import HomeSession
from web.practice.today.circumstance_lines import own_lines
from web.practice.today.day_assignments import open_assignments
from web.practice.today.due import done_today, due_today
from web.practice.today.on_hold import resting_words, stop_words
from web.practice.today.practicable import practicable
from web.practice.today.program_changes import what_changed
from web.practice.today.usual_voice import voice_question
from web.practice.usecases.report_voice import report_voice
from web.practice.usecases.tick_off import tick_off
from web.programs.client_file import ClientFile
from web.programs.queries import asked_today


class LaterForm(forms.Form):
    session = forms.UUIDField()
    step = forms.UUIDField()
    count = forms.IntegerField(required=False, min_value=0, max_value=MOST_COUNTED)
    strain = forms.IntegerField(required=False, min_value=0, max_value=10)


@require_GET
@client_required
def today(request, access: ClientAccess):
    return _today_page(request, access)


@require_POST
@client_required
def later(request, access: ClientAccess):
    """What was done in the course of the day is ticked off."""
    form = LaterForm(request.POST)
    if not form.is_valid():
        return _today_page(request, access, wrong=_("Choose one of the numbers."))
    said = form.cleaned_data
    try:
        tick_off(
            access,
            session_id=said["session"],
            step_id=str(said["step"]),
            count=said["count"],
            strain=said["strain"],
            now=clock.now(),
        )
    except UsecaseRefused as refused:
        return _today_page(request, access, wrong=refused.words)
    return redirect("practice:today", access.pk)


@require_POST
@client_required
def usual_voice(request, access: ClientAccess):
    """Whether the voice is back to usual today."""
    try:
        report_voice(access.client, usual=request.POST.get("usual", ""), now=clock.now())
    except UsecaseRefused as refused:
        return _today_page(request, access, wrong=refused.words)
    return redirect("practice:today", access.pk)


def _today_page(request, access: ClientAccess, wrong: str = ""):
    client = access.client
    file = ClientFile.now(client)
    day, versions = file.today, file.versions
    version, gate = file.version, file.running_gate
    context = page_context(access, file) | {"here": "today"}
    if version is not None:
        program = on_day(version.program, day)
        can = practicable(file, program)
        allowed = file.allowed - can.withheld
        asked, done = asked_today(versions, day), done_today(client, day)
        routines = due_today(can, asked, done, file.tasks)
        context |= {
            "program": program,
            "routines": routines,
            "asked": sum(one.asked for one in routines),
            "left": sum(one.left for one in routines),
            "resting_steps": [in_their_words(step.name) for step in can.resting],
            "stop_words": stop_words(can.signs),
            "not_today": [in_their_words(step.name) for step in can.not_today],
            "note": note_home(client.pk),
            "later": open_assignments(file, day, program=program),
            "later_wrong": wrong,
            "of_ten": range(11),
            "changed": what_changed(versions) if not _practiced(client, version) else [],
            "loud": any(step.level for step in program.steps),
            "advice": [
                in_their_words(line.words)
                for line in program.advice
                if allowed.issuperset(line.touches)
            ],
            "own_lines": own_lines(lines_for_client(file.living, today=day, allowed=allowed)),
        }
    context["resting"] = resting_words(gate, client.clinic) if version else None
    context["emergency"] = gate.emergency
    if context["resting"] and not gate.emergency:
        context["voice_question"] = voice_question(file)
    return render(request, "practice/today.html", context, status=409 if wrong else 200)


def _practiced(client, version) -> bool:
    """Whether a home session of this version was ended: then what changed is known."""
    rows = HomeSession.objects.filter(client=client, version=version)
    return rows.exclude(ended_at=None).exists()
