"""A hiss."""

from django.utils.translation import gettext as _

from core.kinds.finding import Finding
from core.sound.figures import Figures
from web.kinds.face import Face, number


def _to_client(finding: Finding) -> str | None:
    return {
        "uneven": _("It was uneven: let the air go evenly."),
        "even": _("Even."),
        "swell": _("It grew and faded again."),
    }.get(finding.code)


def _to_clinician(finding: Finding) -> str | None:
    return {
        "uneven": _("Uneven: level SD %(level_sd_db).1f dB."),
        "even": _("Even: level SD %(level_sd_db).1f dB."),
        "swell": _("Swell: %(rise_db).1f dB up, %(fall_db).1f dB down."),
    }.get(finding.code)


def _in_short(figures: Figures, _a4_hz: float) -> str:
    if figures.level_sd_db is None:
        return ""
    return _("level SD %s") % number(figures.level_sd_db, "%.1f dB")


FACE = Face(
    to_client=_to_client,
    to_clinician=_to_clinician,
    in_short=_in_short,
    picture="air",
)
