"""Speech, counting, reading."""

from django.utils.translation import gettext as _

from core.kinds.finding import Finding
from core.kinds.level.figures import SpeechFigures
from core.sound.figures import Figures
from web.design.drawings.held_marks import MarkedStretch
from web.kinds.face import Drawn, Face, Row, gaps_of, number
from web.kinds.strength import strength_to_client


def _to_client(finding: Finding) -> str | None:
    own = {
        "phrases_fade": _("The ends grew quiet: keep the last word strong."),
        "reading_rate": "",
    }.get(finding.code)
    return strength_to_client(finding) if own is None else own


def _to_clinician(finding: Finding) -> str | None:
    return {
        "shouted": _("Shouting: %(percent).0f %% of the voiced time over 10 dB above the target."),
        "under_target": _("Only %(percent).0f %% of the voiced time at the target level."),
        "over_target": _("%(percent).0f %% of the voiced time at the target level."),
        "phrases_fade": _("Phrases trail off: %(trail_off_db)+.1f dB."),
        "reading_rate": _("%(words_a_minute).0f words a minute."),
    }.get(finding.code)


def _in_short(figures: Figures, _a4_hz: float) -> str:
    own = figures.own
    if not isinstance(own, SpeechFigures) or own.over_reference_db is None:
        return ""
    return _("%s against usual talk") % number(own.over_reference_db, "%+.1f dB")


def _rows(figures: Figures) -> list[Row]:
    own = figures.own
    if not isinstance(own, SpeechFigures):
        return []
    return [
        (_("Commonest pitch"), number(own.mode_hz, "%.1f Hz")),
        (_("Voiced time"), number(own.voiced_s, "%.1f s")),
        (_("Phrases"), str(len(own.phrases)) if own.phrases else "–"),
        (_("Phrase trail-off"), number(own.trail_off_db, "%+.1f dB")),
        (_("Over the reference"), number(own.over_reference_db, "%+.1f dB")),
        (_("Rate"), number(own.words_a_minute, _("%.0f words a minute"))),
    ]


def _drawn(figures: Figures) -> Drawn:
    own = figures.own
    phrases = own.phrases if isinstance(own, SpeechFigures) else ()
    return Drawn(
        gaps=gaps_of(figures),
        stretches=[
            MarkedStretch(
                start_s=one.start_s, end_s=one.end_s, words=number(one.trail_off_db, "%+.1f dB")
            )
            for one in phrases
        ],
    )


FACE = Face(
    to_client=_to_client,
    to_clinician=_to_clinician,
    in_short=_in_short,
    rows=_rows,
    drawn=_drawn,
    sloped=False,
    picture="talk",
)
