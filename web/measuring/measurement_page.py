"""A stored measurement as a page shows it: drawing, findings, figures in rows; clinician's words."""

from dataclasses import dataclass, field

import numpy as np
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from core.kinds.registry import findings
from core.notes.note import Note
from core.sound.calibration import LevelReference
from core.sound.figures import Figures, QualityVerdict
from web.design.drawings.held_line import HeldLine, held_line
from web.kinds.face import number
from web.kinds.registry import face_of
from web.measuring.models import Measurement
from web.measuring.store import figures_of, stored_figures
from web.measuring.words import clinician_words

VERDICTS = {
    QualityVerdict.GOOD: gettext_lazy("good"),
    QualityVerdict.USABLE: gettext_lazy("usable"),
    QualityVerdict.NOT_MEASURABLE: gettext_lazy("not measurable"),
}


@dataclass(frozen=True, kw_only=True)
class MeasurementShown:
    """`drawing` None without a contour; `rows`: label and text; `notes`: those of a pattern;
    `pitched`: whether a voice was asked for or heard."""

    figures: Figures
    drawing: SafeString | None
    findings: list[str]
    rows: list[tuple[str, str]]
    verdict: str
    ends_s: tuple[float, float] | None
    length_s: float
    notes: list[tuple[str, str, str]] = field(default_factory=list)
    pitched: bool = True


def shown(
    row: Measurement,
    *,
    target: Note | None,
    a4_hz: float,
    moved_s: tuple[float, float] | None = None,
    editable: bool = False,
    reference: LevelReference | None = None,
) -> MeasurementShown:
    """Read a measurement with its contour; moved_s: its ends as set by hand; reference: the level
    reference of its device."""
    figures = stored_figures(row)
    face = face_of(figures.task)
    drawn, curve = face.drawn(figures), figures.contour
    measured = None
    if figures.onset_s is not None and figures.offset_s is not None:
        measured = figures.onset_s, figures.offset_s
    drawing = None
    if len(curve.level_db):
        drawing = held_line(
            HeldLine(
                f0_hz=curve.f0_hz,
                level_db=curve.level_db,
                hop_s=curve.hop_s,
                ends_s=measured,
                moved_s=moved_s,
                gaps=drawn.gaps,
                jumps_s=[b.start_s for b in figures.breaks if b.kind == "jump"],
                target=target,
                notes=drawn.notes,
                rings=drawn.rings,
                stretches=drawn.stretches,
                a4_hz=a4_hz,
                editable=editable,
                label=_("Pitch and level of the attempt"),
                words={
                    "target": _("target"),
                    "level": _("level"),
                    "gap": _("gap"),
                    "jump": _("jump"),
                    "begin": _("Begin of the hold"),
                    "end": _("End of the hold"),
                },
            )
        )
    length_s = len(curve.level_db) * curve.hop_s
    return MeasurementShown(
        figures=figures,
        drawing=drawing,
        findings=[
            text for one in findings(figures) if (text := clinician_words(figures.task, one))
        ],
        rows=[*_rows_of_all(figures, reference, sloped=face.sloped), *face.rows(figures)],
        verdict=str(VERDICTS[figures.quality.verdict]),
        ends_s=moved_s or measured or ((0.0, length_s) if length_s else None),
        length_s=length_s,
        notes=list(drawn.sung),
        pitched=target is not None or bool(np.isfinite(curve.f0_hz).any()),
    )


def in_short(row: Measurement | None, *, a4_hz: float) -> str:
    """What the task is for in a few words; "" for a held note, whose figures have columns."""
    if row is None:
        return ""
    figures = figures_of(row)
    return face_of(figures.task).in_short(figures, a4_hz)


def _rows_of_all(
    figures: Figures, reference: LevelReference | None, *, sloped: bool
) -> list[tuple[str, str]]:
    rows = []
    if figures.f0_median_hz is not None:
        rows.append((_("Pitch, median"), number(figures.f0_median_hz, "%.1f Hz")))
    if figures.pitch_error_cents is not None:
        rows.append((_("From the target"), number(figures.pitch_error_cents, "%+.1f cents")))
    rows.append((_("Level"), number(figures.level_mean_db, "%.1f dBFS")))
    if reference and figures.level_mean_db is not None and reference.calibrated:
        at_30_cm = reference.at_30_cm_db(figures.level_mean_db)
        rows.append((_("At 30 cm"), number(at_30_cm, "%.1f dB")))
    if figures.room_db is not None and figures.level_mean_db is not None:
        under = figures.level_mean_db - figures.room_db
        rows.append((_("Room under the voice"), number(under, "%.0f dB")))
    if sloped:
        rows.append((_("Level slope"), number(figures.slope_db_per_s, "%+.1f dB/s")))
        rows.append((_("Trail-off"), number(figures.trail_off_db, "%+.1f dB")))
    return rows
