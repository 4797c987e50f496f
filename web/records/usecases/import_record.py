"""A record from an archive becomes a record of this clinic: whole or not at all, its program through the gate."""

import logging
import zlib
from collections.abc import Mapping
from datetime import datetime
from typing import Any
from uuid import UUID

from django.db import DatabaseError, IntegrityError, connection, transaction
from django.utils.translation import gettext as _

from core.dose.calendar import zone_of
from core.errors import CoreError, PlanError
from web.clients.intake.intake_file import IntakeFile
from web.clients.models import Client
from web.clients.signals import record_changed
from web.clinic.clock import local_date
from web.clinic.models import Clinic, Membership, User
from web.clinic.records import Unreadable
from web.measuring.models import StoredContour
from web.programs.models import Draft, ProgramVersion
from web.programs.usecases.drafts import replace_draft
from web.records.models import TakenIn
from web.records.tables import TABLES
from web.records.unpack import ArchiveRefused, UnpackedRecord
from web.review.models import CaseloadRow

log = logging.getLogger(__name__)
_BATCH = 1000


@transaction.atomic
def import_record(record: UnpackedRecord, clinic: Clinic, *, by: User, now: datetime) -> TakenIn:
    """Save every row as it was, with this clinic's id. An archive of this very clinic goes on as it was; of any other
    its versions are history, and the latest becomes a draft that has to pass the safety gate to be activated.

    ArchiveRefused, and nothing is kept, where the record is here already or cannot be kept or read.
    """
    if Client.objects.filter(pk=record.client.pk).exists():
        raise ArchiveRefused(_("This record is here already."))
    in_force = record.ours and record.clinic_id == str(clinic.pk)
    client = record.client
    _zone(client)
    name_people(record.people)
    if not Membership.objects.filter(clinic=clinic, user=client.clinician_id, active=True).exists():
        client.clinician = by
    if not in_force:
        for version in record.tables["program_versions"]:
            version.taken_in_on = version.taken_in_on or local_date(now, _zone(client))
    try:
        for name, model in TABLES.items():
            _save(name, model, record.tables[name], client, clinic)
        with connection.cursor() as cursor:
            cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
            cursor.execute("SET CONSTRAINTS ALL DEFERRED")
    except IntegrityError as error:
        log.warning("a record was not taken in: %s", type(error.__cause__).__name__)
        words = _("A row of it is here already, or holds what no record can hold.")
        raise ArchiveRefused(words) from error
    except DatabaseError as error:
        raise ArchiveRefused(_("A row of it holds what cannot be kept.")) from error
    _read_once(client, now)
    if not in_force:
        _onto_the_bench(client, by=by, now=now)
    taken = TakenIn.objects.create(
        clinic=clinic,
        client=client,
        installation=record.installation,
        clinic_name=record.clinic_name,
        made_at=record.made_at,
        sha256=record.sha256,
        rows=record.rows,
        in_force=in_force,
        by=by,
        at=now,
    )
    _work_out(client, trusted=in_force)
    return taken


def _work_out(client: Client, *, trusted: bool) -> None:
    """What is worked out of a record; one from elsewhere has to be readable whole for that."""
    try:
        record_changed.send(Client, client_id=client.pk)
    except (CoreError, ValueError, KeyError, TypeError, AttributeError, IndexError) as error:
        raise ArchiveRefused(_("Something in it cannot be read as what it is.")) from error
    unreadable = CaseloadRow.objects.get(client=client).unreadable
    if unreadable and not trusted:
        raise ArchiveRefused(unreadable)


def name_people(people: Mapping[UUID, str]) -> None:
    """Whoever is named in it and unknown here: a name without a sign-in."""
    known = set(User.objects.filter(pk__in=people).values_list("pk", flat=True))
    for key, name in people.items():
        if key in known:
            continue
        person = User(pk=key, email=f"{key}@elsewhere.invalid", name=name, is_active=False)
        person.set_unusable_password()
        person.save()


def _save(name: str, model: type[Any], rows: list[Any], client: Client, clinic: Clinic) -> None:
    columns = {field.attname for field in model._meta.concrete_fields}
    for row in rows:
        row.clinic_id = clinic.pk
        if "client_id" in columns:
            row.client_id = client.pk
    model._default_manager.bulk_create(rows, batch_size=_BATCH)


def _read_once(client: Client, now: datetime) -> None:
    """What is kept has to be readable: the contours, the versions, the draft, the screenings."""
    for contour in StoredContour.objects.filter(client_id=client.pk).iterator(chunk_size=50):
        try:
            contour.curve()
        except (zlib.error, ValueError) as error:
            words = _("The contour of measurement %(id)s cannot be read.")
            raise ArchiveRefused(words % {"id": contour.measurement_id}) from error
    try:
        for version in ProgramVersion.objects.filter(client=client):
            version.program  # noqa: B018  (whether it can be read)
        for draft in Draft.objects.filter(client=client):
            draft.program  # noqa: B018
        IntakeFile(client, local_date(now, client.time_zone)).screening  # noqa: B018
    except Unreadable as bad:
        raise ArchiveRefused(bad.words) from bad


def _onto_the_bench(client: Client, *, by: User, now: datetime) -> None:
    """The newest version is the draft; what lay there in the other clinic is had back by undo."""
    newest = ProgramVersion.objects.filter(client=client).order_by("-number").first()
    if newest is not None:
        replace_draft(client, newest.program, by=by, now=now)


def _zone(client: Client) -> str:
    """The client's time zone, if there is one of that name."""
    try:
        return zone_of(client.time_zone).key
    except PlanError as error:
        raise ArchiveRefused(_("The client's time zone is not known.")) from error
