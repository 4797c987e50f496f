"""Ask a client with laryngitis each day whether the voice is back to usual."""

from dataclasses import dataclass
from datetime import date, timedelta

from django.db import transaction
from django.utils.translation import gettext as _

from core.safety.condition import Condition
from core.safety.inferred import inferred
from web.clients.models import Client, VoiceReport
from web.clients.queries import standing_screening, voice_reports
from web.clients.signals import record_changed
from web.clinic import clock
from web.clinic.usecases import UsecaseRefused
from web.programs.gates import as_running
from web.programs.models import ProgramVersion


@dataclass(frozen=True, slots=True)
class VoiceQuestion:
    """told: today's answer, None = not answered yet; twice: the voice was as usual yesterday and today."""

    told: bool | None
    twice: bool


def voice_question(
    client: Client, version: ProgramVersion | None, today: date
) -> VoiceQuestion | None:
    """The question for today, None where no acute laryngitis follows from the screening."""
    screening = as_running(client, standing_screening(client, today), version)
    if screening is None or Condition.ACUTE_LARYNGITIS not in inferred(screening, today):
        return None
    reports = voice_reports(client)
    told = reports.get(today)
    return VoiceQuestion(told, bool(told and reports.get(today - timedelta(days=1))))


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
