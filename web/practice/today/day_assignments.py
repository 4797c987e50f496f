"""What of a home session is done in the course of the day, and ticked off when it is done."""

import hashlib
import uuid
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date

from django.db import transaction
from django.utils.translation import gettext as _

from core.catalogue.tasks import Task, in_the_day
from core.dose.taper import on_day
from core.program.asked import asked_of
from core.program.program import Program
from core.program.step import Step
from core.program.targets import Asked
from web.clients.models import Client, ClientAccess
from web.clinic.usecases import UsecaseRefused
from web.design.speaking import in_their_words
from web.measuring.ends import Caught, Offer
from web.measuring.models import Taken
from web.practice.models import Attempt, HomeSession, Outcome
from web.practice.player.spoken_lines import places_of
from web.practice.player.step_words import cue_words
from web.practice.today.practicable import practicable
from web.practice.usecases.open_session import ticket_for
from web.practice.usecases.save_attempt import PracticeEnd
from web.practice.usecases.save_entry import Said, keep_entry
from web.programs.client_file import ClientFile

_IDS = uuid.UUID("5c0de000-7a1c-4000-8000-000000000002")


@dataclass(frozen=True)
class Assignment:
    """One thing still open today: of which home session and step, its words; counts: what may be ticked,
    () = simply done."""

    session: HomeSession
    step: Step
    name: str
    words: str
    counts: tuple[int, ...]

    @property
    def asked(self) -> Asked:
        return asked_of(self.step, 0)


def open_assignments(
    file: ClientFile, day: date, *, program: Program | None = None
) -> list[Assignment]:
    """What the ended home sessions of that day left open, oldest first; nothing of what rests meanwhile.
    program: the one in force, where a day of no other is looked at."""
    if program is not None and not _for_the_day(program.all_steps, file.tasks):
        return []
    ended = HomeSession.objects.filter(client=file.client, practice_day=day, outcome=Outcome.KEPT)
    rows = ended.select_related("version").order_by("started_at", "pk")
    return [
        _assignment(session, step) for session in rows for step in _left_for_the_day(session, file)
    ]


def _for_the_day(steps: Iterable[Step], tasks: Mapping[str, Task]) -> list[Step]:
    return [step for step in steps if in_the_day(step.task, tasks)]


def _left_for_the_day(session: HomeSession, file: ClientFile) -> list[Step]:
    program = on_day(session.version.program, session.practice_day)
    if not _for_the_day(program.routine(session.routine).steps, file.tasks):
        return []
    own = _for_the_day(practicable(file, program).of(session.routine).steps, file.tasks)
    tried = Attempt.objects.filter(home_session=session).values_list("step_id", flat=True)
    done = {str(step_id) for step_id in tried}
    return [step for step in own if step.step_id not in done]


def _assignment(session: HomeSession, step: Step) -> Assignment:
    count, places = asked_of(step, 0).count, places_of(session.client_id, [step])
    return Assignment(
        session=session,
        step=step,
        name=in_their_words(step.name),
        words=" ".join(filter(None, (in_their_words(step.instruction), cue_words(step, places)))),
        counts=tuple(range(count + 1)) if count else (),
    )


@transaction.atomic
def tick_off(
    access: ClientAccess, *, session_id, step_id: str, count: int | None, strain: int | None, now
) -> None:
    """Keep what was done in the day with its home session, once; UsecaseRefused where nothing of it is open
    or the count is none that was asked for. strain: of the throat, 0–10, None = not said."""
    day = _day_of(session_id, access.client)
    found = [
        one
        for one in (open_assignments(ClientFile.now(access.client), day) if day else [])
        if one.session.pk == session_id and one.step.step_id == step_id
    ]
    if not found:
        raise UsecaseRefused(_("This is ticked off already, or rests."))
    (one,) = found
    if (count is None) != (not one.counts) or (count is not None and count not in one.counts):
        raise UsecaseRefused(_("Choose one of the numbers."))
    ticket = ticket_for(access, session_id, now=now)
    said = f"{session_id} {step_id} {count}"
    offer = Offer(
        attempt_id=str(uuid.uuid5(_IDS, f"{session_id} {step_id}")),
        step_id=step_id,
        device_time=now.isoformat(),
    )
    caught = Caught(
        taken=Taken.TYPED,
        sha256=hashlib.sha256(said.encode()).hexdigest(),
        seconds=None if one.counts else one.asked.seconds,
        count=count,
    )
    end = PracticeEnd()
    end.keep(ticket, offer, end.permit(ticket, offer), caught, now)
    if strain is not None:
        entry_id = str(uuid.uuid5(_IDS, f"{session_id} {step_id} strain"))
        entry = Said(entry_id=entry_id, kind="strain", step_id=step_id, value=strain)
        keep_entry(ticket, entry, now=now)


def _day_of(session_id, client: Client) -> date | None:
    rows = HomeSession.objects.filter(pk=session_id, client=client)
    return rows.values_list("practice_day", flat=True).first()
