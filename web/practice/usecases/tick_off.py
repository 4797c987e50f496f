"""Tick off what the client does in the course of the day."""

import hashlib
import uuid
from datetime import date

from django.db import transaction
from django.utils.translation import gettext as _

from web.clients.models import Client, ClientAccess
from web.clinic.refusal import UsecaseRefused
from web.measuring.models import Taken
from web.measuring.sinks import AttemptOffer, AttemptTaken
from web.practice.models import HomeSession
from web.practice.today.day_assignments import open_assignments
from web.practice.usecases.open_session import ticket_for
from web.practice.usecases.save_attempt import PracticeSink
from web.practice.usecases.save_entry import SentEntry, save_entry
from web.programs.client_file import ClientFile

_IDS = uuid.UUID("5c0de000-7a1c-4000-8000-000000000002")


@transaction.atomic
def tick_off(
    access: ClientAccess, *, session_id, step_id: str, count: int | None, strain: int | None, now
) -> None:
    """Keep what was done in the day with its home session, once; UsecaseRefused where nothing of it is open
    or the count is none that was asked for. strain: of the throat, 0–10, None = not said."""
    day = _day_of(session_id, access.client)
    found = [
        one
        for one in (open_assignments(ClientFile.now(access.client), day) if day else [])
        if one.session.pk == session_id and one.step.step_id == step_id
    ]
    if not found:
        raise UsecaseRefused(_("This is ticked off already, or rests."))
    (one,) = found
    if (count is None) != (not one.counts) or (count is not None and count not in one.counts):
        raise UsecaseRefused(_("Choose one of the numbers."))
    ticket = ticket_for(access, session_id, now=now)
    said = f"{session_id} {step_id} {count}"
    offer = AttemptOffer(
        attempt_id=str(uuid.uuid5(_IDS, f"{session_id} {step_id}")),
        step_id=step_id,
        device_time=now.isoformat(),
    )
    caught = AttemptTaken(
        taken=Taken.TYPED,
        sha256=hashlib.sha256(said.encode()).hexdigest(),
        seconds=None if one.counts else one.asked.seconds,
        count=count,
    )
    end = PracticeSink()
    end.keep(ticket, offer, end.permit(ticket, offer), caught, now)
    if strain is not None:
        entry_id = str(uuid.uuid5(_IDS, f"{session_id} {step_id} strain"))
        entry = SentEntry(entry_id=entry_id, kind="strain", step_id=step_id, value=strain)
        save_entry(ticket, entry, now=now)


def _day_of(session_id, client: Client) -> date | None:
    rows = HomeSession.objects.filter(pk=session_id, client=client)
    return rows.values_list("practice_day", flat=True).first()
