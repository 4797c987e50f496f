"""Save the client's report whether the voice is as usual today."""

from django.db import transaction
from django.utils.translation import gettext as _

from web.clients.models import Client, VoiceReport
from web.clients.signals import record_changed
from web.clinic import clock
from web.clinic.refusal import UsecaseRefused


@transaction.atomic
def report_voice(client: Client, *, usual: str, now) -> None:
    """Save today's answer ("yes" or "no"); the newest of a day counts. UsecaseRefused for any other."""
    if usual not in ("yes", "no"):
        raise UsecaseRefused(_("Choose one of the answers."))
    day = clock.local_date(now, client.time_zone)
    VoiceReport.objects.create(
        clinic_id=client.clinic_id, client=client, day=day, usual=usual == "yes", at=now
    )
    record_changed.send(VoiceReport, client_id=client.pk)
