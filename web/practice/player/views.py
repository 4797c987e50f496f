"""What a client sees, and the entries their page sends."""

import uuid
from dataclasses import replace

from django import forms
from django.conf import settings
from django.http import JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import translation
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from core.catalogue.touches import Touch
from core.dose.taper import on_day
from core.dose.warm_up import MINUTES
from core.formats.plain import read_json, read_object
from core.program.step import Phase
from core.reference.values import PAIN_STOPS, TIRED_SHORT
from core.safety.circumstances import lines_for_client
from web.clients.home.note import note_home
from web.clients.models import ClientAccess
from web.clients.usecases.link import try_pin
from web.clinic import clock
from web.clinic.usecases import UsecaseRefused
from web.design.speaking import in_their_words, speaking, spoken
from web.measuring.ends import Refused
from web.measuring.tickets import Ticket, TicketRefused
from web.measuring.views import MOST_COUNTED, STATUS, refusal
from web.practice.access.auth import close_door, for_client, open_door, page_context
from web.practice.models import HomeSession, Outcome
from web.practice.player.routine_words import routine_words
from web.practice.player.warm_up_plans import CHOICES, is_planned
from web.practice.sessions import queries
from web.practice.sessions.before_session import asked_on, asks, asks_medication, is_emergency
from web.practice.sessions.hold_drawing import last_reeds
from web.practice.today import practicable as due
from web.practice.today.circumstance_lines import own_lines
from web.practice.today.day_assignments import open_assignments, tick_off
from web.practice.today.on_hold import resting_words, rests_now, stop_words
from web.practice.today.program_changes import what_changed
from web.practice.today.usual_voice import report_voice, voice_question
from web.practice.usecases.open_session import open_session
from web.practice.usecases.save_attempt import session_of
from web.practice.usecases.save_entry import keep_entry, read_said
from web.programs.client_file import ClientFile
from web.programs.queries import asked_today


class PinForm(forms.Form):
    pin = forms.CharField(
        label=gettext_lazy("Your PIN"),
        max_length=12,
        widget=forms.TextInput(attrs={"inputmode": "numeric", "autocomplete": "off"}),
    )


class LaterForm(forms.Form):
    session = forms.UUIDField()
    step = forms.UUIDField()
    count = forms.IntegerField(required=False, min_value=0, max_value=MOST_COUNTED)
    strain = forms.IntegerField(required=False, min_value=0, max_value=10)


@require_http_methods(["GET", "POST"])
def enter(request, link_id):
    """The PIN, in the language of the browser: wrong PIN, revoked link and made-up link look the
    same."""
    with speaking(translation.get_language_from_request(request)):
        return _enter(request, link_id)


def _enter(request, link_id):
    form = PinForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        address = request.META.get("REMOTE_ADDR", "")
        access = try_pin(link_id, form.cleaned_data["pin"], now=clock.now(), address=address)
        if access is not None:
            open_door(request, access)
            return redirect("practice:today", link_id)
        words = _(
            "This link and PIN do not fit. After 5 tries it waits, each time longer. A link that has ended is "
            "renewed by your clinic."
        )
        form.add_error("pin", words)
    context = {"form": form, "link_id": link_id}
    return render(request, "practice/enter.html", context, status=403 if form.errors else 200)


@require_GET
@for_client
def today(request, access: ClientAccess):
    return _today_page(request, access)


@require_POST
@for_client
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
@for_client
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
        can = due.practicable(file, program)
        allowed = file.allowed - can.withheld
        asked, done = asked_today(versions, day), due.done_today(client, day)
        routines = due.due_today(can, asked, done, file.tasks)
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
            "changed": what_changed(versions) if not _practised(client, version) else [],
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


@require_GET
@for_client
def practice(request, access: ClientAccess):
    client = access.client
    file = ClientFile.now(client)
    context = page_context(access, file) | {"simulated_voice": settings.OFFER_SIMULATED_VOICE}
    if (version := file.version) is not None:
        can = due.practicable(file, version.program)
        allowed = file.allowed - can.withheld
        day, key = file.today, request.GET.get("routine")
        named = next((one for one in can.routines if one.routine.key == key), None)
        wanted = named or due.next_due(
            can, asked_today([version], day), due.done_today(client, day)
        )
        context |= {
            "may_sip": Touch.SIP in allowed,
            "asks": asks(wanted.steps, stop_sign=bool(can.signs)),
            "of_ten": range(11),
            "pain_stops": round(PAIN_STOPS.number),
            "tired_short": round(TIRED_SHORT.number),
            "asks_gasped": any(step.phase is Phase.BREATH for step in wanted.steps),
            "asks_medication": asks_medication(file),
            "tone_unheard": file.tone_unheard,
            "first_time": not HomeSession.objects.filter(client=client).exists(),
            "clinician": client.clinician.name,
            "asked_on": day if asked_on(client, day) else None,
            "routine": wanted.routine.key,
            "plan_choices": CHOICES if is_planned(wanted.routine) else None,
            "plan_minutes": MINUTES,
            "routine_name": routine_words(wanted.routine) if len(can.routines) > 1 else "",
            "short_day": in_their_words(wanted.short_day.name) if wanted.short_day else None,
        }
    return render(request, "practice/practice.html", context)


@require_POST
@for_client
def open_home_session(request, access: ClientAccess):
    """Open a home session with the page's id; answers the bundle."""
    now = clock.now()
    try:
        said = read_object(request.body)
        session_id = uuid.UUID(str(said["session_id"]))
        routine, short_day = said.get("routine") or None, said.get("short_day") is True
        if not isinstance(routine, str | None):
            raise TypeError
        session, ticket = open_session(
            access,
            session_id=session_id,
            now=now,
            routine=routine,
            short_day=short_day,
            anew=said.get("anew") is True,
        )
    except (ValueError, KeyError, TypeError):
        return refusal(400, "unreadable", _("Reload the page."))
    except UsecaseRefused as refused:
        return refusal(409, "not_open", refused.words)
    bundle = due.bundle_of(session, session.version, short_day=short_day)
    return JsonResponse(bundle | {"ticket": ticket.signed(), "server_time": now.isoformat()})


@require_POST
@for_client
def renew_ticket(request, access: ClientAccess):
    """A new upload ticket for one that is too old or came with a former link of the same client; what it is
    good for stays."""
    try:
        stale = read_object(request.body)["ticket"]
    except (ValueError, KeyError, TypeError):
        return refusal(400, "unreadable", _("Reload the page."))
    try:
        ticket = Ticket.read(str(stale), lifetime_s=None)
        if ticket.purpose != "practice" or ticket.client != str(access.client_id):
            raise TicketRefused
    except TicketRefused:
        return refusal(403, "ticket_not_yours", _("This belongs to another link."))
    return JsonResponse({"ticket": replace(ticket, holder=str(access.pk)).signed()})


@require_GET
@for_client
def finished(request, access: ClientAccess, session_id):
    rows = HomeSession.objects.select_related("version")
    session = get_object_or_404(rows, pk=session_id, client=access.client)
    attempts = queries.attempts_in(HomeSession.objects.filter(pk=session.pk))
    client_id, file = access.client_id, ClientFile.now(access.client)
    program = session.version.program
    context = page_context(access, file) | {
        "session": session,
        "held": sum(1 for attempt in attempts if attempt.seconds),
        "drawing": last_reeds(client_id, program, attempts),
        "stopped": session.outcome == Outcome.STOPPED,
        "emergency": session.outcome == Outcome.STOPPED and is_emergency(session),
    }
    if not context["stopped"]:
        can = due.practicable(file, program)
        left = open_assignments(file, session.practice_day, program=program)
        context["later"] = [one.name for one in left if one.session == session]
        context["cool_down"] = due.cool_down_after(can, can.of(session.routine).routine)
    return render(request, "practice/finished.html", context)


@require_POST
@for_client
def leave(request, access: ClientAccess):
    close_door(request)
    return redirect("practice:enter", access.pk)


@csrf_exempt
@require_http_methods(["PUT"])
def entry(request, entry_id):
    """PUT /entries/<uuid>/: strain, stop sign or finish of a home session; ticket only."""
    try:
        ticket = Ticket.read(request.headers.get("X-Ticket", ""))
        if ticket.purpose != "practice":
            raise TicketRefused
        translation.activate(spoken(ticket.language))
        said = read_said(read_json(request.body), entry_id)
        kept = keep_entry(ticket, said, now=clock.now())
        rests = rests_now(session_of(ticket)) if said.kind == "strain" else None
    except TicketRefused:
        words = _("This page has been open too long. Open your link again.")
        return refusal(401, "ticket_stale", words)
    except ValueError:
        return refusal(400, "entry_unreadable", _("This answer cannot be kept."))
    except Refused as refused:
        return refusal(refused.status, refused.code, refused.words)
    return JsonResponse({"status": kept.status, "rests": rests}, status=STATUS[kept.status])


def _practised(client, version) -> bool:
    """Whether a home session of this version was ended: then what changed is known."""
    rows = HomeSession.objects.filter(client=client, version=version)
    return rows.exclude(ended_at=None).exists()
