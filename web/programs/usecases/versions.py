"""Activate a program if the safety gate allows it today. Each write is one transaction."""

from dataclasses import replace
from datetime import date

from django.db import transaction
from django.utils.translation import gettext as _

from core.formats.program_file import data_of
from core.program.program import Program
from core.proposing.doses import started_on
from web.clients.models import Client
from web.clients.signals import record_changed
from web.clinic.clock import local_date
from web.clinic.models import User
from web.clinic.refusal import UsecaseRefused
from web.programs.client_file import ClientFile
from web.programs.models import Draft, ProgramVersion
from web.programs.plan_request import known_baseline
from web.programs.usecases.drafts import locked_draft, restart_from


class StaleVersion(Exception):
    """The program was changed meanwhile; holds the version in force."""

    def __init__(self, current: ProgramVersion | None) -> None:
        self.current = current
        super().__init__(f"version {current.number if current else 0}")


@transaction.atomic
def activate(
    client: Client,
    *,
    revision: int,
    written_reason: str,
    by: User,
    now,
    active_from: date,
) -> ProgramVersion:
    """Make the draft the client's program. The gate is worked out here and must open; the notes
    must lie inside the range of the latest baseline, whichever the draft was fitted to."""
    draft = locked_draft(client, revision)
    file = ClientFile(client, local_date(now, client.time_zone))
    last = file.version
    program = _let_through(file, draft.program, written_reason, active_from)
    restart_from(draft, program)
    if last is not None and last.program == program and not last.imported:
        return last
    return _in_force(
        client, draft.content, last, reason=written_reason, by=by, now=now, active_from=active_from
    )


@transaction.atomic
def activate_next(
    client: Client,
    program: Program,
    *,
    after: int,
    written_reason: str,
    by: User,
    now,
    active_from: date,
) -> ProgramVersion:
    """Make a program the version after number `after`, through the same gate as a draft; StaleVersion
    where another came meanwhile. A draft that had no changes of its own follows."""
    Client.objects.select_for_update().get(pk=client.pk)
    file = ClientFile(client, local_date(now, client.time_zone))
    last = file.version
    if last is None or last.number != after:
        raise StaleVersion(last)
    if last.imported:
        raise UsecaseRefused(_("Activate the program on the Bench first: it came from elsewhere."))
    program = _let_through(file, program, written_reason, active_from)
    if program == last.program:
        return last
    draft = Draft.objects.select_for_update().filter(client=client).first()
    if draft is not None and draft.program == last.program:
        draft.go_to(draft.state, by=by, now=now)
        restart_from(draft, program)
    return _in_force(
        client,
        data_of(program),
        last,
        reason=written_reason,
        by=by,
        now=now,
        active_from=active_from,
    )


def _let_through(
    file: ClientFile, program: Program, written_reason: str, active_from: date
) -> Program:
    """The program as it becomes active; refused where the gate or a limit stands against it."""
    program = _as_shown_today(program, file)
    gate = file.gate_of(program)
    if gate.blocks:
        raise UsecaseRefused(" ".join(map(str, gate.blocks)))
    if not gate.opens(written_reason):
        needed = " ".join(map(str, gate.needs_reason))
        raise UsecaseRefused(_("Write why it may go ahead: %(needed)s") % {"needed": needed})
    if program.problems():
        raise UsecaseRefused(" ".join(map(str, program.problems())))
    return started_on(program, active_from)


def _in_force(
    client: Client, content, last: ProgramVersion | None, *, reason: str, by: User, now, active_from
) -> ProgramVersion:
    version = ProgramVersion.objects.create(
        clinic_id=client.clinic_id,
        client=client,
        number=last.number + 1 if last else 1,
        content=content,
        activated_at=now,
        active_from=active_from,
        activated_by=by,
        written_reason=reason.strip()[:500],
    )
    record_changed.send(ProgramVersion, client_id=client.pk)
    return version


def _as_shown_today(program: Program, file: ClientFile) -> Program:
    """The program judged by the range and the longest voice of the latest baseline."""
    view = file.baseline
    if view is None or view.baseline.comfort is None:
        return program
    known = known_baseline(view)
    return replace(
        program,
        comfort=view.baseline.comfort,
        shown_s=known.shown_voice_s,
        shown_air_s=known.best_s_s,
    )
