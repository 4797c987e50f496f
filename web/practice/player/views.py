"""The practice page, its home session and its requests."""

import uuid
from dataclasses import replace

from django.conf import settings
from django.http import JsonResponse
from django.shortcuts import render
from django.utils import translation
from django.utils.translation import gettext as _
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from core.catalogue.touches import Touch
from core.dose.warm_up import MINUTES
from core.formats.json_input import read_json, read_object
from core.program.step import Phase
from core.reference.values import PAIN_STOPS, TIRED_SHORT
from web.clients.models import ClientAccess
from web.clinic import clock
from web.clinic.refusal import UsecaseRefused
from web.design.speaking import in_their_words, spoken
from web.measuring.sinks import Refused
from web.measuring.tickets import Ticket, TicketRefused
from web.measuring.views import STATUS, refusal
from web.practice.access.auth import client_required, page_context
from web.practice.models import HomeSession
from web.practice.player.bundle import bundle_of
from web.practice.player.routine_words import routine_words
from web.practice.player.warm_up_plans import CHOICES, is_planned
from web.practice.sessions.before_session import answered_on, asks, asks_medication
from web.practice.today.due import done_today, next_due
from web.practice.today.on_hold import rests_now
from web.practice.today.practicable import practicable
from web.practice.usecases.open_session import open_session
from web.practice.usecases.save_attempt import session_of
from web.practice.usecases.save_entry import read_entry, save_entry
from web.programs.client_file import ClientFile
from web.programs.queries import asked_today


@require_GET
@client_required
def practice(request, access: ClientAccess):
    client = access.client
    file = ClientFile.now(client)
    context = page_context(access, file) | {"simulated_voice": settings.OFFER_SIMULATED_VOICE}
    if (version := file.version) is not None:
        can = practicable(file, version.program)
        allowed = file.allowed - can.withheld
        day, key = file.today, request.GET.get("routine")
        named = next((one for one in can.routines if one.routine.key == key), None)
        wanted = named or next_due(can, asked_today([version], day), done_today(client, day))
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
            "asked_on": day if answered_on(client, day) else None,
            "routine": wanted.routine.key,
            "plan_choices": CHOICES if is_planned(wanted.routine) else None,
            "plan_minutes": MINUTES,
            "routine_name": routine_words(wanted.routine) if len(can.routines) > 1 else "",
            "short_day": in_their_words(wanted.short_day.name) if wanted.short_day else None,
        }
    return render(request, "practice/practice.html", context)


@require_POST
@client_required
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
    bundle = bundle_of(session, session.version, short_day=short_day)
    return JsonResponse(bundle | {"ticket": ticket.signed(), "server_time": now.isoformat()})


@require_POST
@client_required
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


@csrf_exempt
@require_http_methods(["PUT"])
def entry(request, entry_id):
    """PUT /entries/<uuid>/: strain, stop sign or finish of a home session; ticket only."""
    try:
        ticket = Ticket.read(request.headers.get("X-Ticket", ""))
        if ticket.purpose != "practice":
            raise TicketRefused
        translation.activate(spoken(ticket.language))
        said = read_entry(read_json(request.body), entry_id)
        kept = save_entry(ticket, said, now=clock.now())
        rests = rests_now(session_of(ticket)) if said.kind == "strain" else None
    except TicketRefused:
        words = _("This page has been open too long. Open your link again.")
        return refusal(401, "ticket_stale", words)
    except ValueError:
        return refusal(400, "entry_unreadable", _("This answer cannot be kept."))
    except Refused as refused:
        return refusal(refused.status, refused.code, refused.words)
    return JsonResponse({"status": kept.status, "rests": rests}, status=STATUS[kept.status])
