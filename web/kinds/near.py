"""Phrases spoken near a note."""

from django.utils.translation import gettext as _

from core.kinds.finding import Finding
from core.kinds.near.figures import NearPhrases
from core.sound.figures import Figures
from web.design.drawings.held_marks import MarkedStretch
from web.kinds.face import Drawn, Face, Row, gaps_of, number


def _to_client(finding: Finding) -> str | None:
    values = finding.values
    if finding.code == "off_target":
        if values["semitones"] > 0:
            return _("Higher than the tone: hear it again, then speak from there.")
        return _("Lower than the tone: hear it again, then speak from there.")
    if finding.code == "near_target":
        return _("%(near)d of %(count)d came home to the tone.") % values
    return {
        "few_phrases": _("Fewer phrases than lines: leave a moment of quiet after each."),
    }.get(finding.code)


def _to_clinician(finding: Finding) -> str | None:
    return {
        "off_target": _(
            "%(near)d of %(count)d phrases within a semitone; the others %(semitones)+.1f semitones."
        ),
        "near_target": _("%(near)d of %(count)d phrases within a semitone."),
        "few_phrases": _("%(count)d phrases heard, %(asked)d asked for."),
    }.get(finding.code)


def _in_short(figures: Figures, _a4_hz: float) -> str:
    own = figures.own
    if not isinstance(own, NearPhrases):
        return ""
    counts = {"near": own.near_count, "count": len(own.phrases)}
    return _("%(near)s of %(count)s phrases within a semitone") % counts


def _rows(figures: Figures) -> list[Row]:
    own = figures.own
    if not isinstance(own, NearPhrases):
        return []
    return [
        (_("Phrases"), str(len(own.phrases)) if own.phrases else "–"),
        (_("Within a semitone"), str(own.near_count) if own.phrases else "–"),
        (_("Voiced time"), number(own.voiced_s, "%.1f s")),
    ]


def _drawn(figures: Figures) -> Drawn:
    own = figures.own
    phrases = own.phrases if isinstance(own, NearPhrases) else ()
    return Drawn(
        gaps=gaps_of(figures),
        stretches=[
            MarkedStretch(
                start_s=one.start_s, end_s=one.end_s, words=number(one.off_semitones, "%+.1f")
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
    picture="near",
    for_seconds=False,
)
