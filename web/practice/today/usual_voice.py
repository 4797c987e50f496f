"""Ask a client with laryngitis each day whether the voice is back to usual."""

from dataclasses import dataclass
from datetime import timedelta

from django.db import transaction
from django.utils.translation import gettext as _

from core.safety.condition import Condition
from core.safety.inferred import inferred
from web.clients.models import Client, VoiceReport
from web.clients.signals import record_changed
from web.clinic import clock
from web.clinic.usecases import UsecaseRefused
from web.programs.client_file import ClientFile


@dataclass(frozen=True, slots=True)
class VoiceQuestion:
    """told: today's answer, None = not answered yet; twice: the voice was as usual yesterday and today."""

    told: bool | None
    twice: bool


def voice_question(file: ClientFile) -> VoiceQuestion | None:
    """The question for today, None where no acute laryngitis follows from the screening."""
    screening, today = file.running_screening_of(file.version), file.today
    if screening is None or Condition.ACUTE_LARYNGITIS not in inferred(screening, today):
        return None
    told = file.voice_reports.get(today)
    twice = bool(told and file.voice_reports.get(today - timedelta(days=1)))
    return VoiceQuestion(told, twice)


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
