"""Parts of a client's course, as input for the grading rules."""

from collections.abc import Iterable, Sequence
from datetime import date
from typing import Any
from zoneinfo import ZoneInfo

from core.grading.act import Act
from core.grading.baseline_change import BaselineChange, baseline_changes
from core.grading.history import Decided, PastSession, StrainAnswer
from core.safety.inferred import well_again_on
from core.safety.screening import Screening
from core.safety.stop import StopSign
from web.clients.baseline.measured import MeasuredView
from web.clients.models import Client, Visit
from web.practice.models import Entry, HomeSession, Outcome
from web.review.models import Decision, DecisionVerdict
from web.review.results.since_first import baseline_figures
from web.review.usecases.session_results import STEPS


def answers(sittings: Sequence[PastSession], said: Iterable[Entry]) -> tuple[StrainAnswer, ...]:
    """What was said of throat strain: of late as it came, also where a home session is open; before that
    as the home sessions keep it."""
    late = [
        StrainAnswer(
            day=one.home_session.practice_day, step_id=str(one.step_id), strain=float(one.value)
        )
        for one in said
    ]
    first = min((one.day for one in late), default=date.max)
    early = [
        StrainAnswer(day=one.day, step_id=done.step_id, strain=done.said["strain"])
        for one in sittings
        if one.day < first
        for done in one.steps
        if "strain" in done.said
    ]
    return (*early, *late)


def well_again(screening: Screening | None, active_since: date, today: date) -> date | None:
    """The day an acute laryngitis was over, where the program began before."""
    day = well_again_on(screening, today) if screening else None
    return day if day is not None and day > active_since else None


def phonation_change(measured: Sequence[MeasuredView]) -> BaselineChange | None:
    """Phonation time at the latest baseline against the first."""
    if len(measured) < 2:
        return None
    found = baseline_changes(baseline_figures(measured[0]), baseline_figures(measured[-1]))
    return next((one for one in found if one.code == "phonation"), None)


def sittings_of(client: Client, *, since: date) -> list[PastSession]:
    """The home sessions from a day on in which something was held, or that a stop sign ended, oldest
    first."""
    rows = HomeSession.objects.filter(client=client, practice_day__gte=since)
    rows = rows.select_related("result").order_by("started_at")
    found, zone = [], ZoneInfo(client.time_zone)
    for number, row in enumerate(rows):
        result = getattr(row, "result", None)
        steps = STEPS.validate_python(result.steps) if result else ()
        if not steps and row.outcome == Outcome.OPEN:
            continue
        found.append(
            PastSession(
                key=str(row.pk),
                day=row.practice_day,
                begun=row.started_at.astimezone(zone).time().replace(microsecond=0),
                number=number,
                routine=row.routine,
                short=row.outcome == Outcome.SHORT or not (result and result.whole),
                sign=StopSign(row.stop_sign) if row.stop_sign else None,
                sign_step=result.sign_step if result else None,
                hoarser=row.hoarser,
                soft_high_lost=row.soft_high_lost,
                discomfort=row.discomfort,
                steps=steps,
            )
        )
    return found


def decided_of(rows: Iterable[Decision]) -> list[Decided]:
    """What was decided, once for each step; what was refused counts as decided to stay. A contact counts
    from the day it was closed: what was said and decided."""
    return [
        Decided(act=act, day=day, step_id=step)
        for row in rows
        for act, day in (_as_decided(row),)
        for step in (*row.steps, "")
    ]


def _as_decided(row: Decision) -> tuple[Act, date]:
    if row.verdict == DecisionVerdict.REFUSED:
        return Act.STAY, row.day
    if row.act == Act.CONTACT and row.to_do:
        return Act.STAY, row.day
    closed = row.done.day if row.act == Act.CONTACT and hasattr(row, "done") else None
    return Act(row.act), closed or row.day


def visits_of(client: Client) -> list[list[Any]]:
    """Of each visit, oldest first: day, whether the goal was held, whether the client corrects
    themself, the day of the next, the note."""
    rows = Visit.objects.filter(client=client).order_by("day", "at")
    return [
        [
            row.day.isoformat(),
            row.goal_held,
            row.corrects,
            row.next_on.isoformat() if row.next_on else None,
            row.note,
        ]
        for row in rows
    ]
