"""A hiss that turns into a buzz."""

from django.utils.translation import gettext as _

from core.kinds.finding import Finding
from core.kinds.sz.figures import Joined
from core.sound.figures import Figures
from web.design.drawings.held_marks import MarkedStretch
from web.kinds.face import Drawn, Face, Row, number


def _to_client(finding: Finding) -> str | None:
    return {
        "only_hiss": _("No buzz was heard: let the voice come in."),
        "only_buzz": _("No hiss was heard: begin without voice."),
        "join_gap": _("There was a stop at the join: keep the air going."),
        "joined": _("Joined without a stop."),
    }.get(finding.code)


def _to_clinician(finding: Finding) -> str | None:
    return {
        "only_hiss": _("Only the hiss was heard."),
        "only_buzz": _("Only the buzz was heard."),
        "join_gap": _("Silence of %(gap_s).2f s at the join."),
        "joined": _("No silence at the join."),
    }.get(finding.code)


def _in_short(figures: Figures, _a4_hz: float) -> str:
    own = figures.own
    if not isinstance(own, Joined):
        return ""
    return _("silence %s") % number(own.gap_s, "%.2f s") if own.gap_s else _("no silence")


def _rows(figures: Figures) -> list[Row]:
    own = figures.own
    if not isinstance(own, Joined):
        return []
    return [
        (_("Hiss"), number(own.hiss_s, "%.2f s")),
        (_("Voice sets in at"), number(own.switch_s, "%.3f s")),
        (_("Silence at the join"), number(own.gap_s, "%.3f s")),
        (_("Buzz"), number(own.buzz_s, "%.2f s")),
    ]


def _drawn(figures: Figures) -> Drawn:
    """The silence of a join stands among its stretches, not among the gaps of a voice."""
    own = figures.own
    if not isinstance(own, Joined) or own.switch_s is None:
        return Drawn()
    silent_s = own.switch_s - (own.gap_s or 0.0)
    first_s, after_s = figures.onset_s or 0.0, figures.offset_s or 0.0
    parts = [
        MarkedStretch(start_s=first_s, end_s=silent_s, words=_("hiss")),
        MarkedStretch(start_s=own.switch_s, end_s=after_s, words=_("buzz")),
    ]
    if own.gap_s:
        words = _("silence")
        parts.append(
            MarkedStretch(start_s=silent_s, end_s=own.switch_s, words=words, needs_care=True)
        )
    return Drawn(stretches=parts)


FACE = Face(
    to_client=_to_client,
    to_clinician=_to_clinician,
    in_short=_in_short,
    rows=_rows,
    drawn=_drawn,
    picture="thread",
)
