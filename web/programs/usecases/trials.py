"""Save how a task went when it was tried in a visit."""

from django.db import transaction
from django.utils.translation import gettext as _

from web.clients.models import Client
from web.clinic.models import User
from web.clinic.refusal import UsecaseRefused
from web.library.queries import catalogue_of
from web.programs.models import TriedTask, Went


@transaction.atomic
def record_trial(client: Client, *, task: str, went: str, by: User, now) -> TriedTask:
    """Keep how a task went in the visit; refused for a task that is not in the catalogue."""
    if task not in catalogue_of(client.clinic):
        raise UsecaseRefused(_("There is no such task."))
    if went not in Went.values:
        raise UsecaseRefused(_("Choose better, same or worse."))
    return TriedTask.objects.create(
        clinic_id=client.clinic_id, client=client, task=task, went=went, by=by, at=now
    )
