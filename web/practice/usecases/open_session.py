"""A client opens a home session and gets everything the player needs."""

from django.db import transaction
from django.utils.translation import gettext as _

from core.safety.program_gate import doings_of, program_gate
from web.clients.models import ClientAccess
from web.clients.queries import as_screening, latest_screening
from web.clients.signals import record_changed
from web.clinic.clock import local_date
from web.clinic.usecases import UsecaseRefused
from web.measuring.tickets import Ticket
from web.practice.models import HomeSession
from web.programs.queries import active_version


@transaction.atomic
def open_session(access: ClientAccess, *, session_id, now) -> tuple[HomeSession, Ticket]:
    """Open the home session with the page's own id; again with the same id gives the same one."""
    client = access.client
    version = active_version(client.pk)
    if version is None:
        raise UsecaseRefused(_("There is no program yet. Your clinician will set it."))
    today = local_date(now, client.time_zone)
    screening = as_screening(latest_screening(client), client, today)
    gate = program_gate(screening, doings_of(version.program), today)
    if gate.blocks:
        raise UsecaseRefused(_("Your program rests for now. Please call the clinic."))
    session, made = HomeSession.objects.get_or_create(
        pk=session_id,
        defaults={
            "clinic_id": client.clinic_id,
            "client": client,
            "version": version,
            "access": access,
            "started_at": now,
            "practice_day": today,
        },
    )
    if session.client_id != client.pk or session.ended_at is not None:
        raise UsecaseRefused(_("This home session is closed. Open Today and start a new one."))
    if made:
        record_changed.send(HomeSession, client_id=client.pk)
    ticket = Ticket(
        purpose="practice",
        clinic=str(client.clinic_id),
        client=str(client.pk),
        holder=str(access.pk),
        sitting=str(session.pk),
        issued_at=now.isoformat(),
    )
    return session, ticket
