"""Keeps the caseload row of a client; runs inside the transaction of what changed."""

from dataclasses import replace
from datetime import date, timedelta

from django.dispatch import receiver

from core.dose.tide import Done, Prescribed, Stroke, TideDay, kept_of, tide_days
from core.formats.program_file import dose_of
from core.grading.need import ClientFacts, Need, need_of
from core.safety.circumstances import Living
from core.safety.gate import Gate
from core.safety.program_gate import program_gate
from core.safety.screening import Screening
from web.clients.models import Client
from web.clients.signals import record_changed
from web.clinic import clock
from web.practice.models import LevelReset
from web.programs.gates import occasion_with
from web.review.facts import DOES, FACTS, LIVING, SCREENING, Record
from web.review.models import CaseloadRow
from web.review.results import keep_results


@receiver(record_changed)
def refresh_row(sender, client_id, session_id=None, **kwargs) -> None:
    """Compute the row anew from the record, and what came of the home session that changed; where a
    level is taken anew, of every one."""
    client = Client.objects.select_related("clinic").get(pk=client_id)
    changed = [session_id] if session_id else []
    keep_results(client, sessions=changed, every=sender is LevelReset)
    rebuilt(client)


def rebuilt(client: Client) -> CaseloadRow:
    """The row of a client, every fact worked out anew."""
    record = Record(client, clock.local_date(clock.now(), client.time_zone))
    facts = {name: fact(record) for name, fact in FACTS.items()}
    row, _made = CaseloadRow.objects.update_or_create(client=client, defaults=facts)
    return row


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
        ready_to_climb=_may_climb(row, today),
        last_gain=row.last_gain,
    )
    return need_of(facts, today)


def _may_climb(row: CaseloadRow, today: date) -> bool:
    if row.ready_from is None or row.ready_until is None:
        return False
    return row.ready_from <= today <= row.ready_until


def gate_from(row: CaseloadRow, screening: Screening | None, today: date) -> Gate:
    """The gate of the active program as it stands today, from the row alone."""
    doings = DOES.validate_python((row.screening or {}).get("program_does", ()))
    occasion = occasion_with(row.client.clinic, first=row.active_since is None)
    return program_gate(screening, doings, today, occasion)


def screening_from(row: CaseloadRow, client: Client, today: date) -> Screening | None:
    """The latest screening as the rules read it, from the row alone."""
    if row.screening is None:
        return None
    stands = SCREENING.validate_python(row.screening["stands"])
    return replace(stands, minor=client.age_on(today) < 18)


def living_from(row: CaseloadRow) -> Living:
    """How the client lives, from the row alone."""
    return LIVING.validate_python((row.screening or {}).get("living", {}))


def _stretch(data: list) -> Prescribed:
    first, last, dose, routine = data
    return Prescribed(
        routine=routine, first=date.fromisoformat(first), last=_date(last), dose=dose_of(dose)
    )


def _date(text: str | None) -> date | None:
    return date.fromisoformat(text) if text else None
