"""What is asked before a home session, once a day, and what was answered."""

from collections.abc import Iterable, Sequence
from datetime import date, datetime

from django.db.models import QuerySet

from core.dose.minutes import length_of
from core.program.step import Step
from core.safety.screening import RedFlag
from core.safety.stop import EMERGENCY_FLAGS, EMERGENCY_SIGNS
from web.clients.intake.intake_file import IntakeFile
from web.clients.models import Client, StoredScreening
from web.practice.models import Entry, HomeSession

ASKS_FROM_MINUTES = 2.0
"""A reset of half a minute asks nothing."""


def asks(steps: Sequence[Step], *, stop_sign: bool = False) -> bool:
    """Whether a home session of these steps begins with the questions: always while a stop sign stands."""
    return stop_sign or length_of(steps).minutes >= ASKS_FROM_MINUTES


def answered_on(client: Client, day: date) -> bool:
    """Whether they were answered on that day already."""
    of_day = HomeSession.objects.filter(client=client, practice_day=day)
    return Entry.objects.filter(home_session__in=of_day, kind="before").exists()


def asks_medication(file: IntakeFile) -> bool:
    """Whether the time since the last medication is asked: where times of it are known."""
    return bool(file.living.medication_times)


def stopped(client: Client) -> QuerySet[HomeSession]:
    """The home sessions with a stop sign nobody has cleared."""
    rows = HomeSession.objects.filter(client=client, stop_cleared_at=None)
    return rows.exclude(stop_sign="")


def flags_said(sessions: Iterable[HomeSession], *, since: datetime | None = None) -> list[RedFlag]:
    """The red flags that were said in these home sessions, each once; since: only those said after."""
    said = Entry.objects.filter(home_session__in=list(sessions), kind="before").order_by("at")
    if since is not None:
        said = said.filter(at__gt=since)
    flags = [RedFlag(one) for row in said for one in row.value.get("flags", ())]
    return list(dict.fromkeys(flags))


def flags_unanswered(client: Client, sessions: Iterable[HomeSession]) -> list[RedFlag]:
    """Those that nobody has screened for since they were said."""
    last = StoredScreening.objects.filter(client=client).order_by("at", "asked_on", "pk").last()
    return flags_said(sessions, since=last.at if last else None)


def is_emergency(session: HomeSession) -> bool:
    """Whether a stopped home session shows the emergency number first."""
    if session.stop_sign in EMERGENCY_SIGNS:
        return True
    return bool(EMERGENCY_FLAGS & set(flags_said([session])))
