"""Home sessions from a paper sheet or a file are kept: in one transaction, each try once, whatever is sent again."""

import hashlib
import uuid
from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from zoneinfo import ZoneInfo

from django.db import transaction
from django.db.models import Q
from django.utils.translation import gettext as _

from core.catalogue.tasks import Task, in_the_day
from core.dose.calendar import existing, times_of_day
from core.dose.taper import on_day
from core.errors import PlanError
from core.program.routine import Routine
from core.program.step import Step
from core.sheets.rows import OLDEST_DAYS
from core.sheets.sitting import PaperSession, PaperTry
from web.clients.models import Client
from web.clients.signals import record_changed
from web.clinic.clock import local_date
from web.clinic.models import User
from web.clinic.refusal import UsecaseRefused
from web.library.queries import catalogue_of
from web.measuring.models import Taken
from web.practice.models import Attempt, Entry, HomeSession, Outcome, PaperLog, State
from web.practice.usecases.attempt_row import attempt_row
from web.practice.usecases.notify_stop import notify_stop
from web.practice.usecases.save_entry import SHARE_KEPT
from web.programs.models import ProgramVersion

_IDS = uuid.UUID("5c0de000-7a1c-4000-8000-000000000003")
FROM_PAPER = "paper"
"""Of a home session's clock: nothing but the day is known."""
_HOW_IT_ENDED = ["stop_sign", "stop_cleared_at", "hoarser", "ended_at", "outcome"]


@dataclass(frozen=True, slots=True)
class OnPaper:
    """A home session read from paper, with the program version it followed."""

    version: ProgramVersion
    sitting: PaperSession


@dataclass(frozen=True, slots=True)
class SavedPaper:
    """How many home sessions and attempts were kept now and were there already; differs: what is kept otherwise
    already, as (the name of the column, the step's name), and stays as it is."""

    sessions: int
    attempts: int
    again: int
    differs: tuple[tuple[str, str], ...]


def session_id_of(client_id, column_key: str) -> uuid.UUID:
    """The id of the home session of a column: the same whenever the column is sent."""
    return uuid.uuid5(_IDS, f"{client_id} {column_key}")


@transaction.atomic
def save_paper_session(
    client: Client, written: Sequence[OnPaper], *, how: str, by: User, now: datetime
) -> SavedPaper:
    """Keep what was written down; what is kept already stays as it is. UsecaseRefused, and nothing is kept, for a
    day to come or too long ago and for what is not in the version."""
    Client.objects.select_for_update(no_key=True).get(pk=client.pk)  # two who type the same sheet
    written = [one for one in written if not one.sitting.empty]
    if not written:
        return SavedPaper(0, 0, 0, ())
    today = local_date(now, client.time_zone)
    keeping = [_Keeping(client, one, today=today, now=now) for one in written]
    ids = [one.session_id for one in keeping]
    known = {row.pk: row for row in HomeSession.objects.filter(pk__in=ids)}
    attempts = Attempt.objects.filter(home_session__in=ids).values_list("pk", "sha256")
    before: dict[uuid.UUID, str] = dict(attempts)
    fresh = [attempt for one in keeping for attempt in one.attempts if attempt.pk not in before]
    HomeSession.objects.bulk_create(one.session for one in keeping if one.session_id not in known)
    Attempt.objects.bulk_create(fresh)
    entries = [entry for one in keeping for entry in one.entries(now)]
    rows = Entry.objects.filter(pk__in=[one.pk for one in entries]).values_list("pk", "sha256")
    said: dict[uuid.UUID, str] = dict(rows)
    Entry.objects.bulk_create(one for one in entries if one.pk not in said)
    done: dict[uuid.UUID, Counter[str]] = defaultdict(Counter)
    for session_id, step_id in Attempt.objects.filter(
        ~Q(state=State.INTERRUPTED), home_session__in=ids
    ).values_list("home_session_id", "step_id"):
        done[session_id][str(step_id)] += 1
    tasks = catalogue_of(client.clinic)
    stopped = []
    for one in keeping:
        one.session = known.get(one.session_id, one.session)
        stopped += [one.session] if one.end(done[one.session_id], tasks, now) else []
    HomeSession.objects.bulk_update([one.session for one in keeping], _HOW_IT_ENDED)
    for session in stopped:
        notify_stop(session, now=now)
    differs = [
        (one.column, one.names[str(attempt.step_id)])
        for one in keeping
        for attempt in one.attempts
        if before.get(attempt.pk, attempt.sha256) != attempt.sha256
    ]
    columns = {one.session_id: one.column for one in keeping}
    differs += [
        (columns[one.home_session_id], _("throat strain"))
        for one in entries
        if said.get(one.pk, one.sha256) != one.sha256
    ]
    made = len([pk for pk in ids if pk not in known])
    days = [one.sitting.column.day for one in written]
    if made or fresh:
        PaperLog.objects.create(
            clinic_id=client.clinic_id,
            client=client,
            how=how,
            version=written[-1].version,
            first=min(days),
            last=max(days),
            home_sessions=made,
            attempts=len(fresh),
            by=by,
            at=now,
        )
    record_changed.send(HomeSession, client_id=client.pk, sessions=ids)
    again = [a for one in keeping for a in one.attempts if before.get(a.pk) == a.sha256]
    return SavedPaper(made, len(fresh), len(again), tuple(dict.fromkeys(differs)))


class _Keeping:
    """One home session on its way into the record: its rows, made but not yet saved."""

    def __init__(self, client: Client, written: OnPaper, *, today: date, now: datetime) -> None:
        self.client, self.sitting, self.version = client, written.sitting, written.version
        column = self.sitting.column
        self.column = column.key
        if column.day > today:
            raise UsecaseRefused(_("A day that has not come yet cannot be logged."))
        if (today - column.day).days > OLDEST_DAYS:
            words = _("Days of more than %(most)s days ago cannot be logged.")
            raise UsecaseRefused(words % {"most": OLDEST_DAYS})
        if self.version.client_id != client.pk:
            raise UsecaseRefused(_("This version is not of this client."))
        self.routine = self._routine(column.routine)
        steps = {step.step_id: step for step in self.routine.all_steps}
        self.names = {step_id: step.name for step_id, step in steps.items()}
        self.voiced = {step_id for step_id, step in steps.items() if step.voiced}
        self.session_id = session_id_of(client.pk, column.key)
        at = min(self._starts_at(), now)
        self.session = HomeSession(
            pk=self.session_id,
            clinic_id=client.clinic_id,
            client=client,
            version=self.version,
            routine=column.routine,
            started_at=at,
            practice_day=column.day,
            clock=FROM_PAPER,
        )
        self.attempts = [
            self._attempt(one, steps, at=min(at + timedelta(seconds=20 * place), now), now=now)
            for place, one in enumerate(self.sitting.tries)
        ]

    def _routine(self, key: str) -> Routine:
        try:
            return self.version.program.routine(key)
        except PlanError as error:
            raise UsecaseRefused(_("This routine is not in that version.")) from error

    def _starts_at(self) -> datetime:
        """The time of day it was asked for at; where the day is too full, three hours after the one before."""
        column = self.sitting.column
        try:
            at = times_of_day(self.routine.dose, column.turn)[column.turn - 1]
        except PlanError:
            at = time(min(9 + 3 * (column.turn - 1), 23))
        return existing(column.day, at, ZoneInfo(self.client.time_zone))

    def _attempt(
        self, one: PaperTry, steps: dict[str, Step], *, at: datetime, now: datetime
    ) -> Attempt:
        step = steps.get(one.step_id)
        if step is None or not 0 <= one.place < step.target.attempts:
            raise UsecaseRefused(_("A step of this sheet is not in that version."))
        said = f"{one.seconds} {one.count}"
        return attempt_row(
            self.session,
            step,
            attempt_id=uuid.uuid5(self.session_id, f"{one.step_id} {one.place} {one.repetition}"),
            place=one.place,
            repetition=one.repetition,
            taken=Taken.STOPWATCH if one.timed else Taken.PAPER,
            started_at=at,
            clock=FROM_PAPER,
            received_at=now,
            sha256=hashlib.sha256(said.encode()).hexdigest(),
            seconds=one.seconds,
            count=one.count,
        )

    def entries(self, now: datetime) -> list[Entry]:
        """Strain after every voiced step that was tried, where none was written down after each that is in it; and a
        stop sign."""
        said, found = self.sitting, []
        if said.strain is not None:
            tried = dict.fromkeys(one.step_id for one in said.tries if one.step_id in self.voiced)
            asked_after = list(tried) or sorted(self.voiced)
            found = [self._entry("strain", one, said.strain, now) for one in asked_after]
        if said.sign is not None:
            found.append(self._entry("stop", None, said.sign.value, now))
        return found

    def end(self, done: Mapping[str, int], tasks: Mapping[str, Task], now: datetime) -> bool:
        """How the home session ended, by all that is kept of it; whether a stop sign is new in it."""
        session, said = self.session, self.sitting
        new_sign = said.sign is not None and session.stop_sign != said.sign.value
        if new_sign and said.sign is not None:
            session.stop_sign, session.stop_cleared_at = said.sign.value, None
        session.hoarser = said.hoarser or session.hoarser
        session.ended_at = session.ended_at or min(session.started_at + timedelta(minutes=10), now)
        session.outcome = Outcome.SHORT if said.short else self._outcome(done, tasks)
        if session.stop_sign:
            session.outcome = Outcome.STOPPED
        return new_sign

    def _outcome(self, done: Mapping[str, int], tasks: Mapping[str, Task]) -> str:
        """Kept from the share of the attempts that were asked for on that day, what is left for the day aside."""
        program = on_day(self.version.program, self.sitting.column.day)
        steps = program.routine(self.routine.key).steps
        now = [step for step in steps if not in_the_day(step.task, tasks)]
        tried = sum(min(done.get(step.step_id, 0), step.attempts) for step in now)
        asked = sum(step.attempts for step in now)
        return Outcome.KEPT if tried >= SHARE_KEPT * asked else Outcome.SHORT

    def _entry(self, kind: str, step_id: str | None, value: int | str, now: datetime) -> Entry:
        return Entry(
            pk=uuid.uuid5(self.session_id, f"{kind} {step_id or value}"),
            clinic_id=self.client.clinic_id,
            client=self.client,
            home_session_id=self.session_id,
            kind=kind,
            step_id=step_id,
            value=value,
            sha256=hashlib.sha256(f"{kind} {value}".encode()).hexdigest(),
            at=now,
        )
