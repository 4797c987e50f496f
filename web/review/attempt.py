"""The page of one attempt: its contour, what was found, and its ends moved by hand."""

from dataclasses import dataclass

from django.utils.safestring import SafeString
from django.utils.translation import gettext as _

from core.notes.note import Note
from core.sound.figures import Figures
from core.sound.findings import findings
from web.design.drawings.held_line import HeldLine, held_line
from web.measuring.store import stored_figures
from web.measuring.words import clinician_words
from web.practice.models import Attempt, Correction


@dataclass(frozen=True)
class AttemptPage:
    """What the page shows; `corrections` newest first, `drawing` None without a contour."""

    attempt: Attempt
    figures: Figures | None
    corrections: list[Correction]
    drawing: SafeString | None
    findings: list[str]
    ends_s: tuple[float, float] | None
    length_s: float

    @property
    def corrected_s(self) -> float | None:
        return self.corrections[0].hold_s if self.corrections else None


def attempt_page(attempt: Attempt, *, editable: bool = True) -> AttemptPage:
    """Read an attempt with its measurement, contour and corrections."""
    corrections = list(attempt.corrections.select_related("by").order_by("-at"))
    row = attempt.measurement
    figures = stored_figures(row) if row else None
    moved = (corrections[0].onset_s, corrections[0].offset_s) if corrections else None
    measured = _ends(figures)
    drawing, length_s = None, 0.0
    if figures and len(figures.contour.level_db):
        length_s = len(figures.contour.level_db) * figures.contour.hop_s
        drawing = held_line(
            HeldLine(
                f0_hz=figures.contour.f0_hz,
                level_db=figures.contour.level_db,
                hop_s=figures.contour.hop_s,
                ends_s=measured,
                moved_s=moved,
                gaps=[(b.start_s, b.end_s) for b in figures.breaks if b.kind == "gap"],
                jumps_s=[b.start_s for b in figures.breaks if b.kind == "jump"],
                target=Note.named(attempt.note) if attempt.note else None,
                a4_hz=attempt.version.program.a4_hz,
                editable=editable,
                label=_("Pitch and level of the attempt"),
                words={
                    "target": _("target"),
                    "level": _("level, dBFS"),
                    "gap": _("gap"),
                    "jump": _("jump"),
                    "begin": _("Begin of the hold"),
                    "end": _("End of the hold"),
                },
            )
        )
    return AttemptPage(
        attempt=attempt,
        figures=figures,
        corrections=corrections,
        drawing=drawing,
        findings=[clinician_words(f) for f in findings(figures)] if figures else [],
        ends_s=moved or measured or ((0.0, length_s) if length_s else None),
        length_s=length_s,
    )


def _ends(figures: Figures | None) -> tuple[float, float] | None:
    if figures is None or figures.onset_s is None or figures.offset_s is None:
        return None
    return figures.onset_s, figures.offset_s
