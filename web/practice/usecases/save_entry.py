"""What the client says in a home session: of the time before, strain, a stop sign, the finish."""

import hashlib
import json
import uuid
from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Any

from django.db import IntegrityError, transaction
from django.db.models import Q
from django.utils.translation import gettext as _

from core.catalogue.tasks import in_the_day
from core.dose.taper import on_day
from core.program.step import Phase, Step
from core.reference.values import STRAIN_HIGH
from core.safety.screening import RedFlag
from core.safety.stop import StopSign, pain_stops
from web.clients.models import ClientAccess
from web.clients.signals import practice_goes_on, record_changed
from web.clinic.records import Unreadable
from web.library.queries import catalogue_of
from web.measuring.sinks import AttemptTaken, Refused, SaveAnswer
from web.measuring.tickets import Ticket
from web.practice.models import Attempt, Entry, HomeSession, Outcome, State
from web.practice.today.practicable import practicable
from web.practice.usecases.notify_stop import notify_stop
from web.practice.usecases.save_attempt import session_of, set_aside
from web.programs.client_file import ClientFile

SHARE_KEPT = 0.8
_LOOKED_BACK = 5
"""Home sessions before this one, the newest with a breath step of which the question is answered."""
_RATINGS = ("effort", "discomfort")
_SINCE_LAST = ("hoarser", "soft_high_lost")
_TODAY = ("pain", "tired")
LONGEST_SINCE_MIN = 24 * 60
"""Since the last medication; a day at most."""


@dataclass(frozen=True, slots=True, kw_only=True)
class SentEntry:
    """One entry: kind "before" (how it is today), "strain", "effort" (0–10, after a step), "pain" (0–10, of
    letting go), "stop"
    (a stop sign) or "finish" (ratings)."""

    entry_id: str
    kind: str
    step_id: str | None
    value: Any


def read_entry(data: Any, entry_id) -> SentEntry:
    """A decoded JSON object to an entry; Refused 400 in words for anything else."""
    try:
        said = SentEntry(
            entry_id=str(entry_id),
            kind=data["kind"],
            step_id=str(uuid.UUID(data["step_id"])) if data.get("step_id") else None,
            value=data["value"],
        )
        if not _sound(said):
            raise ValueError(said.kind)
    except (KeyError, TypeError, ValueError, AttributeError) as error:
        raise Refused(4400, 400, "entry_unreadable", _("This answer cannot be kept.")) from error
    return said


def _sound(said: SentEntry) -> bool:
    if said.kind in ("strain", "effort", "pain"):
        return _rating(said.value) and said.value is not None and said.step_id is not None
    if said.kind == "stop":
        return isinstance(said.value, str) and said.value in set(StopSign)
    if said.kind == "before":
        return isinstance(said.value, dict) and _sound_before(said.value)
    if said.kind == "finish":
        return isinstance(said.value, dict) and all(_rating(said.value.get(k)) for k in _RATINGS)
    return False


def _sound_before(value: dict[str, Any]) -> bool:
    flags = value.get("flags", [])
    minutes = value.get("medication_min")
    return (
        set(value) <= {*_SINCE_LAST, *_TODAY, "gasped", "medication_min", "flags"}
        and all(isinstance(value.get(name), bool | None) for name in (*_SINCE_LAST, "gasped"))
        and all(_rating(value.get(name)) for name in _TODAY)
        and (minutes is None or (type(minutes) is int and 0 <= minutes <= LONGEST_SINCE_MIN))
        and isinstance(flags, list)
        and all(isinstance(one, str) and one in set(RedFlag) for one in flags)
    )


def _rating(value: Any) -> bool:
    return value is None or (type(value) is int and 0 <= value <= 10)


@transaction.atomic
def save_entry(ticket: Ticket, said: SentEntry, *, now) -> SaveAnswer:
    """Keep one entry once and let it act on its home session."""
    session = session_of(ticket)
    digest = hashlib.sha256(
        json.dumps([said.kind, said.step_id, said.value], sort_keys=True).encode()
    ).hexdigest()
    access = ClientAccess.objects.filter(pk=ticket.holder, client_id=ticket.client)
    if not access.filter(revoked_at=None).exists():
        offer = {"attempt_id": said.entry_id, "kind": said.kind, "value": said.value}
        set_aside(session, offer, AttemptTaken(taken="typed", sha256=digest), "revoked", now)
        return SaveAnswer("set_aside", said.entry_id)
    before = Entry.objects.filter(pk=said.entry_id).first()
    if before is None:
        try:
            with transaction.atomic():
                Entry.objects.create(
                    pk=said.entry_id,
                    clinic_id=session.clinic_id,
                    client_id=session.client_id,
                    home_session=session,
                    kind=said.kind,
                    step_id=said.step_id,
                    value=said.value,
                    sha256=digest,
                    at=now,
                )
        except IntegrityError:
            before = Entry.objects.get(pk=said.entry_id)
    if before is not None:
        same = before.sha256 == digest and before.home_session_id == session.pk
        return SaveAnswer("again" if same else "differs", said.entry_id)
    if said.kind == "before":
        _note_before(session, said.value)
        _note_gasped(session, said.value.get("gasped"), now)
    if _stops_by_pain(said):
        _end(session, replace(said, kind="stop", value=StopSign.PAIN.value), now)
    elif said.kind in ("stop", "finish"):
        _end(session, said, now)
    elif session.ended_at is None and (said.kind != "strain" or said.value < STRAIN_HIGH.number):
        practice_goes_on.send(HomeSession, client_id=session.client_id)
    else:
        record_changed.send(HomeSession, client_id=session.client_id, session_id=session.pk)
    return SaveAnswer("kept", said.entry_id)


def _stops_by_pain(said: SentEntry) -> bool:
    """Pain that is a stop sign by itself, also where the page could not say so any more."""
    pain = said.value.get("pain") if said.kind == "before" else None
    if said.kind == "pain":
        pain = said.value
    return isinstance(pain, int) and pain_stops(pain)


def _note_before(session: HomeSession, value: dict[str, Any]) -> None:
    """What was once said to be so stays so; red flags stand in the entry, and a stop sign comes with them."""
    for name in _SINCE_LAST:
        if value.get(name) is not None:
            setattr(session, name, bool(getattr(session, name)) or value[name])
    session.save(update_fields=list(_SINCE_LAST))


def _note_gasped(session: HomeSession, gasped: bool | None, now) -> None:
    """It was asked of the last time: said of the breath steps of the newest home session before this one."""
    if gasped is None:
        return
    earlier = HomeSession.objects.filter(
        client_id=session.client_id, started_at__lt=session.started_at
    )
    for last in earlier.select_related("version").order_by("-started_at")[:_LOOKED_BACK]:
        tried = set(last.attempts.values_list("step_id", flat=True))
        steps = [one for one in last.version.program.all_steps if uuid.UUID(one.step_id) in tried]
        if not any(one.phase is Phase.BREATH for one in steps):
            continue
        for step in (one for one in steps if one.phase is Phase.BREATH):
            Entry.objects.get_or_create(
                pk=uuid.uuid5(last.pk, f"gasped {step.step_id}"),
                defaults={
                    "clinic_id": last.clinic_id,
                    "client_id": last.client_id,
                    "home_session": last,
                    "kind": "gasped",
                    "step_id": step.step_id,
                    "value": int(gasped),
                    "sha256": hashlib.sha256(str(gasped).encode()).hexdigest(),
                    "at": now,
                },
            )
        record_changed.send(HomeSession, client_id=last.client_id, session_id=last.pk)
        return


def _end(session: HomeSession, said: SentEntry, now) -> None:
    """A stop sign always counts; a finish closes a session that no stop sign has closed. What was said at
    the first finish stays; a later one adds what was left open."""
    known = session.stop_sign
    if said.kind == "stop":
        session.outcome, session.stop_sign = Outcome.STOPPED, said.value
    elif session.outcome != Outcome.STOPPED:
        session.outcome = outcome_of(session)
        for name in _RATINGS:
            if getattr(session, name) is None:
                setattr(session, name, said.value.get(name))
    session.ended_at = session.ended_at or now
    session.save(update_fields=["ended_at", "outcome", "stop_sign", *_RATINGS])
    if said.kind == "stop" and said.value != known:
        notify_stop(session, now=now)
    record_changed.send(HomeSession, client_id=session.client_id, session_id=session.pk)


def outcome_of(session: HomeSession) -> str:
    """Kept from 80 % of the attempts asked for, otherwise the short version; so too where what was asked for
    cannot be read."""
    try:
        program = on_day(session.version.program, session.practice_day)
    except Unreadable:
        return Outcome.SHORT
    file = ClientFile.now(session.client)
    now = practicable(file, program, but=session).of(session.routine)
    return Outcome.KEPT if whole(session, now.steps) else Outcome.SHORT


def whole(session: HomeSession, steps: Iterable[Step]) -> bool:
    """Whether so much was done of these steps that it counts as kept; what is left for the day is not waited
    for."""
    tasks = catalogue_of(session.client.clinic)
    now = [step for step in steps if not in_the_day(step.task, tasks)]
    own = Attempt.objects.filter(~Q(state=State.INTERRUPTED), home_session=session)
    done = own.filter(step_id__in=[step.step_id for step in now]).count()
    return done >= SHARE_KEPT * sum(step.attempts for step in now)
