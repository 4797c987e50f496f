"""The notes of a scale pattern."""

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from core.kinds.finding import Finding
from core.kinds.pattern.figures import SungPattern
from core.notes.note import Note
from core.sound.figures import Figures
from web.design.drawings.held_marks import MarkedStretch
from web.kinds.face import Drawn, Face, Row, gaps_of, number


def _to_client(finding: Finding) -> str | None:
    values = finding.values
    if finding.code == "other_key":
        higher = values["semitones"] > 0
        return _("Sung higher than the tone.") if higher else _("Sung lower than the tone.")
    if finding.code == "missing":
        count = int(values["count"])
        return ngettext("One note was left out.", "Some notes were left out.", count)
    return {
        "added": _("There was a note too many."),
        "off_notes": _("Some notes were a little off: listen to the tone again."),
        "uneven_tempo": _("It hurried and slowed: keep the beat."),
        "in_tune": _("Every note was there."),
    }.get(finding.code)


def _to_clinician(finding: Finding) -> str | None:
    return {
        "other_key": _("Sung %(semitones)+d semitones from the prescribed key."),
        "missing": _("%(count)d note(s) missing."),
        "added": _("%(count)d note(s) added."),
        "off_notes": _("%(count)d note(s) over 50 cents off, worst %(worst_cents)+.0f."),
        "uneven_tempo": _("Uneven tempo: SD %(sd_percent).0f %% from note to note."),
        "in_tune": _("All %(count)d notes within 50 cents."),
    }.get(finding.code)


def _in_short(figures: Figures, _a4_hz: float) -> str:
    own = figures.own
    if not isinstance(own, SungPattern):
        return ""
    counts = {"sung": len(own.notes), "missing": len(own.missing)}
    return _("%(sung)s notes, %(missing)s missing") % counts


def _rows(figures: Figures) -> list[Row]:
    own = figures.own
    if not isinstance(own, SungPattern):
        return []
    return [
        (_("From note to note"), number(own.note_s, "%.2f s")),
        (_("Tempo SD"), number(own.tempo_sd_percent, "%.0f %%")),
    ]


def _drawn(figures: Figures) -> Drawn:
    own = figures.own
    if not isinstance(own, SungPattern):
        return Drawn(gaps=gaps_of(figures))
    breath = _("breath")
    return Drawn(
        gaps=gaps_of(figures),
        notes=[(note.start_s, note.end_s, Note.named(note.name)) for note in own.notes],
        stretches=[MarkedStretch(start_s=a, end_s=b, words=breath) for a, b in own.breaths],
        sung=[
            (note.name, number(note.start_s, "%.1f s"), number(note.cents, "%+.0f"))
            for note in own.notes
        ],
    )


FACE = Face(
    to_client=_to_client,
    to_clinician=_to_clinician,
    in_short=_in_short,
    rows=_rows,
    drawn=_drawn,
    sloped=False,
    picture="keys",
    for_seconds=False,
)
