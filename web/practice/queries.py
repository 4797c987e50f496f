"""What pages and rules read of home practice."""

import itertools
from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import cached_property
from statistics import mean
from typing import Any

from django.db.models import Count, F, OuterRef, Q, QuerySet, Subquery
from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from core.catalogue.touches import Touch
from core.dose.minutes import length_of
from core.dose.taper import on_day
from core.dose.tide import Done, Stroke
from core.errors import PlanError
from core.grading.climb import HoldFigures, SessionFigures, session_figures
from core.grading.strain import StrainSaid
from core.plans.program import Program
from core.plans.routine import Routine
from core.plans.step import Step
from core.reference.values import HOLD_LEVEL_OVER_PROBE, HOLD_PITCH_SD, STRAIN_DAYS
from core.safety.program_gate import touches_of
from core.safety.stop import OpenSign, StopSign, rests, withheld
from web.clients.models import Client
from web.library.queries import catalogue_of
from web.practice.levels import conversations, device_of, level_references
from web.practice.models import (
    USUAL_TALK,
    Attempt,
    Correction,
    Entry,
    HomeSession,
    Outcome,
    State,
)
from web.practice.routine_words import routine_words, when_words
from web.practice.step_words import step_data, usual_talk_data
from web.practice.target_words import step_words
from web.programs.models import ProgramVersion

STROKES = {
    Outcome.KEPT: Stroke.KEPT,
    Outcome.SHORT: Stroke.SHORT,
    Outcome.STOPPED: Stroke.STOPPED,
    Outcome.OPEN: Stroke.SHORT,
}
LOOKED_BACK = 10


def done_since(client_id, *, since: date) -> list[Done]:
    """Home sessions from a day on as strokes; one left open counts if anything was held."""
    rows = (
        HomeSession.objects.filter(client_id=client_id, practice_day__gte=since)
        .annotate(held=Count("attempts"))
        .filter(~Q(outcome=Outcome.OPEN) | Q(held__gt=0))
        .order_by("started_at")
    )
    return [Done(row.practice_day, STROKES[Outcome(row.outcome)], row.routine) for row in rows]


def recent_held(client_id) -> tuple[list[HomeSession], list[Attempt]]:
    """The last home sessions in which something was held, newest first, and their attempts."""
    own = Count("attempts", filter=~Q(attempts__step_id=USUAL_TALK))
    rows = HomeSession.objects.filter(client_id=client_id).annotate(held=own)
    attempts = attempts_in(rows.filter(held__gt=0).order_by("-started_at")[:LOOKED_BACK])
    sessions = {attempt.home_session_id: attempt.home_session for attempt in attempts}
    return sorted(sessions.values(), key=lambda one: one.started_at, reverse=True), attempts


def attempts_in(sessions: QuerySet[HomeSession]) -> list[Attempt]:
    """Attempts of these home sessions with their measurements, in order; the newest correction of
    each is its seconds, and `corrected` says so. What was measured stays in the measurement."""
    newest = Correction.objects.filter(attempt=OuterRef("pk")).order_by("-at")
    held_s = newest.values_list(F("offset_s") - F("onset_s"))[:1]
    rows = Attempt.objects.filter(home_session__in=sessions.values("pk"))
    rows = rows.annotate(corrected_s=Subquery(held_s))
    attempts = list(
        rows.select_related("measurement", "home_session").order_by("started_at", "place")
    )
    for attempt in attempts:
        if attempt.corrected_s is not None:
            attempt.corrected = True
            attempt.seconds = round(attempt.corrected_s, 2)
    return [*attempts]


def last_power_attempts(client_id, program: Program) -> list[Attempt]:
    """Attempts of the newest home session in which a graded note was held; a session that was
    broken off before does not hide the ones behind it."""
    step = program.main_step
    sessions, attempts = recent_held(client_id)
    for session in sessions:
        own = [a for a in attempts if a.home_session_id == session.pk]
        if step and any(a.seconds and str(a.step_id) == step.step_id for a in own):
            return own
    return []


@dataclass(frozen=True)
class Practice:
    """The recent home sessions of a client, newest first, with what was held and said in them:
    `said` is every answer about strain in them and of the last 14 days."""

    sessions: list[HomeSession]
    attempts: list[Attempt]
    references: dict[str, float]
    said: list[Entry]

    @cached_property
    def strain(self) -> dict:
        """Mean throat strain of each home session by its id; unanswered sessions are absent."""
        by_session: dict = {}
        for one in self.said:
            by_session.setdefault(one.home_session_id, []).append(one.value)
        return {session_id: mean(values) for session_id, values in by_session.items()}


def practice_of(client_id, today: date, versions: Iterable[ProgramVersion]) -> Practice:
    """Read the last home sessions in four queries; `versions`: all of the client's."""
    sessions, attempts = recent_held(client_id)
    since = today - timedelta(days=STRAIN_DAYS.number)
    asked = Q(home_session__in=[s.pk for s in sessions]) | Q(home_session__practice_day__gte=since)
    said = Entry.objects.filter(asked, client_id=client_id, kind="strain")
    return Practice(
        sessions=sessions,
        attempts=attempts,
        references=level_references(client_id, versions),
        said=list(said.select_related("home_session")),
    )


def graded_sessions(
    practice: Practice, program: Program, *, usual_with_tremor: float | None = None
) -> list[SessionFigures]:
    """The recent home sessions at the current rung as the rules of soft holds see them, oldest
    first: those after the last stop sign only."""
    step = program.soft_holds
    if step is None or step.grade is None:
        return []
    graded = []
    for session in reversed(_since_stop(practice.sessions)):
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
                    usual_with_tremor=usual_with_tremor,
                )
            )
    return graded


def _since_stop(sessions: list[HomeSession]) -> list[HomeSession]:
    """The home sessions after the newest with a stop sign, newest first."""
    return list(itertools.takewhile(lambda session: not session.stop_sign, sessions))


def strains_said(
    client: Client, practice: Practice, versions: Iterable[ProgramVersion]
) -> list[StrainSaid]:
    """Every answer about throat strain with the family of its step: a task the clinic adapted is of
    the family it was adapted from, a step may stand in an earlier version."""
    tasks = catalogue_of(client.clinic)
    families = {
        step.step_id: tasks[step.task].family
        for version in versions
        for step in version.program.all_steps
        if step.task in tasks
    }
    return [
        StrainSaid(
            day=one.home_session.practice_day,
            value=float(one.value),
            step_id=str(one.step_id),
            family=families.get(str(one.step_id)),
        )
        for one in practice.said
    ]


def open_signs(client_id, *, but: HomeSession | None = None) -> list[OpenSign]:
    """The stop signs nobody has cleared, each with the step it came with."""
    rows = HomeSession.objects.filter(client_id=client_id, stop_cleared_at=None)
    rows = rows.exclude(stop_sign="").prefetch_related("entries")
    found = []
    for row in rows:
        if but is not None and row.pk == but.pk:
            continue
        said = [e.step_id for e in row.entries.all() if e.kind == "stop"]
        step_id = str(said[-1]) if said and said[-1] else None
        found.append(OpenSign(StopSign(row.stop_sign), step_id))
    return found


@dataclass(frozen=True)
class PracticableRoutine:
    """What of a routine does not rest now: its steps, and the one for a bad day."""

    routine: Routine
    steps: tuple[Step, ...]
    short_day: Step | None


@dataclass(frozen=True)
class Practicable:
    """What a client may do now: every routine, what rests after a stop sign, what no line and no
    prompt may ask for."""

    routines: tuple[PracticableRoutine, ...]
    resting: tuple[Step, ...]
    withheld: frozenset[Touch]

    def of(self, key: str) -> PracticableRoutine:
        """The routine of that key; PlanError("routine_unknown")."""
        for one in self.routines:
            if one.routine.key == key:
                return one
        raise PlanError("routine_unknown", came=key, known=[o.routine.key for o in self.routines])


def practicable(client: Client, program: Program, *, but: HomeSession | None = None) -> Practicable:
    """What a client may do of a program now; `but`: the home session whose own sign is left out."""
    signs = open_signs(client.pk, but=but)
    tasks = catalogue_of(client.clinic)
    known = {step.step_id for step in program.all_steps}
    held = [one if one.step_id in known else replace(one, step_id=None) for one in signs]

    def touched(step: Step) -> frozenset[Touch]:
        return touches_of(step, tasks)

    resting = tuple(step for step in program.all_steps if rests(step, held, touched))
    return Practicable(
        routines=tuple(
            PracticableRoutine(
                routine=one,
                steps=tuple(step for step in one.steps if step not in resting),
                short_day=None if one.short_day in resting else one.short_day,
            )
            for one in program.routines
        ),
        resting=resting,
        withheld=withheld(signs),
    )


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
                calm=best is not None
                and _calm(figures_of(best, references), strong=step.level is not None),
                all_s=tuple(a.seconds for a in held if a.seconds),
            )
        )
    return bests


def _calm(figures: HoldFigures, *, strong: bool) -> bool:
    """Steady and, of a soft hold, no louder than its reference; strength is asked of strong ones."""
    steady = figures.pitch_sd_semitones
    over = None if strong else figures.level_over_probe_db
    return (
        steady is not None
        and steady <= HOLD_PITCH_SD.number
        and (over is None or over <= HOLD_LEVEL_OVER_PROBE.number)
    )


def done_today(client: Client, today: date) -> Counter[str]:
    """Home sessions kept, shortened or stopped on that local date, by the key of the routine."""
    done = [Outcome.KEPT, Outcome.SHORT, Outcome.STOPPED]
    rows = HomeSession.objects.filter(client=client, practice_day=today, outcome__in=done)
    return Counter(rows.values_list("routine", flat=True))


def next_due(
    can: Practicable, asked: Mapping[str, int], done: Mapping[str, int]
) -> PracticableRoutine:
    """The first routine that is still due today, else the first of which something can be done."""

    def due(one: PracticableRoutine) -> bool:
        return asked.get(one.routine.key, 0) > done.get(one.routine.key, 0)

    able = [one for one in can.routines if one.steps] or list(can.routines)
    return next(filter(due, able), able[0])


@dataclass(frozen=True)
class RoutineToday:
    """A routine as Today shows it: how often it is asked for and done today, its minutes, its steps
    in the client's words."""

    key: str
    name: str
    when: str
    asked: int
    done: int
    minutes: float
    steps: list[tuple[Step, str]]
    short_day: tuple[Step, str] | None

    @property
    def left(self) -> int:
        return max(self.asked - self.done, 0)

    @property
    def length(self) -> str:
        """How long it takes, in words."""
        whole = round(self.minutes)
        if not whole:
            return _("under a minute")
        return ngettext("about %(count)s minute", "about %(count)s minutes", whole) % {
            "count": whole
        }

    @property
    def turn(self) -> int:
        """Which of today's the next one is, from 1."""
        return self.done + 1


def due_today(
    can: Practicable, asked: Mapping[str, int], done: Mapping[str, int]
) -> list[RoutineToday]:
    """Every routine, those that are still due first."""
    found = [
        RoutineToday(
            key=one.routine.key,
            name=routine_words(one.routine),
            when=when_words(one.routine),
            asked=asked.get(one.routine.key, 0),
            done=done.get(one.routine.key, 0),
            minutes=length_of(one.steps).minutes,
            steps=[(step, step_words(step)) for step in one.steps],
            short_day=(one.short_day, step_words(one.short_day)) if one.short_day else None,
        )
        for one in can.routines
    ]
    return sorted(found, key=lambda one: not one.left)


def bundle_of(
    session: HomeSession, version: ProgramVersion, *, short_day: bool = False
) -> dict[str, Any]:
    """Everything the player needs for one home session, in plain data, without the steps that rest;
    on a bad day only the step that stands for the whole, where the routine has one. Before strong
    work each device first takes usual talk: `usual_talk`, unless it is in `known_talk`."""
    program = on_day(version.program, session.practice_day)
    now = practicable(session.client, program, but=session).of(session.routine)
    steps = (now.short_day,) if short_day and now.short_day else now.steps
    strong = any(step.level for step in steps)
    return {
        "session_id": str(session.pk),
        "routine": session.routine,
        "steps": [step_data(step, program.a4_hz) for step in steps],
        "a4_hz": program.a4_hz,
        "known_devices": sorted(level_references(session.client_id)),
        "usual_talk": usual_talk_data() if strong else None,
        "known_talk": sorted(conversations(session.client_id)) if strong else [],
    }
