"""What pages and rules read of home practice."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import cached_property
from statistics import mean

from django.db.models import (
    Count,
    DateTimeField,
    Exists,
    ExpressionWrapper,
    F,
    OuterRef,
    Q,
    QuerySet,
    Subquery,
    Value,
    Window,
)
from django.db.models.functions import RowNumber

from core.dose.tide import Done, Stroke
from core.program.program import Program
from core.program.step import Step
from core.reference.values import HOLD_LEVEL_OVER_PROBE, HOLD_PITCH_SD, STRAIN_DAYS
from web.practice.models import (
    USUAL_TALK,
    Attempt,
    Correction,
    Entry,
    HomeSession,
    Outcome,
)
from web.practice.sessions.levels import conversations, device_of, level_references, resets_of
from web.practice.sessions.remarks import left_out
from web.programs.models import ProgramVersion

STROKES = {
    Outcome.KEPT: Stroke.KEPT,
    Outcome.SHORT: Stroke.SHORT,
    Outcome.STOPPED: Stroke.STOPPED,
    Outcome.OPEN: Stroke.SHORT,
}
LOOKED_BACK_DAYS = 60
BROKEN_OFF = 10
"""So many home sessions of a routine are looked through for one in which a graded note was held."""


def done_since(client_id, *, since: date) -> list[Done]:
    """Home sessions from a day on as strokes; one left open counts if anything was held."""
    rows = (
        HomeSession.objects.filter(client_id=client_id, practice_day__gte=since)
        .annotate(held=Count("attempts"))
        .filter(~Q(outcome=Outcome.OPEN) | Q(held__gt=0))
        .order_by("started_at")
    )
    return [Done(row.practice_day, STROKES[Outcome(row.outcome)], row.routine) for row in rows]


def recent_held(client_id, *, most: int) -> tuple[list[HomeSession], list[Attempt]]:
    """The last home sessions of each routine in which something was held, newest first, and their
    attempts; it is looked back 60 days from the client's last."""
    days = HomeSession.objects.filter(client_id=client_id).order_by("-practice_day")
    newest_day = Subquery(days.values("practice_day")[:1])
    since = ExpressionWrapper(
        newest_day - Value(timedelta(days=LOOKED_BACK_DAYS)), output_field=DateTimeField()
    )
    own = Attempt.objects.filter(home_session=OuterRef("pk")).exclude(step_id=USUAL_TALK)
    held = HomeSession.objects.filter(Exists(own), client_id=client_id, practice_day__gte=since)
    place = Window(RowNumber(), partition_by=F("routine"), order_by=F("started_at").desc())
    newest = held.annotate(place=place).filter(place__lte=most)
    attempts = attempts_in(HomeSession.objects.filter(pk__in=newest.values("pk")))
    sessions = {attempt.home_session_id: attempt.home_session for attempt in attempts}
    return sorted(sessions.values(), key=lambda one: one.started_at, reverse=True), attempts


def attempts_in(sessions: QuerySet[HomeSession]) -> list[Attempt]:
    """Attempts of these home sessions with their measurements, in order; the newest correction of
    each is its seconds, and `corrected` says so. What was measured stays in the measurement. `left_out`:
    a clinician has left it, or its home session, out of figures."""
    newest = Correction.objects.filter(attempt=OuterRef("pk")).order_by("-at")
    held_s = newest.values_list(F("offset_s") - F("onset_s"))[:1]
    rows = Attempt.objects.filter(home_session__in=sessions.values("pk"))
    rows = rows.annotate(corrected_s=Subquery(held_s), is_left_out=left_out())
    attempts = list(
        rows.select_related("measurement", "home_session").order_by("started_at", "place")
    )
    for attempt in attempts:
        attempt.left_out = attempt.is_left_out
        if attempt.corrected_s is not None:
            attempt.corrected = True
            attempt.seconds = round(attempt.corrected_s, 2)
    return [*attempts]


def last_power_attempts(client_id, program: Program) -> list[Attempt]:
    """Attempts of the newest home session in which a graded note was held; a session that was
    broken off before does not hide the ones behind it."""
    step = program.main_step
    sessions, attempts = recent_held(client_id, most=BROKEN_OFF)
    for session in sessions:
        own = [a for a in attempts if a.home_session_id == session.pk and not a.left_out]
        if step and any(a.seconds and str(a.step_id) == step.step_id for a in own):
            return own
    return []


@dataclass(frozen=True)
class RecentPractice:
    """The recent home sessions of a client, newest first, with what was held and said in them:
    `said` is every answer about strain in them and of the last 14 days."""

    sessions: list[HomeSession]
    attempts: list[Attempt]
    references: dict[str, float]
    talk: dict[str, float]
    said: list[Entry]

    @cached_property
    def strain(self) -> dict:
        """Mean throat strain of each home session by its id; unanswered sessions are absent."""
        by_session: dict = {}
        for one in self.said:
            by_session.setdefault(one.home_session_id, []).append(one.value)
        return {session_id: mean(values) for session_id, values in by_session.items()}


def strain_said(client_id, today: date) -> list[Entry]:
    """Every throat strain answer in the days the rules look back over."""
    since = today - timedelta(days=STRAIN_DAYS.number)
    lately = HomeSession.objects.filter(client_id=client_id, practice_day__gte=since)
    said = Entry.objects.filter(home_session__in=lately, kind="strain", step_id__isnull=False)
    return list(said.select_related("home_session"))


def practice_of(client_id, today: date, versions: Sequence[ProgramVersion]) -> RecentPractice:
    """Read the last home session of each routine; `versions`: all of the client's."""
    sessions, attempts = recent_held(client_id, most=1)
    since = today - timedelta(days=STRAIN_DAYS.number)
    looked_at = Q(pk__in=[s.pk for s in sessions]) | Q(practice_day__gte=since)
    of_them = HomeSession.objects.filter(looked_at, client_id=client_id)
    said = Entry.objects.filter(home_session__in=of_them, kind="strain")
    resets = resets_of(client_id)
    strong = any(step.level for one in versions for step in one.program.all_steps)
    return RecentPractice(
        sessions=sessions,
        attempts=attempts,
        references=level_references(client_id, versions, resets),
        talk=conversations(client_id, resets) if strong else {},
        said=list(said.select_related("home_session")),
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
    rows = [a for a in attempts if str(a.step_id) == step.step_id and a.seconds and not a.left_out]
    bests = []
    for place in range(len(step.holds)):
        held = [a for a in rows if a.place == place]
        best = max(held, key=lambda a: a.seconds or 0.0, default=None)
        bests.append(
            BestHold(
                place=place,
                seconds=best.seconds if best else None,
                calm=best is not None and _calm(best, references, strong=step.level is not None),
                all_s=tuple(a.seconds for a in held if a.seconds),
            )
        )
    return bests


def _calm(attempt: Attempt, references: dict[str, float], *, strong: bool) -> bool:
    """Steady and, of a soft hold, no louder than its reference on the same device; strength is asked of
    strong ones."""
    measured = attempt.measurement
    if measured is None or measured.f0_sd_semitones is None:
        return False
    reference, level = references.get(device_of(attempt)), measured.level_mean_db
    known = not strong and reference is not None and level is not None
    over = (level or 0.0) - (reference or 0.0) if known else 0.0
    return measured.f0_sd_semitones <= HOLD_PITCH_SD.number and over <= HOLD_LEVEL_OVER_PROBE.number
