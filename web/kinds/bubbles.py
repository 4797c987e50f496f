"""A voice through a tube in water."""

from django.utils.translation import gettext as _

from core.kinds.bubbles.figures import Bubbling
from core.kinds.finding import Finding
from core.sound.figures import Figures
from web.design.drawings.held_marks import MarkedStretch, Rings
from web.kinds.face import Drawn, Face, Row, gaps_of, number


def _to_client(finding: Finding) -> str | None:
    return {
        "no_bubbles": _(
            "No bubbles: check that the tube is in the water and your lips are closed."
        ),
        "bubble_stops": _("The bubbles stopped: let a little more air go."),
        "voice_stops": _("The voice went away for a moment: go lower, with a little more air."),
        "bubbling": _("The bubbles went on."),
    }.get(finding.code)


def _to_clinician(finding: Finding) -> str | None:
    return {
        "no_bubbles": _("No bubbles were heard."),
        "bubble_stops": _("Bubbles stop %(count)d time(s), longest %(longest_s).2f s."),
        "voice_stops": _("Voice stops %(count)d time(s), longest %(longest_s).2f s."),
        "bubbling": _("%(rate_hz).1f bubbles a second."),
    }.get(finding.code)


def _in_short(figures: Figures, _a4_hz: float) -> str:
    own = figures.own
    if not isinstance(own, Bubbling) or not own.rate_hz:
        return ""
    return _("%s bubbles a second") % number(own.rate_hz, "%.1f")


def _rows(figures: Figures) -> list[Row]:
    own = figures.own
    if not isinstance(own, Bubbling):
        return []
    return [
        (_("Bubbles a second"), number(own.rate_hz, "%.1f")),
        (_("Swing with the bubbles"), number(own.swing_db, "%.1f dB")),
    ]


def _drawn(figures: Figures) -> Drawn:
    own = figures.own
    if not isinstance(own, Bubbling):
        return Drawn(gaps=gaps_of(figures))
    stop = _("no bubbles")
    rings = None
    if own.rate_hz and figures.offset_s is not None:
        rings = Rings(
            rate_hz=own.rate_hz,
            start_s=figures.onset_s or 0.0,
            end_s=figures.offset_s,
            stops=own.stops,
        )
    return Drawn(
        gaps=gaps_of(figures),
        rings=rings,
        stretches=[
            MarkedStretch(start_s=a, end_s=b, words=stop, needs_care=True) for a, b in own.stops
        ],
    )


FACE = Face(
    to_client=_to_client,
    to_clinician=_to_clinician,
    in_short=_in_short,
    rows=_rows,
    drawn=_drawn,
    picture="bubbles",
)
