"""An attempt from home is kept: once, in one transaction, or set aside and never lost."""

from dataclasses import replace
from datetime import datetime, timedelta
from typing import Any

from django.db import IntegrityError, transaction
from django.utils.dateparse import parse_datetime
from django.utils.translation import gettext as _

from core.errors import PlanError
from core.kinds.level.aim import LevelTarget
from core.kinds.registry import target_of
from core.program.asked import asked_of
from core.program.program import Program
from core.program.step import Step
from web.clients.models import ClientAccess
from web.clients.signals import practice_goes_on, record_changed
from web.clinic import clock
from web.measuring.models import device_name
from web.measuring.sinks import AttemptOffer, AttemptTaken, Permit, Refused, SaveAnswer
from web.measuring.tickets import LIFETIME_S, Ticket
from web.measuring.usecases.save_measurement import save_caught
from web.practice.models import USUAL_TALK, Attempt, HomeSession, SetAside
from web.practice.player.spoken_lines import own_lines_of, words_read
from web.practice.player.step_words import USUAL_TALK_S
from web.practice.recordings.consent import may_be_heard
from web.practice.sessions.levels import conversations
from web.practice.today.on_hold import rests_now
from web.practice.usecases.attempt_row import attempt_row
from web.practice.usecases.recordings import save_sound


class PracticeSink:
    """Where attempts of home sessions end."""

    def permit(self, ticket: Ticket, offer: AttemptOffer) -> Permit:
        session = session_of(ticket)
        program, now = session.version.program, clock.now()
        revoked = not ClientAccess.objects.filter(
            pk=ticket.holder, client_id=ticket.client, revoked_at=None
        ).exists()
        shared: dict[str, Any] = {
            "a4_hz": program.a4_hz,
            "set_aside": "revoked" if revoked else None,
            "rests": rests_now(session),
        }
        if offer.step_id == str(USUAL_TALK):
            return Permit(task="level", target=None, target_s=USUAL_TALK_S, **shared)
        step = _step(program, offer)
        asked, task = asked_of(step, offer.place), step.measured
        aim = _level_aim(session, step, offer)
        own = target_of(task, asked.aim) if task else None
        if task == "level":
            own = _spoken_aim(session, step, offer, aim)
        return Permit(
            task=task,
            target=own,
            target_s=asked.seconds,
            slides=asked.ends,
            strong=step.level is not None,
            level=aim,
            heard=not revoked and may_be_heard(session.client, offer.step_id, now, now),
            **shared,
        )

    @transaction.atomic
    def keep(
        self,
        ticket: Ticket,
        offer: AttemptOffer,
        permit: Permit,
        caught: AttemptTaken,
        now: datetime,
    ) -> SaveAnswer:
        session = session_of(ticket)
        if permit.set_aside:
            set_aside(session, offer_data(offer), caught, permit.set_aside, now)
            return SaveAnswer("set_aside", offer.attempt_id)
        before = Attempt.objects.filter(pk=offer.attempt_id).first()
        if before is None:
            try:
                with transaction.atomic():
                    self._insert(session, offer, caught, now, ticket)
            except IntegrityError:
                before = Attempt.objects.filter(pk=offer.attempt_id).first()
                if before is None:
                    raise
            else:
                _tell(session)
                return SaveAnswer("kept", offer.attempt_id)
        if before.sha256 == caught.sha256 and before.client_id == session.client_id:
            return SaveAnswer("again", offer.attempt_id)
        set_aside(session, offer_data(offer), caught, "differs", now)
        return SaveAnswer("differs", offer.attempt_id)

    def _insert(
        self,
        session: HomeSession,
        offer: AttemptOffer,
        caught: AttemptTaken,
        now: datetime,
        ticket: Ticket,
    ) -> None:
        program = session.version.program
        talk = offer.step_id == str(USUAL_TALK)
        step = None if talk else _step(program, offer)
        started_at, counted_by = started(session, ticket, offer, now)
        attempt = attempt_row(
            session,
            step,
            attempt_id=offer.attempt_id,
            place=offer.place,
            repetition=offer.repetition,
            taken=caught.taken,
            started_at=started_at,
            clock=counted_by,
            received_at=now,
            sha256=caught.sha256,
            measurement=save_caught(
                caught, offer, record=session, client_id=session.client_id, now=now
            ),
            seconds=caught.seconds,
            count=caught.count,
            interrupted=caught.interrupted,
        )
        attempt.save(force_insert=True)
        save_sound(attempt, caught, now=now)


def _tell(session: HomeSession) -> None:
    """An attempt that arrives after its home session has ended counts in it at once. Of an open one what
    is worked out follows soon: the sounds of others are waiting."""
    if session.ended_at is not None:
        record_changed.send(HomeSession, client_id=session.client_id, session_id=session.pk)
    else:
        practice_goes_on.send(HomeSession, client_id=session.client_id)


def _level_aim(session: HomeSession, step: Step, offer: AttemptOffer) -> LevelTarget | None:
    """What a strong step aims at, over the usual talk on this very device; None where that device
    has not heard it, for levels compare only within one."""
    if step.level is None:
        return None
    talk = conversations(session.client_id).get(device_name(offer.device, offer.input))
    if talk is None:
        return None
    return LevelTarget(reference_db=talk, over_db=step.level.over_db)


def _spoken_aim(
    session: HomeSession, step: Step, offer: AttemptOffer, aim: LevelTarget | None
) -> LevelTarget | None:
    """The level of speech with the number of words of a text that is read once, for the rate."""
    own = own_lines_of(session.client_id, session.clinic_id)
    words = words_read(step, session.practice_day, offer.repetition, own)
    return aim if words is None else replace(aim or LevelTarget(), words=words)


def session_of(ticket: Ticket) -> HomeSession:
    """The home session a ticket was made for; never another client's."""
    session = (
        HomeSession.objects.select_related("version", "client__clinic")
        .filter(pk=ticket.sitting, client_id=ticket.client, clinic_id=ticket.clinic)
        .first()
    )
    if session is None:
        raise Refused(4401, 401, "session_unknown", _("This home session is not known here."))
    return session


def started(
    session: HomeSession, ticket: Ticket, offer: AttemptOffer, now: datetime
) -> tuple[datetime, str]:
    """When an attempt began: server time of the bundle plus what the browser's steady clock
    counted; else the device's clock, marked "estimated". Never before its home session was opened,
    in the future, or later than its ticket lives: what says so is brought to the nearest."""
    first = session.started_at
    last = max(first, min(now, first + timedelta(seconds=LIFETIME_S)))
    if offer.elapsed_ms is not None:
        issued = datetime.fromisoformat(ticket.issued_at)
        counted = issued + timedelta(milliseconds=min(offer.elapsed_ms, 1000 * LIFETIME_S))
        clock = "server" if first <= counted <= last else "estimated"
        return min(max(counted, first), last), clock
    try:
        at = parse_datetime(offer.device_time or "")
    except (ValueError, TypeError):
        at = None
    if at is None or at.tzinfo is None:
        return last, "estimated"
    return min(max(at, first), last), "estimated"


def set_aside(
    session: HomeSession, offer: dict[str, Any], caught: AttemptTaken, reason: str, now: datetime
) -> None:
    """Put an upload into quarantine, once for each body."""
    _row, made = SetAside.objects.get_or_create(
        upload_id=offer["attempt_id"],
        sha256=caught.sha256,
        defaults={
            "clinic_id": session.clinic_id,
            "client_id": session.client_id,
            "reason": reason,
            "offer": offer,
            "figures": caught.figures.as_data(contour=False) if caught.figures else None,
            "seconds": caught.seconds,
            "at": now,
        },
    )
    if made:
        record_changed.send(SetAside, client_id=session.client_id)


def offer_data(offer: AttemptOffer) -> dict[str, Any]:
    return {name: getattr(offer, name) for name in AttemptOffer.__slots__}


def _step(program: Program, offer: AttemptOffer) -> Step:
    try:
        step = _found(program, offer.step_id)
    except PlanError as error:
        raise Refused(
            4403, 403, "step_unknown", _("This step is not part of the program.")
        ) from error
    if offer.place >= step.target.attempts:
        raise Refused(4403, 403, "step_unknown", _("This note is not part of the step."))
    return step


def _found(program: Program, step_id: str) -> Step:
    short_days = (routine.short_day for routine in program.routines)
    found = (one for one in short_days if one is not None and one.step_id == step_id)
    return next(found, None) or program.step(step_id)
