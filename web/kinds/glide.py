"""A slide from note to note."""

from django.utils.translation import gettext as _

from core.kinds.finding import Finding
from core.notes.note import nearest_note
from core.sound.figures import Figures
from web.kinds.face import Face
from web.kinds.voice import voice_to_client, voice_to_clinician


def _to_client(finding: Finding) -> str | None:
    slid = _("A slide through your notes.")
    return slid if finding.code == "glide" else voice_to_client(finding)


def _to_clinician(finding: Finding) -> str | None:
    span = _("Glide over %(span_semitones).1f semitones, evenness %(evenness).2f semitones.")
    return span if finding.code == "glide" else voice_to_clinician(finding)


def _in_short(figures: Figures, a4_hz: float) -> str:
    if figures.glide is None:
        return ""
    ends = (figures.glide.low_hz, figures.glide.high_hz)
    return "–".join(str(nearest_note(hz, a4_hz)[0]) for hz in ends)


FACE = Face(to_client=_to_client, to_clinician=_to_clinician, in_short=_in_short)
