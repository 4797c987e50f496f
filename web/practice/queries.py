"""What pages and rules read of home practice."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from statistics import mean, median
from typing import Any

from django.db.models import Count, Q

from core.dose.taper import on_day
from core.dose.tide import Stroke
from core.grading.climb import HoldFigures, SessionFigures, session_figures
from core.plans.program import Program
from core.plans.step import Step
from core.reference.values import HOLD_LEVEL_OVER_PROBE, HOLD_PITCH_SD
from web.clients.models import Client
from web.practice.models import Attempt, Correction, Entry, HomeSession, Outcome, State
from web.practice.step_words import step_data
from web.programs.models import ProgramVersion

STROKES = {
    Outcome.KEPT: Stroke.KEPT,
    Outcome.SHORT: Stroke.SHORT,
    Outcome.STOPPED: Stroke.STOPPED,
    Outcome.OPEN: Stroke.SHORT,
}
LOOKED_BACK = 10


def strokes_of(client_id, *, since: date) -> list[tuple[date, Stroke]]:
    """Home sessions from a day on as strokes; one left open counts if anything was held."""
    rows = (
        HomeSession.objects.filter(client_id=client_id, practice_day__gte=since)
        .annotate(held=Count("attempts"))
        .filter(~Q(outcome=Outcome.OPEN) | Q(held__gt=0))
        .order_by("started_at")
    )
    return [(row.practice_day, STROKES[Outcome(row.outcome)]) for row in rows]


def recent_sessions(client_id, *, limit: int = LOOKED_BACK) -> list[HomeSession]:
    """The last home sessions in which something was held, newest first."""
    rows = HomeSession.objects.filter(client_id=client_id).annotate(held=Count("attempts"))
    return list(rows.filter(held__gt=0).order_by("-started_at")[:limit])


def attempts_in(sessions: Iterable[HomeSession]) -> list[Attempt]:
    """Attempts of these home sessions with their measurements, in order."""
    rows = Attempt.objects.filter(home_session__in=[s.pk for s in sessions])
    rows = rows.select_related("measurement").order_by("started_at", "place")
    return with_corrections(list(rows))


def with_corrections(attempts: list[Attempt]) -> list[Attempt]:
    """The attempts with the newest correction of each as its seconds; one query. `correction` holds
    it; what was measured stays in the measurement."""
    rows = Correction.objects.filter(attempt__in=[a.pk for a in attempts]).order_by("at")
    newest = {row.attempt_id: row for row in rows}
    for attempt in attempts:
        attempt.correction = newest.get(attempt.pk)
        if attempt.correction:
            attempt.seconds = round(attempt.correction.hold_s, 2)
    return attempts


def last_power_attempts(client_id, program: Program) -> list[Attempt]:
    """Attempts of the newest home session in which a graded note was held; a session that was
    broken off before does not hide the ones behind it."""
    step = program.main_step
    sessions = recent_sessions(client_id)
    attempts = attempts_in(sessions)
    for session in sessions:
        own = [a for a in attempts if a.home_session_id == session.pk]
        if step and any(a.seconds and str(a.step_id) == step.step_id for a in own):
            return own
    return []


def device_of(attempt: Attempt) -> str:
    return attempt.measurement.device_name if attempt.measurement else ""


def level_references(client_id) -> dict[str, float]:
    """Soft reference of each device, dBFS: the median level of the first home session on it."""
    rows = (
        Attempt.objects.filter(client_id=client_id, measurement__level_mean_db__isnull=False)
        .exclude(note="")
        .order_by("started_at")
        .select_related("measurement")[:60]
    )
    levels: dict[str, tuple[object, list[float]]] = {}
    for row in rows:
        session, found = levels.setdefault(device_of(row), (row.home_session_id, []))
        level = row.measurement.level_mean_db if row.measurement else None
        if row.home_session_id == session and level is not None:
            found.append(level)
    return {device: median(found) for device, (_session, found) in levels.items()}


@dataclass(frozen=True)
class Practice:
    """The recent home sessions of a client, newest first, with what was held and said in them."""

    sessions: list[HomeSession]
    attempts: list[Attempt]
    references: dict[str, float]
    strain: dict


def practice_of(client_id) -> Practice:
    """Read the last home sessions in four queries."""
    sessions = recent_sessions(client_id)
    return Practice(
        sessions=sessions,
        attempts=attempts_in(sessions),
        references=level_references(client_id),
        strain=strain_of(sessions),
    )


def graded_sessions(practice: Practice, program: Program) -> list[SessionFigures]:
    """The recent home sessions at the current rung as the rules see them, oldest first."""
    step = program.main_step
    if step is None or step.grade is None:
        return []
    graded = []
    for session in reversed(practice.sessions):
        held = [
            figures_of(a, practice.references)
            for a in practice.attempts
            if a.home_session_id == session.pk
            and str(a.step_id) == step.step_id
            and a.rung == step.rung
            and a.state == State.MEASURED
            and a.seconds is not None
        ]
        if held:
            graded.append(
                session_figures(
                    held,
                    day=session.practice_day,
                    notes_asked=len(step.holds),
                    strain=practice.strain.get(session.pk),
                )
            )
    return graded


def figures_of(attempt: Attempt, references: dict[str, float]) -> HoldFigures:
    """One attempt as the rules see it; levels only against the same device."""
    measured = attempt.measurement
    reference = references.get(device_of(attempt))
    level = measured.level_mean_db if measured else None
    return HoldFigures(
        note=f"{attempt.place} {attempt.note}",
        seconds=attempt.seconds or 0.0,
        target_s=attempt.target_s,
        pitch_sd_semitones=measured.f0_sd_semitones if measured else None,
        trail_off_db=measured.trail_off_db if measured else None,
        level_over_probe_db=None if level is None or reference is None else level - reference,
    )


def strain_of(sessions: Iterable[HomeSession]) -> dict:
    """Mean throat strain of each home session by its id; unanswered sessions are absent."""
    said: dict = {}
    rows = Entry.objects.filter(home_session__in=[s.pk for s in sessions], kind="strain")
    for session_id, value in rows.values_list("home_session_id", "value"):
        said.setdefault(session_id, []).append(value)
    return {session_id: mean(values) for session_id, values in said.items()}


@dataclass(frozen=True)
class BestHold:
    """The best hold of one place: seconds, and whether it was soft and steady."""

    place: int
    seconds: float | None
    calm: bool
    all_s: tuple[float, ...]


def bests_by_place(attempts: Iterable[Attempt], step: Step, references) -> list[BestHold]:
    """For each note of a step the best of these attempts."""
    rows = [a for a in attempts if str(a.step_id) == step.step_id and a.seconds]
    bests = []
    for place in range(len(step.holds)):
        held = [a for a in rows if a.place == place]
        best = max(held, key=lambda a: a.seconds or 0.0, default=None)
        bests.append(
            BestHold(
                place=place,
                seconds=best.seconds if best else None,
                calm=best is not None and _calm(figures_of(best, references)),
                all_s=tuple(a.seconds for a in held if a.seconds),
            )
        )
    return bests


def _calm(figures: HoldFigures) -> bool:
    steady = figures.pitch_sd_semitones
    over = figures.level_over_probe_db
    return (
        steady is not None
        and steady <= HOLD_PITCH_SD.number
        and (over is None or over <= HOLD_LEVEL_OVER_PROBE.number)
    )


def done_today(client: Client, today: date) -> int:
    """Home sessions kept or shortened on that local date."""
    done = [Outcome.KEPT, Outcome.SHORT, Outcome.STOPPED]
    return HomeSession.objects.filter(client=client, practice_day=today, outcome__in=done).count()


def bundle_of(
    session: HomeSession, version: ProgramVersion, *, short_day: bool = False
) -> dict[str, Any]:
    """Everything the player needs for one home session, in plain data; on a bad day only the step
    that stands for the whole, where the program has one."""
    program = on_day(version.program, session.practice_day)
    steps = (program.short_day,) if short_day and program.short_day else program.steps
    return {
        "session_id": str(session.pk),
        "steps": [step_data(step, program.a4_hz) for step in steps],
        "a4_hz": program.a4_hz,
        "known_devices": sorted(level_references(session.client_id)),
    }
