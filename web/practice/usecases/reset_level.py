"""The clinician lets a level reference of a device be taken anew."""

from django.db import transaction
from django.utils.translation import gettext as _

from web.clients.models import Client
from web.clients.signals import record_changed
from web.clinic.models import User
from web.clinic.refusal import UsecaseRefused
from web.practice.models import LevelReset
from web.practice.sessions.levels import conversations, level_references


@transaction.atomic
def reset_level(client: Client, *, device: str, kind: str, by: User, now) -> None:
    """Nothing before counts for this reference; twice is harmless."""
    if kind == LevelReset.SOFT:
        known = level_references(client.pk)
    elif kind == LevelReset.CONVERSATION:
        known = conversations(client.pk)
    else:
        raise UsecaseRefused(_("There is no such reference."))
    if device not in known:
        return
    LevelReset.objects.create(
        clinic_id=client.clinic_id, client=client, device=device, kind=kind, by=by, at=now
    )
    record_changed.send(LevelReset, client_id=client.pk)
