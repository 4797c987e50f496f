"""A stored measurement as a page shows it: drawing, findings, figures in rows; clinician's words."""

from dataclasses import dataclass, field

import numpy as np
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from core.notes.note import Note, nearest_note
from core.sound.calibration import LevelReference
from core.sound.figures import Figures, Verdict
from core.sound.findings import findings
from core.sound.task_figures import (
    Bubbles,
    Join,
    PacedBreath,
    Speech,
    SungPattern,
    Swell,
    read_task_figures,
)
from web.design.drawings.held_line import HeldLine, held_line
from web.design.drawings.held_marks import Rings, Stretch
from web.measuring.models import Measurement
from web.measuring.store import stored_figures
from web.measuring.words import clinician_words

VERDICTS = {
    Verdict.GOOD: gettext_lazy("good"),
    Verdict.USABLE: gettext_lazy("usable"),
    Verdict.NOT_MEASURABLE: gettext_lazy("not measurable"),
}


@dataclass(frozen=True, kw_only=True)
class Shown:
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
) -> Shown:
    """Read a measurement with its contour; moved_s: its ends as set by hand; reference: the level
    reference of its device."""
    figures = stored_figures(row)
    curve = figures.contour
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
                gaps=_gaps(figures),
                jumps_s=[b.start_s for b in figures.breaks if b.kind == "jump"],
                target=target,
                notes=_notes(figures),
                rings=_rings(figures),
                stretches=_stretches(figures),
                a4_hz=a4_hz,
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
    length_s = len(curve.level_db) * curve.hop_s
    return Shown(
        figures=figures,
        drawing=drawing,
        findings=[text for one in findings(figures) if (text := clinician_words(one))],
        rows=[*_rows_of_all(figures, reference), *_rows_of_task(figures)],
        verdict=str(VERDICTS[figures.quality.verdict]),
        ends_s=moved_s or measured or ((0.0, length_s) if length_s else None),
        length_s=length_s,
        notes=_sung(figures),
        pitched=target is not None or bool(np.isfinite(curve.f0_hz).any()),
    )


def _gaps(figures: Figures) -> list[tuple[float, float]]:
    """Gaps of the voice; that of a join stands among its stretches."""
    if isinstance(figures.own, Join):
        return []
    return [(b.start_s, b.end_s) for b in figures.breaks if b.kind == "gap"]


def _notes(figures: Figures) -> list[tuple[float, float, Note]]:
    own = figures.own
    sung = own.notes if isinstance(own, SungPattern) else ()
    return [(note.start_s, note.end_s, Note.named(note.name)) for note in sung]


def _sung(figures: Figures) -> list[tuple[str, str, str]]:
    own = figures.own
    if not isinstance(own, SungPattern):
        return []
    return [(n.name, _number(n.start_s, "%.1f s"), _number(n.cents, "%+.0f")) for n in own.notes]


def _rings(figures: Figures) -> Rings | None:
    own = figures.own
    if not isinstance(own, Bubbles) or not own.rate_hz or figures.offset_s is None:
        return None
    return Rings(
        rate_hz=own.rate_hz,
        start_s=figures.onset_s or 0.0,
        end_s=figures.offset_s,
        stops=own.stops,
    )


def _stretches(figures: Figures) -> list[Stretch]:
    own = figures.own
    if isinstance(own, Bubbles):
        stop = _("no bubbles")
        return [Stretch(start_s=a, end_s=b, words=stop, needs_care=True) for a, b in own.stops]
    if isinstance(own, Join) and own.switch_s is not None:
        silent = own.switch_s - (own.gap_s or 0.0)
        ends = (figures.onset_s or 0.0, figures.offset_s or 0.0)
        parts = [
            Stretch(start_s=ends[0], end_s=silent, words=_("hiss")),
            Stretch(start_s=own.switch_s, end_s=ends[1], words=_("buzz")),
        ]
        gap = Stretch(start_s=silent, end_s=own.switch_s, words=_("silence"), needs_care=True)
        return [*parts, gap] if own.gap_s else parts
    if isinstance(own, SungPattern):
        breath = _("breath")
        return [Stretch(start_s=a, end_s=b, words=breath) for a, b in own.breaths]
    if isinstance(own, Speech):
        return [
            Stretch(
                start_s=one.start_s,
                end_s=one.end_s,
                words=_number(one.trail_off_db, "%+.1f dB"),
            )
            for one in own.phrases
        ]
    if isinstance(own, PacedBreath):
        ins = [Stretch(start_s=a, end_s=b, words=_("in")) for a, b in own.ins]
        return ins + [Stretch(start_s=a, end_s=b, words=_("out")) for a, b in own.outs]
    return []


def _number(value: float | None, pattern: str) -> str:
    return "–" if value is None else (pattern % value).replace("-", "−")


def in_short(row: Measurement | None, *, a4_hz: float) -> str:
    """What the task is for in a few words: notes of a glide, bubbles, silence at a join, notes of a
    pattern, level over usual talk, breaths; "" for a held note, whose figures have columns."""
    if row is None:
        return ""
    if row.glide_low_hz and row.glide_high_hz:
        low, high = (nearest_note(hz, a4_hz)[0] for hz in (row.glide_low_hz, row.glide_high_hz))
        return f"{low}–{high}"
    own = read_task_figures(row.own)
    if isinstance(own, Bubbles):
        return _("%s bubbles a second") % _number(own.rate_hz, "%.1f") if own.rate_hz else ""
    if isinstance(own, Join):
        return _("silence %s") % _number(own.gap_s, "%.2f s") if own.gap_s else _("no silence")
    if isinstance(own, SungPattern):
        return _("%(sung)s notes, %(missing)s missing") % {
            "sung": len(own.notes),
            "missing": len(own.missing),
        }
    if isinstance(own, Speech) and own.over_reference_db is not None:
        return _("%s against usual talk") % _number(own.over_reference_db, "%+.1f dB")
    if isinstance(own, Swell):
        return _("level SD %s") % _number(row.level_sd_db, "%.1f dB")
    if isinstance(own, PacedBreath):
        return _("in %(in)s, out %(out)s") % {
            "in": _number(own.in_s, "%.1f s"),
            "out": _number(own.out_s, "%.1f s"),
        }
    return ""


def _rows_of_all(figures: Figures, reference: LevelReference | None) -> list[tuple[str, str]]:
    rows = []
    if figures.f0_median_hz is not None:
        rows.append((_("Pitch, median"), _number(figures.f0_median_hz, "%.1f Hz")))
    if figures.pitch_error_cents is not None:
        rows.append((_("From the target"), _number(figures.pitch_error_cents, "%+.1f cents")))
    rows.append((_("Level"), _number(figures.level_mean_db, "%.1f dBFS")))
    if reference and figures.level_mean_db is not None and reference.calibrated:
        at_30_cm = reference.at_30_cm_db(figures.level_mean_db)
        rows.append((_("At 30 cm"), _number(at_30_cm, "%.1f dB")))
    if figures.room_db is not None and figures.level_mean_db is not None:
        under = figures.level_mean_db - figures.room_db
        rows.append((_("Room under the voice"), _number(under, "%.0f dB")))
    if not isinstance(figures.own, Speech | SungPattern | PacedBreath):
        rows.append((_("Level slope"), _number(figures.slope_db_per_s, "%+.1f dB/s")))
        rows.append((_("Trail-off"), _number(figures.trail_off_db, "%+.1f dB")))
    return rows


def _rows_of_task(figures: Figures) -> list[tuple[str, str]]:
    own = figures.own
    if isinstance(own, Bubbles):
        return [
            (_("Bubbles a second"), _number(own.rate_hz, "%.1f")),
            (_("Swing with the bubbles"), _number(own.swing_db, "%.1f dB")),
        ]
    if isinstance(own, Join):
        return [
            (_("Hiss"), _number(own.hiss_s, "%.2f s")),
            (_("Voice sets in at"), _number(own.switch_s, "%.3f s")),
            (_("Silence at the join"), _number(own.gap_s, "%.3f s")),
            (_("Buzz"), _number(own.buzz_s, "%.2f s")),
        ]
    if isinstance(own, SungPattern):
        return [
            (_("From note to note"), _number(own.note_s, "%.2f s")),
            (_("Tempo SD"), _number(own.tempo_sd_percent, "%.0f %%")),
        ]
    if isinstance(own, Speech):
        return [
            (_("Commonest pitch"), _number(own.mode_hz, "%.1f Hz")),
            (_("Voiced time"), _number(own.voiced_s, "%.1f s")),
            (_("Phrases"), str(len(own.phrases)) if own.phrases else "–"),
            (_("Phrase trail-off"), _number(own.trail_off_db, "%+.1f dB")),
            (_("Over the reference"), _number(own.over_reference_db, "%+.1f dB")),
            (_("Rate"), _number(own.words_a_minute, _("%.0f words a minute"))),
        ]
    if isinstance(own, PacedBreath):
        return [
            (_("In, middle"), _number(own.in_s, "%.1f s")),
            (_("Out, middle"), _number(own.out_s, "%.1f s")),
        ]
    return []
