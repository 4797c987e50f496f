"""A client opens a home session and gets everything the player needs."""

import uuid
from datetime import date

from django.db import transaction
from django.db.models import Q
from django.utils.translation import gettext as _

from core.errors import PlanError
from core.program.routine import Routine
from core.safety.conditions import limits_a_day
from web.clients.models import Client, ClientAccess
from web.clients.signals import record_changed
from web.clinic.clock import local_date
from web.clinic.refusal import UsecaseRefused
from web.measuring.tickets import Ticket
from web.practice.models import HomeSession, Outcome
from web.practice.today.due import done_today, next_due
from web.practice.today.on_hold import resting_words
from web.practice.today.practicable import PracticableRoutine, practicable
from web.programs.client_file import ClientFile
from web.programs.models import ProgramVersion
from web.programs.queries import asked_today


@transaction.atomic
def open_session(
    access: ClientAccess,
    *,
    session_id,
    now,
    routine: str | None = None,
    short_day: bool = False,
    anew: bool = False,
) -> tuple[HomeSession, Ticket]:
    """Open a home session of a routine with the page's own id; again with the same id gives the same
    one. Unless `anew`, one of this day and routine that was begun and not ended goes on, also on another
    device. routine None: the page did not name one; on a bad day the one that has a version for it,
    else the next one due, else the first."""
    client = access.client
    file = ClientFile(client, local_date(now, client.time_zone))
    version, today = file.version, file.today
    if version is None:
        raise UsecaseRefused(_("There is no program yet. Your clinician will set it."))
    if (words := resting_words(file.running_gate, client.clinic)) is not None:
        raise UsecaseRefused(words)
    can = _wanted(file, version, routine, short_day=short_day)
    if not can.steps or (short_day and can.routine.short_day and not can.short_day):
        words = _("Your program rests until your clinic has spoken with you. Please call.")
        raise UsecaseRefused(words)
    if not (anew or short_day):
        session_id = _begun(client, version, can.routine, today) or session_id
    _refuse_on_top(file, can.routine, session_id)
    session, made = HomeSession.objects.get_or_create(
        pk=session_id,
        defaults={
            "clinic_id": client.clinic_id,
            "client": client,
            "version": version,
            "routine": can.routine.key,
            "access": access,
            "started_at": now,
            "practice_day": today,
        },
    )
    if session.client_id != client.pk or session.ended_at is not None:
        raise UsecaseRefused(_("This home session is closed. Open Today and start a new one."))
    if made:
        record_changed.send(HomeSession, client_id=client.pk)
    return session, ticket_for(access, session.pk, now=now)


def ticket_for(access: ClientAccess, session_id, *, now) -> Ticket:
    """What a page of the client may send of that home session with."""
    client = access.client
    return Ticket(
        purpose="practice",
        clinic=str(client.clinic_id),
        client=str(client.pk),
        holder=str(access.pk),
        sitting=str(session_id),
        issued_at=now.isoformat(),
        language=client.language,
    )


def _begun(
    client: Client, version: ProgramVersion, routine: Routine, today: date
) -> uuid.UUID | None:
    """The id of the newest home session of the day that was begun and left; None where there is none."""
    rows = HomeSession.objects.filter(
        client=client,
        version=version,
        routine=routine.key,
        practice_day=today,
        ended_at=None,
        attempts__isnull=False,
    )
    return rows.order_by("-started_at").values_list("pk", flat=True).first()


def _wanted(
    file: ClientFile, version: ProgramVersion, routine: str | None, *, short_day: bool
) -> PracticableRoutine:
    can = practicable(file, version.program)
    short = [one for one in can.routines if one.routine.short_day is not None]
    if routine is None and short_day and short:
        return short[0]
    if routine is None:
        done = done_today(file.client, file.today)
        return next_due(can, asked_today([version], file.today), done)
    try:
        return can.of(routine)
    except PlanError as error:
        words = _("Your program has changed. Open Today and start from there.")
        raise UsecaseRefused(words) from error


def _refuse_on_top(file: ClientFile, routine: Routine, session_id) -> None:
    """Where a condition limits the minutes of a day, no home session comes on top of those asked;
    one that was opened and left without a sound took none of them."""
    if not limits_a_day(file.conditions):
        return
    held = ~Q(outcome=Outcome.OPEN) | Q(attempts__isnull=False)
    others = HomeSession.objects.filter(
        held, client=file.client, practice_day=file.today, routine=routine.key
    ).exclude(pk=session_id)
    if others.distinct().count() >= routine.dose.sessions_a_day:
        raise UsecaseRefused(_("That is enough for today. Rest your voice."))
