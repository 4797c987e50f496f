"""What each step of a home session came to, in the clinician's words."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from django.utils.functional import Promise
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from core.grading.in_session import in_session
from core.kinds.in_session import SessionFigure, Tried
from core.kinds.registry import target_of
from core.notes.note import Note
from core.plans.asked import asked_of
from core.plans.step import Step
from web.measuring.store import figures_of
from web.practice.levels import device_of
from web.practice.models import Attempt, State

_SAID: dict[str, Promise] = {
    "best_s": gettext_lazy("best %(n)s"),
    "mean_s": gettext_lazy("mean %(n)s"),
    "share": gettext_lazy("%(n)s of what was asked"),
    "lags": gettext_lazy("lags, %(n)s"),
    "pitch_sd": gettext_lazy("pitch SD %(n)s"),
    "trail_off": gettext_lazy("trail-off %(n)s"),
    "over_db": gettext_lazy("%(n)s over the reference"),
    "gaps": gettext_lazy("gaps: %(n)s"),
    "jumps": gettext_lazy("jumps: %(n)s"),
    "at_length": gettext_lazy("%(n)s at length"),
    "at_level": gettext_lazy("%(n)s at level"),
    "at_both": gettext_lazy("%(n)s at both"),
    "rise": gettext_lazy("rises %(n)s"),
    "fall": gettext_lazy("falls %(n)s"),
    "level_sd": gettext_lazy("level SD %(n)s"),
    "span": gettext_lazy("span %(n)s"),
    "low": gettext_lazy("lowest %(n)s"),
    "high": gettext_lazy("highest %(n)s"),
    "ends": gettext_lazy("both ends reached in %(n)s"),
    "evenness": gettext_lazy("evenness %(n)s"),
    "broke_at": gettext_lazy("breaks here: %(n)s"),
    "gap": gettext_lazy("silence between %(n)s"),
    "hiss_s": gettext_lazy("hiss %(n)s"),
    "buzz_s": gettext_lazy("buzz %(n)s"),
    "joined": gettext_lazy("%(n)s joined"),
    "rate": gettext_lazy("%(n)s"),
    "bubbling": gettext_lazy("%(n)s"),
    "stops": gettext_lazy("bubbles stopped %(n)s"),
    "in_tune": gettext_lazy("%(n)s of the notes within 50 cents"),
    "missing": gettext_lazy("missing: %(n)s"),
    "added": gettext_lazy("added: %(n)s"),
    "low_clean": gettext_lazy("lowest clean key %(n)s"),
    "high_clean": gettext_lazy("highest clean key %(n)s"),
    "tempo_sd": gettext_lazy("tempo SD %(n)s"),
    "over_target": gettext_lazy("%(n)s of the voiced time over the target"),
    "near": gettext_lazy("%(n)s of the phrases near the note"),
    "off_note": gettext_lazy("%(n)s from the note"),
    "pitch": gettext_lazy("commonest pitch %(n)s"),
    "voiced_s": gettext_lazy("voiced %(n)s"),
    "in_s": gettext_lazy("in %(n)s"),
    "out_s": gettext_lazy("out %(n)s"),
    "from_end": gettext_lazy("%(n)s from the end"),
    "within_beat": gettext_lazy("%(n)s within a beat"),
    "done": gettext_lazy("%(n)s done"),
    "done_s": gettext_lazy("%(n)s done"),
}
_NAMES: dict[str, Promise] = {
    "best_s": gettext_lazy("best"),
    "mean_s": gettext_lazy("mean"),
    "share": gettext_lazy("share"),
    "lags": gettext_lazy("lagging note"),
    "pitch_sd": gettext_lazy("pitch SD"),
    "trail_off": gettext_lazy("trail-off"),
    "over_db": gettext_lazy("level"),
    "gaps": gettext_lazy("breaks"),
    "jumps": gettext_lazy("breaks"),
    "at_length": gettext_lazy("length"),
    "at_level": gettext_lazy("level"),
    "at_both": gettext_lazy("length and level"),
    "rise": gettext_lazy("swell"),
    "fall": gettext_lazy("swell"),
    "level_sd": gettext_lazy("level SD"),
    "span": gettext_lazy("span"),
    "low": gettext_lazy("lowest note"),
    "high": gettext_lazy("highest note"),
    "ends": gettext_lazy("ends"),
    "evenness": gettext_lazy("evenness"),
    "broke_at": gettext_lazy("breaks"),
    "gap": gettext_lazy("silence between"),
    "hiss_s": gettext_lazy("hiss"),
    "buzz_s": gettext_lazy("buzz"),
    "joined": gettext_lazy("join"),
    "rate": gettext_lazy("rate"),
    "bubbling": gettext_lazy("bubbles"),
    "stops": gettext_lazy("bubble stops"),
    "in_tune": gettext_lazy("notes in tune"),
    "missing": gettext_lazy("missing notes"),
    "added": gettext_lazy("added notes"),
    "low_clean": gettext_lazy("clean keys"),
    "high_clean": gettext_lazy("clean keys"),
    "tempo_sd": gettext_lazy("tempo SD"),
    "near": gettext_lazy("phrases near the note"),
    "off_note": gettext_lazy("distance from the note"),
    "over_target": gettext_lazy("time over the target"),
    "pitch": gettext_lazy("pitch"),
    "voiced_s": gettext_lazy("voiced time"),
    "in_s": gettext_lazy("breath in"),
    "out_s": gettext_lazy("breath out"),
    "from_end": gettext_lazy("end of the breath"),
    "within_beat": gettext_lazy("end of the breath"),
    "done": gettext_lazy("how much was done"),
    "done_s": gettext_lazy("how long"),
}
_NONE_OF = ("gaps", "jumps", "missing", "added")
"""What is said only where there is some."""
_SIGNED = ("trail_off", "over_db", "from_end")
_PLACES = {
    "": 0,
    "%": 0,
    "in 10 s": 1,
    "s": 1,
    "dB": 1,
    "Hz": 1,
    "beats": 1,
    "words/min": 0,
    "a second": 1,
}
_UNITS: dict[str, Promise | str] = {
    "semitones": gettext_lazy("st"),
    "beats": gettext_lazy("beats"),
    "in 10 s": gettext_lazy("times in 10 s"),
    "words/min": gettext_lazy("words a minute"),
    "a second": gettext_lazy("bubbles a second"),
}


@dataclass(frozen=True)
class StepCame:
    """One step of a home session: its name, what is known of it, what is not and why, and whether it
    changes."""

    name: str
    known: str
    unknown: str
    change: str


@dataclass(frozen=True)
class References:
    """Levels in dBFS by device: of soft holds, and of usual talk for strong work."""

    soft: Mapping[str, float]
    talk: Mapping[str, float]


def steps_came(
    steps: Iterable[Step],
    attempts: Iterable[Attempt],
    references: References,
    names: Mapping[str, str],
    changes: Mapping[str, str],
) -> list[StepCame]:
    """Every step of which something was tried that counts, in the order of the program. changes: whether it
    changes, in words, by the id of the step."""
    rows = [row for row in attempts if not row.left_out]
    found = []
    for step in steps:
        own = [row for row in rows if str(row.step_id) == step.step_id]
        if own:
            figures = in_session(step, [tried_of(row, step, references) for row in own])
            change = changes.get(step.step_id, "")
            found.append(_said(names.get(step.step_id, step.name), figures, change))
    return found


def tried_of(row: Attempt, step: Step, references: References) -> Tried:
    """An attempt as the figures of its kind take it."""
    place = min(row.place, step.target.attempts - 1)
    asked = asked_of(step, place)
    strong = step.level is not None
    level = row.measurement.level_mean_db if row.measurement else None
    reference = (references.talk if strong else references.soft).get(device_of(row))
    return Tried(
        place=row.place,
        note=row.note,
        aim=target_of(step.measured, asked.aim) if step.measured and asked.aim else None,
        seconds=row.seconds or None,
        target_s=row.target_s,
        figures=figures_of(row.measurement) if row.measurement else None,
        over_db=None if level is None or reference is None else level - reference,
        aimed_db=step.level.over_db if step.level else None,
        beat_s=step.target.beat_s,
        ends=asked.ends,
        interrupted=row.state == State.INTERRUPTED,
        count=row.count,
        count_asked=row.count_asked,
    )


def _said(name: str, figures: Iterable[SessionFigure], change: str) -> StepCame:
    by_note: dict[str, list[str]] = {}
    unknown: dict[str, list[str]] = {}
    for one in figures:
        if one.value is None:
            unknown.setdefault(str(one.why), []).append(str(_NAMES[one.code]))
        elif not _goes_without_saying(one):
            by_note.setdefault(one.of, []).append(_SAID[one.code] % {"n": _number(one)})
    lines = [f"{note} {', '.join(said)}".strip() for note, said in by_note.items()]
    lacking = [
        _("%(what)s: %(why)s") % {"what": ", ".join(dict.fromkeys(labels)), "why": why}
        for why, labels in unknown.items()
    ]
    return StepCame(name, "; ".join(lines), "; ".join(lacking), change)


def _goes_without_saying(one: SessionFigure) -> bool:
    """No breaks, nothing missing, a key with every note in tune."""
    if one.code in _NONE_OF:
        return not one.value
    return one.code == "in_tune" and bool(one.of) and one.value == 100.0


def _number(one: SessionFigure) -> str:
    value = one.value or 0.0
    if one.unit == "note":
        return Note(round(value)).name
    places = 1 if one.code == "span" else _PLACES.get(one.unit, 2)
    sign = "+" if one.code in _SIGNED else ""
    unit = str(_UNITS.get(one.unit, one.unit))
    # A unit is not torn from its number at the end of a line.
    return f"{value:{sign}.{places}f}\u00a0{unit}".strip().replace("-", "−")
