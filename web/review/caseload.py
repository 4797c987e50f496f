"""Keeps the caseload row of a client; runs inside the transaction of what changed."""

import itertools
from datetime import date, timedelta
from statistics import median

from django.dispatch import receiver

from core.catalogue.touches import Touch
from core.catalogue.words import Growth
from core.dose.tide import Prescribed, Stroke, TideDay, kept_of, tide_days
from core.formats.program_file import dose_data, dose_of
from core.grading.climb import ClimbAdvice, SessionFigures, climb_advice
from core.grading.need import ClientFacts, Need, need_of
from core.plans.program import Program
from core.plans.step import Grade
from core.safety.condition import Condition
from core.safety.conditions import Doing
from core.safety.gate import Gate, RedFlag, Screening
from core.safety.program_gate import doings_of, program_gate
from web.clients.models import Baseline, Client, ClientAccess
from web.clients.queries import latest_screening
from web.clients.signals import record_changed
from web.clinic import clock
from web.practice.models import HomeSession, SetAside
from web.practice.queries import graded_sessions, practice_of, strokes_of
from web.programs.models import ProgramVersion
from web.programs.queries import prescribed_stretches, versions_of
from web.review.models import CaseloadRow

KEPT_DAYS = 60


@receiver(record_changed)
def refresh_row(sender, client_id, **kwargs) -> None:
    """Compute the row anew from the record."""
    client = Client.objects.select_related("clinic").get(pk=client_id)
    today = clock.local_date(clock.now(), client.time_zone)
    versions = versions_of(client)
    recent = strokes_of(client_id, since=today - timedelta(days=KEPT_DAYS))
    stop = (
        HomeSession.objects.filter(client_id=client_id, stop_cleared_at=None)
        .exclude(stop_sign="")
        .order_by("-started_at")
        .first()
    )
    screening = latest_screening(client)
    stretches = prescribed_stretches(versions)
    program = versions[-1].program if versions else None
    grade = hold_grade(program) if program else None
    graded = graded_sessions(practice_of(client_id), program) if program else []
    advice = advice_for(graded, versions, recent, today, stop_open=stop is not None)
    CaseloadRow.objects.update_or_create(
        client=client,
        defaults={
            "clinic_id": client.clinic_id,
            "stop_sign": stop.stop_sign if stop else "",
            "stop_sign_on": stop.practice_day if stop else None,
            "set_aside": SetAside.objects.filter(client_id=client_id, looked_at=None).count(),
            "has_baseline": Baseline.objects.filter(
                client_id=client_id, recorded_at__isnull=False
            ).exists(),
            "active_since": versions[0].active_from if versions else None,
            "last_session": max((day for day, _stroke in recent), default=None),
            "last_gain": last_climb(versions),
            "ready_to_climb": advice.climb,
            "stretches": [_stretch_data(stretch) for stretch in stretches],
            "recent": [[day.isoformat(), stroke.value] for day, stroke in recent],
            "screening": None
            if screening is None
            else {
                "asked_on": screening.asked_on.isoformat(),
                "larynx_examined_on": _iso(screening.larynx_examined_on),
                "red_flags": screening.red_flags,
                "cleared_from": _iso(screening.cleared_from),
                "voice_rest_until": _iso(screening.voice_rest_until),
                "hoarse_weeks": screening.hoarse_weeks,
                "guardian_consent": screening.guardian_consent,
                "conditions": screening.conditions,
                "program_does": {
                    name: [sorted(does.touches), does.minutes]
                    for name, does in doings_of(program).items()
                }
                if program
                else {},
                "findings": screening.findings,
            },
            "link_made_at": ClientAccess.objects.filter(client_id=client_id, revoked_at=None)
            .values_list("made_at", flat=True)
            .first(),
            "rung_s": grade.value if grade else None,
            "goal_s": grade.goal if grade else None,
        },
    )


def advice_for(
    graded: list[SessionFigures],
    versions: list[ProgramVersion],
    recent: list[tuple[date, Stroke]],
    today: date,
    *,
    stop_open: bool,
) -> ClimbAdvice:
    """The climb in draft for the active program."""
    if not versions:
        return ClimbAdvice(False, ("no program is active",))
    grade = hold_grade(versions[-1].program)
    if grade is None:
        return ClimbAdvice(False, ("no step of held notes is graded: the clinician decides",))
    if grade.rung + 1 >= len(grade.rungs):
        return ClimbAdvice(False, ("the goal is the current rung",))
    first, last = today - timedelta(days=7), today - timedelta(days=1)
    stretches = prescribed_stretches(versions)
    week = tide_days(stretches, recent, first=first, last=last, today=today)
    strains = [s.strain for s in graded if s.strain is not None and (today - s.day).days <= 14]
    return climb_advice(
        graded,
        today=today,
        last_climb=last_climb(versions),
        kept_share_7_days=kept_of(week).share,
        stop_sign_open=stop_open,
        strain_median_14_days=median(strains) if strains else None,
    )


def last_climb(versions: list[ProgramVersion]) -> date | None:
    """The day of the last version that stands on a higher rung than the one before it."""
    pairs = itertools.pairwise(versions)
    days = [b.active_from for a, b in pairs if _climbed(a.program, b.program)]
    return max(days, default=None)


def hold_grade(program: Program) -> Grade | None:
    """The grade of the held notes: what Rounds shows and the climb of rule D is about."""
    step = program.main_step
    return step.grade if step and step.grade and step.grade.growth is Growth.SECONDS else None


def _climbed(before: Program, after: Program) -> bool:
    """Whether any step stands on a higher rung than in the version before."""
    rungs = {step.step_id: step.grade.rung for step in before.steps if step.grade}
    return any(
        step.grade.rung > rungs[step.step_id]
        for step in after.steps
        if step.grade and step.step_id in rungs
    )


def recent_strokes(row: CaseloadRow) -> list[tuple[date, Stroke]]:
    return [(date.fromisoformat(day), Stroke(stroke)) for day, stroke in row.recent]


def days_of(row: CaseloadRow, *, today: date, back: int) -> tuple[TideDay, ...]:
    """The tide days of the last `back` days from a row alone."""
    return tide_days(
        [_stretch(data) for data in row.stretches],
        recent_strokes(row),
        first=today - timedelta(days=back - 1),
        last=today,
        today=today,
    )


def need_from(row: CaseloadRow, client: Client, today: date) -> Need:
    """The need of a client as it stands today."""
    kept = kept_of(days_of(row, today=today, back=14))
    facts = ClientFacts(
        stop_sign_open=bool(row.stop_sign),
        set_aside=row.set_aside,
        gate_closed=not gate_from(row, screening_from(row, client, today), today).opens(""),
        has_baseline=row.has_baseline,
        active_since=row.active_since,
        last_session=row.last_session,
        kept_14_days=kept.kept,
        prescribed_14_days=kept.prescribed,
        added_14_days=kept.added,
        ready_to_climb=row.ready_to_climb,
        last_gain=row.last_gain,
    )
    return need_of(facts, today)


def gate_from(row: CaseloadRow, screening: Screening | None, today: date) -> Gate:
    """The gate of the active program as it stands today, from the row alone."""
    does = (row.screening or {}).get("program_does", {})
    doings = {
        name: Doing(frozenset(map(Touch, touches)), minutes)
        for name, (touches, minutes) in does.items()
    }
    return program_gate(screening, doings, today)


def screening_from(row: CaseloadRow, client: Client, today: date) -> Screening | None:
    """The latest screening as the rules read it, from the row alone."""
    if row.screening is None:
        return None
    return Screening(
        asked_on=date.fromisoformat(row.screening["asked_on"]),
        larynx_examined_on=_date(row.screening["larynx_examined_on"]),
        cleared_from=_date(row.screening["cleared_from"]),
        voice_rest_until=_date(row.screening["voice_rest_until"]),
        red_flags=frozenset(RedFlag(flag) for flag in row.screening["red_flags"]),
        hoarse_weeks=row.screening["hoarse_weeks"],
        minor=client.age_on(today) < 18,
        guardian_consent=row.screening["guardian_consent"],
        conditions=frozenset(map(Condition, row.screening.get("conditions", []))),
    )


def _stretch_data(stretch: Prescribed) -> list:
    return [
        stretch.first.isoformat(),
        _iso(stretch.last),
        dose_data(stretch.dose),
    ]


def _stretch(data: list) -> Prescribed:
    first, last, dose = data
    return Prescribed(first=date.fromisoformat(first), last=_date(last), dose=dose_of(dose))


def _iso(day: date | None) -> str | None:
    return day.isoformat() if day else None


def _date(text: str | None) -> date | None:
    return date.fromisoformat(text) if text else None
