"""A whole home session kept at once: one transaction, a few inserts."""

import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from django.db import transaction

from core.program.step import Step
from core.sound.figures import Figures
from web.clients.models import Client, ClientAccess
from web.clinic.clock import local_date
from web.measuring.models import Measurement, StoredContour, Taken
from web.measuring.store import measurement_of
from web.practice.models import Attempt, Entry, HomeSession, Outcome
from web.practice.usecases.attempt_row import attempt_row
from web.practice.usecases.save_entry import outcome_of
from web.programs.models import ProgramVersion


@dataclass(frozen=True, slots=True, kw_only=True)
class WholeAttempt:
    """One attempt of the session with its figures, or its seconds and count where none are
    measured; step None = the usual talk before strong work."""

    step: Step | None
    place: int
    repetition: int
    figures: Figures | None
    after_s: float
    seconds: float | None = None
    count: int | None = None


@transaction.atomic
def save_session(
    client: Client,
    version: ProgramVersion,
    *,
    routine: str | None = None,
    access: ClientAccess | None,
    started_at: datetime,
    attempts: Sequence[WholeAttempt],
    strain: int | None,
    stop_sign: str = "",
    input_name: str,
    measured_by: str,
) -> HomeSession:
    """Keep a finished or stopped home session of a routine (None = the first) with all its
    attempts; throat strain is said after every voiced step of them."""
    session = HomeSession.objects.create(
        clinic_id=client.clinic_id,
        client=client,
        version=version,
        routine=routine or version.program.routines[0].key,
        access=access,
        started_at=started_at,
        practice_day=local_date(started_at, client.time_zone),
    )
    rows: list[Attempt] = []
    measurements: list[Measurement] = []
    contours: list[StoredContour] = []
    for attempt in attempts:
        at = started_at + timedelta(seconds=attempt.after_s)
        measurement = None
        if attempt.figures is not None:
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
            if len(attempt.figures.contour.level_db):
                contours.append(StoredContour.packed(measurement, attempt.figures.contour))
        rows.append(
            attempt_row(
                session,
                attempt.step,
                attempt_id=uuid.uuid4(),
                place=attempt.place,
                repetition=attempt.repetition,
                taken=Taken.LIVE if measurement else Taken.STOPWATCH,
                started_at=at,
                clock="server",
                received_at=at,
                sha256=uuid.uuid4().hex,
                measurement=measurement,
                seconds=attempt.seconds,
                count=attempt.count,
            )
        )
    Measurement.objects.bulk_create(measurements)
    StoredContour.objects.bulk_create(contours)
    Attempt.objects.bulk_create(rows)
    voiced = {step.step_id for step in version.program.all_steps if step.voiced}
    asked_after = dict.fromkeys(str(row.step_id) for row in rows if str(row.step_id) in voiced)
    said: list[tuple[str, Any, int | str]] = []
    if strain is not None:
        said += [("strain", step_id, strain) for step_id in asked_after]
    if stop_sign and rows:
        said.append(("stop", rows[-1].step_id, stop_sign))
    Entry.objects.bulk_create(
        Entry(
            clinic_id=client.clinic_id,
            client=client,
            home_session=session,
            kind=kind,
            step_id=step_id,
            value=value,
            sha256=uuid.uuid4().hex,
            at=started_at,
        )
        for kind, step_id, value in said
    )
    session.stop_sign = stop_sign
    session.outcome = Outcome.STOPPED if stop_sign else outcome_of(session)
    session.ended_at = started_at + timedelta(seconds=attempts[-1].after_s if attempts else 0)
    session.save(update_fields=["stop_sign", "outcome", "ended_at"])
    return session
