"""What the clinician does about stop signs and about what was set aside."""

from django.db import transaction
from django.utils.translation import gettext as _

from core.safety.screening import in_words
from web.clients.models import Client
from web.clients.signals import record_changed
from web.clinic.models import User
from web.clinic.refusal import UsecaseRefused
from web.clinic.usecases import outbox
from web.practice.models import HomeSession, LookedAt, SetAside
from web.practice.sessions.before_session import flags_unanswered, stopped


@transaction.atomic
def clear_stop_signs(client: Client, *, by: User, now) -> int:
    """The clinician has dealt with every open stop sign of this client. UsecaseRefused where a red flag was
    said with one and nobody has screened since: clearing is no answer to it, the gate is."""
    rows = stopped(client)
    if flags := flags_unanswered(client, rows):
        words = _("Screen again first. Said at home: %(flags)s. The stop sign stays.")
        raise UsecaseRefused(words % {"flags": ", ".join(str(in_words(flag)) for flag in flags)})
    outbox.withdraw(rows.values_list("pk", flat=True))
    count = rows.update(stop_cleared_at=now, stop_cleared_by=by)
    record_changed.send(HomeSession, client_id=client.pk)
    return count


@transaction.atomic
def look_at_set_aside(client: Client, *, by: User, now) -> int:
    """The clinician has seen everything set aside for this client; it stays kept."""
    rows = SetAside.objects.filter(client=client, looked_at=None)
    made = [
        LookedAt(clinic_id=row.clinic_id, client_id=row.client_id, set_aside=row, by=by, at=now)
        for row in rows
    ]
    LookedAt.objects.bulk_create(made)
    record_changed.send(SetAside, client_id=client.pk)
    return len(made)
