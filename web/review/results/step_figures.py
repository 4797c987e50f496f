"""What each step of a home session came to, in the clinician's words."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from django.utils.translation import gettext as _

from core.grading.in_session import in_session
from core.kinds.in_session import SessionFigure, TriedAttempt
from core.kinds.registry import target_of
from core.program.asked import asked_of
from core.program.step import Step
from web.figures.words import name_of, phrase_of
from web.measuring.store import figures_of
from web.practice.models import Attempt, State
from web.practice.sessions.levels import device_of


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
    """Every step with at least one attempt that counts, in the order of the program. changes: whether it
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


def tried_of(row: Attempt, step: Step, references: References) -> TriedAttempt:
    """An attempt as the figures of its kind take it."""
    place = min(row.place, step.target.attempts - 1)
    asked = asked_of(step, place)
    strong = step.level is not None
    level = row.measurement.level_mean_db if row.measurement else None
    reference = (references.talk if strong else references.soft).get(device_of(row))
    return TriedAttempt(
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
            unknown.setdefault(str(one.why), []).append(name_of(one.code))
        elif not _goes_without_saying(one):
            by_note.setdefault(one.of, []).append(phrase_of(one.code, one.value))
    lines = [f"{note} {', '.join(said)}".strip() for note, said in by_note.items()]
    lacking = [
        _("%(what)s: %(why)s") % {"what": ", ".join(dict.fromkeys(labels)), "why": why}
        for why, labels in unknown.items()
    ]
    return StepCame(name, "; ".join(lines), "; ".join(lacking), change)


def _goes_without_saying(one: SessionFigure) -> bool:
    """No breaks, nothing missing, a key with every note in tune."""
    if one.kind.usual is not None:
        return one.value == one.kind.usual
    return one.code == "in_tune" and bool(one.of) and one.value == 100.0
