"""Ask a client with laryngitis each day whether the voice is back to usual."""

from dataclasses import dataclass
from datetime import timedelta

from core.safety.condition import Condition
from core.safety.inferred import inferred
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
