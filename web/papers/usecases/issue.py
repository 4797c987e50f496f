"""Issue an edition of a printout."""

from datetime import datetime
from typing import Any

from django.db import transaction

from web.clients.models import Client
from web.clinic.models import User
from web.papers.models import Issued, IssuedKind
from web.papers.print.editions import last_issued
from web.programs.models import ProgramVersion


@transaction.atomic
def issue(
    client: Client,
    kind: IssuedKind,
    *,
    digest: str,
    by: User | None,
    now: datetime,
    part: str = "",
    version: ProgramVersion | None = None,
    content: dict[str, Any] | None = None,
) -> Issued:
    """The edition that prints this: the last one where nothing changed since, else the next."""
    Client.objects.select_for_update(no_key=True).get(pk=client.pk)
    last = last_issued(client.pk, kind, part)
    if last is not None and last.digest == digest:
        return last
    return Issued.objects.create(
        clinic_id=client.clinic_id,
        client=client,
        kind=kind,
        part=part,
        edition=last.edition + 1 if last else 1,
        digest=digest,
        content=content or {},
        version=version,
        by=by,
        at=now,
    )
