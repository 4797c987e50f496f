"""Every write to drafts and versions, each in one transaction."""

import uuid
from collections.abc import Callable
from dataclasses import replace
from datetime import date

import jsonpatch
from django.db import IntegrityError, transaction
from django.utils.translation import gettext as _

from core.formats.program_file import data_of
from core.program.program import Program
from core.proposing.doses import started_on
from core.proposing.outline import outline_data, outline_of
from core.proposing.propose import propose as propose_program
from core.proposing.request import PlanRequest
from web.clients.models import Client
from web.clients.signals import record_changed
from web.clinic.clock import local_date
from web.clinic.models import User
from web.clinic.usecases import UsecaseRefused
from web.library.queries import catalogue_of, proposed_from
from web.programs.client_file import ClientFile
from web.programs.models import Draft, ProgramTemplate, ProgramVersion, TriedTask, Went
from web.programs.plan_request import known_baseline

MOST_UNDO = 1000
"""So many steps back; a patch is a few lines."""


LONGEST_NAME = 60


class StaleDraft(Exception):
    """The draft was changed meanwhile; holds the current one."""

    def __init__(self, current: Draft) -> None:
        self.current = current
        super().__init__(f"revision {current.revision}")


class StaleVersion(Exception):
    """The program was changed meanwhile; holds the version in force."""

    def __init__(self, current: ProgramVersion | None) -> None:
        self.current = current
        super().__init__(f"version {current.number if current else 0}")


@transaction.atomic
def propose(client: Client, request: PlanRequest, *, by: User, now) -> Draft:
    """Put a fitted program on the Bench; what lay there can be had back by undo."""
    program = propose_program(
        request,
        new_step_id=lambda: str(uuid.uuid4()),
        tasks=proposed_from(client.clinic),
    ).program
    return lay_on_bench(client, program, by=by, now=now)


@transaction.atomic
def lay_on_bench(client: Client, program: Program, *, by: User, now) -> Draft:
    """A whole program as the draft, proposed or from a file; undo brings back what lay there."""
    Client.objects.select_for_update().get(pk=client.pk)
    draft = Draft.objects.filter(client=client).first()
    if draft is None:
        return Draft.objects.create(
            clinic_id=client.clinic_id,
            client=client,
            content=data_of(program),
            base=data_of(program),
            changed_at=now,
            changed_by=by,
        )
    return _save(draft, program, base=data_of(program), by=by, now=now)


@transaction.atomic
def save_template(client: Client, program: Program, *, name: str, by: User, now) -> ProgramTemplate:
    """Keep what the program is made of for any client of the clinic; refused without a name of its own."""
    name = " ".join(name.split())
    if not 0 < len(name) <= LONGEST_NAME or not name.isprintable():
        raise UsecaseRefused(_("Give the template a name of up to 60 characters."))
    try:
        with transaction.atomic():
            return ProgramTemplate.objects.create(
                clinic_id=client.clinic_id,
                name=name,
                content=outline_data(outline_of(program)),
                at=now,
                by=by,
            )
    except IntegrityError as error:
        words = _(
            "There is a template “%(name)s” already: choose another name, or take that one away."
        )
        raise UsecaseRefused(words % {"name": name}) from error


@transaction.atomic
def drop_template(row: ProgramTemplate, *, now) -> None:
    """Offer it no more; what was made from it stays as it is."""
    row.taken_away_at = now
    row.save(update_fields=["taken_away_at"])


@transaction.atomic
def log_tried(client: Client, *, task: str, went: str, by: User, now) -> TriedTask:
    """Keep how a task went in the visit; refused for a task that is not in the catalogue."""
    if task not in catalogue_of(client.clinic):
        raise UsecaseRefused(_("There is no such task."))
    if went not in Went.values:
        raise UsecaseRefused(_("Choose better, same or worse."))
    return TriedTask.objects.create(
        clinic_id=client.clinic_id, client=client, task=task, went=went, by=by, at=now
    )


@transaction.atomic
def edit_draft(
    client: Client, *, revision: int, change: Callable[[Program], Program], by: User, now
) -> Draft:
    """Apply one change to the draft with that revision; StaleDraft if it moved on."""
    draft = _locked(client, revision)
    return _save(draft, change(draft.program), by=by, now=now)


def draft_of(client: Client) -> Draft:
    """The draft as it is; refused where there is none."""
    draft = Draft.objects.filter(client=client).first()
    if draft is None:
        raise UsecaseRefused(_("There is no draft yet: propose a program first."))
    return draft


@transaction.atomic
def undo_edit(client: Client, *, revision: int, by: User, now) -> Draft:
    """Back to before the last change; refused when there is none."""
    draft = _locked(client, revision)
    if not draft.past:
        raise UsecaseRefused(_("There is nothing to undo."))
    return _along(draft, draft.past, draft.future, by=by, now=now)


@transaction.atomic
def redo_edit(client: Client, *, revision: int, by: User, now) -> Draft:
    """The change that was undone last, again; refused when there is none."""
    draft = _locked(client, revision)
    if not draft.future:
        raise UsecaseRefused(_("There is nothing to do again."))
    return _along(draft, draft.future, draft.past, by=by, now=now)


def _along(draft: Draft, patches: list, back: list, *, by: User, now) -> Draft:
    """One patch taken from one list, and the way back laid on the other."""
    before = draft.state
    after = jsonpatch.apply_patch(before, patches.pop())
    back.append(jsonpatch.make_patch(after, before).patch)
    draft.go_to(after, by=by, now=now)
    draft.save()
    return draft


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
    draft = _locked(client, revision)
    file = ClientFile(client, local_date(now, client.time_zone))
    last = file.version
    program = _let_through(file, draft.program, written_reason, active_from)
    _as_active(draft, program)
    if last is not None and last.program == program and not last.imported:
        return last
    return _in_force(
        client, draft.content, last, reason=written_reason, by=by, now=now, active_from=active_from
    )


@transaction.atomic
def put_in_force(
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
        _as_active(draft, program)
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


def _locked(client: Client, revision: int) -> Draft:
    draft = Draft.objects.select_for_update().filter(client=client).first()
    if draft is None:
        raise UsecaseRefused(_("There is no draft yet: propose a program first."))
    if draft.revision != revision:
        raise StaleDraft(draft)
    return draft


def _as_active(draft: Draft, program: Program) -> None:
    """The draft as it became active: what is changed from here on is a new draft."""
    content = data_of(program)
    draft.content, draft.base, draft.past, draft.future = content, content, [], []
    draft.save()


def _save(draft: Draft, program: Program, *, by: User, now, base=None) -> Draft:
    """The next state of a draft; what had been undone cannot be done again any more."""
    before = draft.state
    after = {"content": data_of(program), "base": draft.base if base is None else base}
    draft.past = [*draft.past, jsonpatch.make_patch(after, before).patch][-MOST_UNDO:]
    draft.future = []
    draft.go_to(after, by=by, now=now)
    draft.save()
    return draft
