"""The record of a client as the rules of grading read it."""

from collections.abc import Iterable, Mapping, Sequence
from datetime import date, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from core.dose.tide import Done
from core.grading.act import Act
from core.grading.between import Compared, between
from core.grading.history import Answer, Decided, History, Sitting, VisitHeld
from core.grading.rule import Rules
from core.safety.circumstances import Circumstance, Living
from core.safety.condition import Condition
from core.safety.conditions import known_conditions
from core.safety.inferred import well_again_on
from core.safety.screening import RedFlag, Screening
from core.safety.stop import OpenSign, StopSign
from web.clients.measured import MeasuredView
from web.clients.models import Client, Visit
from web.library.queries import catalogue_of
from web.practice.models import Entry, HomeSession, Outcome
from web.programs.models import ProgramVersion
from web.programs.queries import prescribed_stretches, rung_changes
from web.review.deciding.rule_numbers import otherwise, rules_with
from web.review.models import Decision, Verdict
from web.review.results.session_results import STEPS
from web.review.results.since_first import baseline_figures

LOOKED_BACK_DAYS = 84
"""The rules look at most so far back; longer ago only days count."""


def history_of(
    client: Client,
    versions: Sequence[ProgramVersion],
    today: date,
    *,
    recent: Sequence[Done],
    screening: Screening | None,
    measured: Sequence[MeasuredView],
    signs: Sequence[OpenSign],
    families: Mapping[str, str],
    visits: Sequence[Sequence[Any]],
    decided: Iterable[Decision],
    said: Iterable[Entry],
    living: Living | None = None,
    flags: Iterable[str] = (),
    since: date | None = None,
) -> History | None:
    """The history of a client with a program; None without one. recent: the home sessions of the last
    60 days as strokes; measured: the first and the latest baseline; signs: stop signs not cleared; families,
    visits: as `families_of` and `visits_of` tell them; said: the answers about strain of
    late; living: how the client lives; flags: red flags that were said at home with stop signs nobody has
    cleared; since: how far back home
    sessions are read, where it is not as far as the rules look."""
    if not versions:
        return None
    program = versions[-1].program
    known = known_conditions(screening, today) if screening else frozenset()
    latest = measured[-1].view if measured else None
    tremor = Condition.TREMOR in known
    compared = _compared(measured)
    sittings = sittings_of(client, since=since or today - timedelta(days=LOOKED_BACK_DAYS))
    strokes = {(one.day, one.routine) for one in sittings}
    strain = latest.baseline.throat_strain if latest else None
    recorded = latest.baseline.recorded_at if latest else None
    return History(
        program=program,
        active_since=versions[0].active_from,
        sittings=tuple(sittings),
        answers=_answers(sittings, said),
        stretches=tuple(prescribed_stretches(versions)),
        kept_too=tuple(one for one in recent if (one.day, one.routine) not in strokes),
        families=families,
        conditions=known,
        open_signs=tuple(signs),
        climbs=tuple(rung_changes(versions)),
        decided=tuple(decided_of(decided)),
        visits=tuple(
            VisitHeld(day=date.fromisoformat(day), goal_held=held, corrects=corrects)
            for day, held, corrects, *_ in visits
        ),
        changed_on=versions[-1].active_from if len(versions) > 1 else None,
        strain=None if strain is None else float(strain),
        measured_on=recorded.date() if recorded else None,
        own_sd=latest.probe_sd_semitones if latest and tremor else None,
        open_flags=frozenset(RedFlag(flag) for flag in flags),
        events=tuple(one.on for one in living.events) if living else (),
        injections=(screening.botulinum_on,) if screening and screening.botulinum_on else (),
        hearing_loss=living is not None and Circumstance.HARD_OF_HEARING in living.circumstances,
        well_again_on=_well_again(screening, versions, today),
        gain_real=compared.real if compared else None,
        fell=bool(compared and compared.real and compared.by < 0),
    )


def _answers(sittings: Sequence[Sitting], said: Iterable[Entry]) -> tuple[Answer, ...]:
    """What was said of throat strain: of late as it came, also where a home session is open; before that
    as the home sessions keep it."""
    late = [
        Answer(day=one.home_session.practice_day, step_id=str(one.step_id), strain=float(one.value))
        for one in said
    ]
    first = min((one.day for one in late), default=date.max)
    early = [
        Answer(day=one.day, step_id=done.step_id, strain=done.said["strain"])
        for one in sittings
        if one.day < first
        for done in one.steps
        if "strain" in done.said
    ]
    return (*early, *late)


def _well_again(
    screening: Screening | None, versions: Sequence[ProgramVersion], today: date
) -> date | None:
    """The day an acute laryngitis was over, where the program began before."""
    day = well_again_on(screening, today) if screening else None
    return day if day is not None and day > versions[0].active_from else None


def _compared(measured: Sequence[MeasuredView]) -> Compared | None:
    """Phonation time at the latest baseline against the first."""
    if len(measured) < 2:
        return None
    found = between(baseline_figures(measured[0]), baseline_figures(measured[-1]))
    return next((one for one in found if one.code == "phonation"), None)


def sittings_of(client: Client, *, since: date) -> list[Sitting]:
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
            Sitting(
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


def decisions_of(client: Client) -> list[Decision]:
    """Every decision of a client, oldest first, with what was done about it."""
    return list(Decision.objects.filter(client=client).select_related("done").order_by("day", "at"))


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
    if row.verdict == Verdict.REFUSED:
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


def families_of(client: Client, versions: Sequence[ProgramVersion]) -> dict[str, str]:
    """The family (A–K) of every step of every version: a task the clinic adapted is of the family it
    was adapted from."""
    tasks = catalogue_of(client.clinic)
    return {
        step.step_id: tasks[step.task].family
        for version in versions
        for step in version.program.all_steps
        if step.task in tasks
    }


def rules_for(client: Client) -> Rules:
    """The rules with the clinic's numbers, and the client's own before those."""
    return rules_with(otherwise(client.clinic, client).values())
