"""A long level hum."""

from django.utils.translation import gettext as _

from core.kinds.finding import Finding
from core.sound.figures import Figures
from web.kinds.face import Face, number
from web.kinds.voice import voice_to_client, voice_to_clinician


def _to_client(finding: Finding) -> str | None:
    own = {
        "faded": _("It got thin at the end. Save some air at the start."),
        "uneven": _("It got louder and softer. Keep it even."),
        "level": _("Even all the way."),
    }
    return own.get(finding.code) or voice_to_client(finding)


def _to_clinician(finding: Finding) -> str | None:
    own = {
        "uneven": _("Uneven: level SD %(level_sd_db).1f dB."),
        "level": _("Level: level SD %(level_sd_db).1f dB."),
    }
    return own.get(finding.code) or voice_to_clinician(finding)


def _in_short(figures: Figures, _a4_hz: float) -> str:
    if figures.level_sd_db is None:
        return ""
    return _("level SD %s") % number(figures.level_sd_db, "%.1f dB")


FACE = Face(to_client=_to_client, to_clinician=_to_clinician, in_short=_in_short)
