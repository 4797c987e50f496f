"""A new client and what is asked of them."""

from collections.abc import Iterable, Mapping
from datetime import date

from django.db import OperationalError, connection, transaction
from django.utils.translation import gettext_noop

from core.catalogue.words import Equipment, Skill
from core.safety.circumstances import Living
from core.safety.condition import Condition
from core.safety.screening import RedFlag
from web.clients.models import Client, ClientAccess, StoredScreening
from web.clients.signals import record_changed
from web.clinic.models import Clinic, User
from web.clinic.usecases.staff import note_access

ERASING_TRIES = 5
DEADLOCK = "40P01"
"""SQLSTATE of two who wait for each other."""


@transaction.atomic
def enrol_client(clinic: Clinic, *, clinician: User, **fields) -> Client:
    """Add a client to the caseload. Their pages use the clinic's language unless another is given."""
    given = {**fields, "language": fields.get("language") or clinic.language}
    client = Client.objects.create(clinic=clinic, clinician=clinician, **given)
    record_changed.send(Client, client_id=client.pk)
    return client


@transaction.atomic
def set_telephone(client: Client, number: str) -> None:
    """The number a clinician calls the client at; "" for none."""
    client.telephone = number
    client.save(update_fields=["telephone"])


def hide_pitch(client: Client, *, hidden: bool) -> None:
    """Whether note names and pitch numbers stay off the client's own pages and papers."""
    client.pitch_hidden = hidden
    client.save(update_fields=["pitch_hidden"])


@transaction.atomic
def record_screening(
    client: Client,
    *,
    by: User,
    now,
    red_flags: Iterable[str] = (),
    unasked: Iterable[str] = (),
    flags_noted: Mapping[str, date] | None = None,
    mistaken: Iterable[str] = (),
    conditions: Iterable[str] = (),
    equipment: Iterable[str] = (),
    cannot: Iterable[str] = (),
    living: Living | None = None,
    **fields,
) -> StoredScreening:
    """A new screening beside the earlier ones; unknown words raise ValueError.

    unasked: red flags nobody has asked about. flags_noted: the day
    of each red flag that is not the day of asking; mistaken: red flags of
    earlier screenings that were noted in error, `mistaken_why` says why.
    """
    lives = living or Living()
    row = StoredScreening.objects.create(
        clinic_id=client.clinic_id,
        client=client,
        by=by,
        at=now,
        red_flags=sorted(RedFlag(flag).value for flag in red_flags),
        unasked=sorted(RedFlag(flag).value for flag in unasked),
        flags_noted={RedFlag(f).value: d.isoformat() for f, d in (flags_noted or {}).items()},
        mistaken=sorted(RedFlag(flag).value for flag in mistaken),
        conditions=sorted(Condition(name).value for name in conditions),
        equipment=sorted(Equipment(name).value for name in equipment),
        cannot=sorted(Skill(name).value for name in cannot),
        circumstances=sorted(one.value for one in lives.circumstances),
        talking_hours=lives.talking_hours,
        events=[{"on": e.on.isoformat(), "name": e.name} for e in lives.events],
        medication_times=[f"{at:%H:%M}" for at in lives.medication_times],
        **fields,
    )
    record_changed.send(Client, client_id=client.pk)
    return row


@transaction.atomic
def archive_client(client: Client, *, now) -> None:
    """Take a client off the caseload; their links close, the record stays."""
    Client.objects.filter(pk=client.pk, archived_at=None).update(archived_at=now)
    ClientAccess.objects.filter(client=client, revoked_at=None).update(revoked_at=now)
    record_changed.send(Client, client_id=client.pk)


def erase_client(client: Client, *, by: User, now) -> None:
    """Remove a client's whole record, history included; that it happened stays, without a name. Where somebody
    who writes to it and this wait for each other, the database ends one of the two: this begins again."""
    for left in reversed(range(ERASING_TRIES)):
        try:
            _erase(client, by=by, now=now)
            return
        except OperationalError as error:
            if not left or getattr(error.__cause__, "sqlstate", "") != DEADLOCK:
                raise


@transaction.atomic
def _erase(client: Client, *, by: User, now) -> None:
    note_access(client.clinic, user=by, what=gettext_noop("erased"), subject_id=client.pk, now=now)
    with connection.cursor() as cursor:
        cursor.execute("SELECT erase_client(%s)", [client.pk])
