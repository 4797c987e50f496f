"""A swell on one note."""

from django.utils.translation import gettext as _

from core.kinds.finding import Finding
from core.kinds.swell_figures import Swell
from core.sound.figures import Figures
from web.kinds.face import Face, Row, number
from web.kinds.voice import voice_to_client, voice_to_clinician


def _to_client(finding: Finding) -> str | None:
    own = {
        "swell": _("It grew and faded again."),
        "no_swell": _("Let it grow a little more, then fade."),
    }
    return own.get(finding.code) or voice_to_client(finding)


def _to_clinician(finding: Finding) -> str | None:
    own = {
        "swell": _("Swell: %(rise_db).1f dB up, %(fall_db).1f dB down."),
        "no_swell": _("No swell: %(rise_db).1f dB up, %(fall_db).1f dB down."),
    }
    return own.get(finding.code) or voice_to_clinician(finding)


def _in_short(figures: Figures, _a4_hz: float) -> str:
    own = figures.own
    if not isinstance(own, Swell):
        return ""
    return _("%(rise)s up, %(fall)s down") % {
        "rise": number(own.rise_db, "%.1f dB"),
        "fall": number(own.fall_db, "%.1f dB"),
    }


def _rows(figures: Figures) -> list[Row]:
    own = figures.own
    if not isinstance(own, Swell):
        return []
    return [
        (_("Grows by"), number(own.rise_db, "%.1f dB")),
        (_("Fades by"), number(own.fall_db, "%.1f dB")),
        (_("Loudest at"), number(100 * own.peak_at, "%.0f %% of its length")),
    ]


FACE = Face(
    to_client=_to_client,
    to_clinician=_to_clinician,
    in_short=_in_short,
    rows=_rows,
    sloped=False,
)
