"""Builds the database row of an attempt: the target comes from the step, the result from the caller."""

import uuid
from datetime import datetime

from core.program.asked import asked_of
from core.program.step import Step
from core.program.targets import Asked
from web.measuring.models import Measurement
from web.practice.models import USUAL_TALK, Attempt, HomeSession, State
from web.practice.player.step_words import USUAL_TALK_S


def attempt_row(
    session: HomeSession,
    step: Step | None,
    *,
    attempt_id: uuid.UUID | str,
    place: int,
    repetition: int,
    taken: str,
    started_at: datetime,
    clock: str,
    received_at: datetime,
    sha256: str,
    measurement: Measurement | None = None,
    seconds: float | None = None,
    count: int | None = None,
    interrupted: bool = False,
) -> Attempt:
    """Build an unsaved row.

    step: None for the usual talk before strong work; place: which note, key or piece of the step, from 0;
    seconds: timed, where there is no measurement; count: what was counted; clock: whose time started_at is;
    sha256: of the sound or of what was typed, so that a repeat is known again.
    """
    asked = asked_of(step, place) if step else Asked(seconds=USUAL_TALK_S)
    state = State.MEASURED if measurement else State.TIMED
    return Attempt(
        pk=attempt_id,
        clinic_id=session.clinic_id,
        client=session.client,
        home_session=session,
        version=session.version,
        step_id=step.step_id if step else USUAL_TALK,
        rung=step.rung if step else 0,
        place=place,
        repetition=repetition,
        note=asked.note.name if asked.note and not asked.end else "",
        target_s=asked.seconds,
        count=count,
        count_asked=asked.count,
        state=State.INTERRUPTED if interrupted else state,
        taken=taken,
        seconds=measurement.hold_s if measurement else seconds,
        measurement=measurement,
        sha256=sha256,
        started_at=started_at,
        clock=clock,
        received_at=received_at,
    )
