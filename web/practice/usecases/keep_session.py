"""A whole home session kept at once: one transaction, a few inserts."""

import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from django.db import transaction

from core.plans.program import Step
from core.sound.figures import Figures
from web.clients.models import Client, ClientAccess
from web.clinic.clock import local_date
from web.measuring.models import Measurement, StoredContour, Taken
from web.measuring.store import measurement_of
from web.practice.models import Attempt, Entry, HomeSession, Outcome, State
from web.practice.usecases.keep_attempt import target_s
from web.practice.usecases.keep_entry import outcome_of
from web.programs.models import ProgramVersion


@dataclass(frozen=True, slots=True, kw_only=True)
class WholeAttempt:
    """One attempt of the session with its figures."""

    step: Step
    place: int
    repetition: int
    figures: Figures
    after_s: float


@transaction.atomic
def keep_session(
    client: Client,
    version: ProgramVersion,
    *,
    access: ClientAccess | None,
    started_at: datetime,
    attempts: Sequence[WholeAttempt],
    strain: int | None,
    stop_sign: str = "",
    input_name: str,
    measured_by: str,
) -> HomeSession:
    """Keep a finished or stopped home session with all its attempts."""
    session = HomeSession.objects.create(
        clinic_id=client.clinic_id,
        client=client,
        version=version,
        access=access,
        started_at=started_at,
        practice_day=local_date(started_at, client.time_zone),
    )
    program = version.program
    rows: list[Attempt] = []
    measurements: list[Measurement] = []
    for attempt in attempts:
        at = started_at + timedelta(seconds=attempt.after_s)
        measurement = measurement_of(
            attempt.figures,
            clinic_id=client.clinic_id,
            client_id=client.pk,
            taken=Taken.LIVE,
            input_name=input_name,
            device={"label": input_name},
            now=at,
            measured_by=measured_by,
        )
        measurements.append(measurement)
        held = attempt.step.holds
        rows.append(
            Attempt(
                clinic_id=client.clinic_id,
                client=client,
                home_session=session,
                version=version,
                step_id=attempt.step.step_id,
                rung=program.rung,
                place=attempt.place,
                repetition=attempt.repetition,
                note=held[attempt.place].note.name if held else "",
                target_s=target_s(attempt.step, attempt.place),
                state=State.MEASURED,
                taken=Taken.LIVE,
                seconds=measurement.hold_s,
                measurement=measurement,
                sha256=uuid.uuid4().hex,
                started_at=at,
                clock="server",
                received_at=at,
            )
        )
    Measurement.objects.bulk_create(measurements)
    StoredContour.objects.bulk_create(
        StoredContour.packed(measurement, attempt.figures.contour)
        for measurement, attempt in zip(measurements, attempts, strict=True)
        if len(attempt.figures.contour.level_db)
    )
    Attempt.objects.bulk_create(rows)
    if strain is not None and rows:
        Entry.objects.create(
            clinic_id=client.clinic_id,
            client=client,
            home_session=session,
            kind="strain",
            step_id=rows[-1].step_id,
            value=strain,
            sha256=uuid.uuid4().hex,
            at=started_at,
        )
    session.stop_sign = stop_sign
    session.outcome = Outcome.STOPPED if stop_sign else outcome_of(session)
    session.ended_at = started_at + timedelta(seconds=attempts[-1].after_s if attempts else 0)
    session.save()
    return session
