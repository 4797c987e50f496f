"""Breathing in and out at a pace."""

from django.utils.translation import gettext as _

from core.kinds.breath.figures import PacedBreath
from core.kinds.finding import Finding
from core.sound.figures import Figures
from web.design.drawings.held_marks import MarkedStretch
from web.kinds.face import Drawn, Face, Row, gaps_of, number


def _to_client(finding: Finding) -> str | None:
    return {
        "off_pace": _("Not quite in time: follow the count."),
        "on_pace": _("In time."),
    }.get(finding.code)


def _to_clinician(finding: Finding) -> str | None:
    return {
        "off_pace": _("Off the pace: in %(in_s).1f s, out %(out_s).1f s."),
        "on_pace": _("On the pace: in %(in_s).1f s, out %(out_s).1f s."),
    }.get(finding.code)


def _in_short(figures: Figures, _a4_hz: float) -> str:
    own = figures.own
    if not isinstance(own, PacedBreath):
        return ""
    lengths = {"in": number(own.in_s, "%.1f s"), "out": number(own.out_s, "%.1f s")}
    return _("in %(in)s, out %(out)s") % lengths


def _rows(figures: Figures) -> list[Row]:
    own = figures.own
    if not isinstance(own, PacedBreath):
        return []
    return [
        (_("In, middle"), number(own.in_s, "%.1f s")),
        (_("Out, middle"), number(own.out_s, "%.1f s")),
    ]


def _drawn(figures: Figures) -> Drawn:
    own = figures.own
    if not isinstance(own, PacedBreath):
        return Drawn(gaps=gaps_of(figures))
    ins = [MarkedStretch(start_s=a, end_s=b, words=_("in")) for a, b in own.ins]
    outs = [MarkedStretch(start_s=a, end_s=b, words=_("out")) for a, b in own.outs]
    return Drawn(gaps=gaps_of(figures), stretches=[*ins, *outs])


FACE = Face(
    to_client=_to_client,
    to_clinician=_to_clinician,
    in_short=_in_short,
    rows=_rows,
    drawn=_drawn,
    sloped=False,
    picture="breath",
)
