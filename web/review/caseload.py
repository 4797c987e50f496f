"""Keeps the caseload row of a client; runs inside the transaction of what changed."""

from dataclasses import replace
from datetime import date, timedelta

from django.dispatch import receiver
from pydantic import TypeAdapter

from core.catalogue.words import Growth
from core.dose.tide import Done, Prescribed, Stroke, TideDay, kept_of, tide_days
from core.formats.program_file import dose_data, dose_of
from core.grading.need import ClientFacts, Need, need_of
from core.plans.program import Program
from core.plans.step import Grade
from core.safety.circumstances import Living
from core.safety.conditions import Doing
from core.safety.gate import Gate
from core.safety.program_gate import doings_of, program_gate
from core.safety.screening import Screening
from web.clients.models import Client, ClientAccess
from web.clients.queries import (
    BaselineView,
    latest_baseline,
    latest_screening,
    living_of,
    standing_screening,
)
from web.clients.signals import record_changed
from web.clinic import clock
from web.library.queries import catalogue_of
from web.practice.models import HomeSession, SetAside
from web.practice.queries import done_since, practice_of
from web.programs.gates import occasion_with
from web.programs.queries import last_climb, prescribed_stretches, versions_of
from web.review.advice import advice_for
from web.review.models import CaseloadRow

KEPT_DAYS = 60
_SCREENING = TypeAdapter(Screening)
_LIVING = TypeAdapter(Living)
_DOES = TypeAdapter(tuple[Doing, ...])


@receiver(record_changed)
def refresh_row(sender, client_id, **kwargs) -> None:
    """Compute the row anew from the record."""
    client = Client.objects.select_related("clinic").get(pk=client_id)
    today = clock.local_date(clock.now(), client.time_zone)
    versions = versions_of(client)
    recent = done_since(client_id, since=today - timedelta(days=KEPT_DAYS))
    stop = (
        HomeSession.objects.filter(client_id=client_id, stop_cleared_at=None)
        .exclude(stop_sign="")
        .order_by("-started_at")
        .first()
    )
    screening = standing_screening(client, today)
    row = latest_screening(client)
    stretches = prescribed_stretches(versions)
    program = versions[-1].program if versions else None
    grade = hold_grade(program) if program else None
    baseline = latest_baseline(client)
    advice = advice_for(
        client,
        practice_of(client_id, today, versions),
        versions,
        recent,
        today,
        screening=screening,
        baseline=BaselineView.of(baseline, client.age_on(today)) if baseline else None,
        stop_open=stop is not None,
    )
    CaseloadRow.objects.update_or_create(
        client=client,
        defaults={
            "clinic_id": client.clinic_id,
            "stop_sign": stop.stop_sign if stop else "",
            "stop_sign_on": stop.practice_day if stop else None,
            "set_aside": SetAside.objects.filter(client_id=client_id, looked_at=None).count(),
            "has_baseline": baseline is not None,
            "active_since": versions[0].active_from if versions else None,
            "last_session": max((one.day for one in recent), default=None),
            "last_gain": last_climb(versions),
            "ready_to_climb": advice.climb,
            "stretches": [_stretch_data(stretch) for stretch in stretches],
            "recent": [[one.day.isoformat(), one.stroke.value, one.routine] for one in recent],
            "screening": None
            if screening is None or row is None
            else {
                "stands": _SCREENING.dump_python(screening, mode="json"),
                "findings": row.findings,
                "living": _LIVING.dump_python(living_of(row), mode="json"),
                "where": " · ".join(filter(None, (row.whereabouts, row.emergency_contact))),
                "program_does": _DOES.dump_python(
                    doings_of(program, catalogue_of(client.clinic)) if program else (), mode="json"
                ),
            },
            "link_made_at": ClientAccess.objects.filter(client_id=client_id, revoked_at=None)
            .values_list("made_at", flat=True)
            .first(),
            "rung_s": grade.value if grade else None,
            "goal_s": grade.goal if grade else None,
        },
    )


def hold_grade(program: Program) -> Grade | None:
    """The grade of the held notes: what Rounds shows and the climb of rule D is about."""
    step = program.main_step
    return step.grade if step and step.grade and step.grade.growth is Growth.SECONDS else None


def recent_done(row: CaseloadRow) -> list[Done]:
    """The home sessions of the last 60 days, from the row alone."""
    return [
        Done(date.fromisoformat(day), Stroke(stroke), routine)
        for day, stroke, routine in row.recent
    ]


def days_of(row: CaseloadRow, *, today: date, back: int) -> tuple[TideDay, ...]:
    """The tide days of the last `back` days from a row alone."""
    return tide_days(
        [_stretch(data) for data in row.stretches],
        recent_done(row),
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
    doings = _DOES.validate_python((row.screening or {}).get("program_does", ()))
    occasion = occasion_with(row.client.clinic, first=row.active_since is None)
    return program_gate(screening, doings, today, occasion)


def screening_from(row: CaseloadRow, client: Client, today: date) -> Screening | None:
    """The latest screening as the rules read it, from the row alone."""
    if row.screening is None:
        return None
    stands = _SCREENING.validate_python(row.screening["stands"])
    return replace(stands, minor=client.age_on(today) < 18)


def living_from(row: CaseloadRow) -> Living:
    """How the client lives, from the row alone."""
    return _LIVING.validate_python((row.screening or {}).get("living", {}))


def _stretch_data(stretch: Prescribed) -> list:
    return [
        stretch.first.isoformat(),
        _iso(stretch.last),
        dose_data(stretch.dose),
        stretch.routine,
    ]


def _stretch(data: list) -> Prescribed:
    first, last, dose, routine = data
    return Prescribed(
        routine=routine, first=date.fromisoformat(first), last=_date(last), dose=dose_of(dose)
    )


def _iso(day: date | None) -> str | None:
    return day.isoformat() if day else None


def _date(text: str | None) -> date | None:
    return date.fromisoformat(text) if text else None
