"""Every write to a program draft, each in one transaction, with undo back to its start."""

import uuid
from collections.abc import Callable

import jsonpatch
from django.db import transaction
from django.utils.translation import gettext as _

from core.formats.program_file import data_of
from core.program.program import Program
from core.proposing.propose import propose as propose_program
from core.proposing.request import PlanRequest
from web.clients.models import Client
from web.clinic.models import User
from web.clinic.refusal import UsecaseRefused
from web.library.queries import proposed_from
from web.programs.models import Draft

MOST_UNDO = 1000
"""So many steps back; a patch is a few lines."""


class StaleDraft(Exception):
    """The draft was changed meanwhile; holds the current one."""

    def __init__(self, current: Draft) -> None:
        self.current = current
        super().__init__(f"revision {current.revision}")


@transaction.atomic
def propose(client: Client, request: PlanRequest, *, by: User, now) -> Draft:
    """Make a fitted program the draft. Undo restores the one before."""
    program = propose_program(
        request,
        new_step_id=lambda: str(uuid.uuid4()),
        tasks=proposed_from(client.clinic),
    ).program
    return replace_draft(client, program, by=by, now=now)


@transaction.atomic
def replace_draft(client: Client, program: Program, *, by: User, now) -> Draft:
    """Make a whole program the draft, proposed or imported. Undo restores the one before."""
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
def edit_draft(
    client: Client, *, revision: int, change: Callable[[Program], Program], by: User, now
) -> Draft:
    """Apply one change to the draft with that revision; StaleDraft if it moved on."""
    draft = locked_draft(client, revision)
    return _save(draft, change(draft.program), by=by, now=now)


def current_draft(client: Client) -> Draft:
    """The draft as it is; refused where there is none."""
    draft = Draft.objects.filter(client=client).first()
    if draft is None:
        raise UsecaseRefused(_("There is no draft yet: propose a program first."))
    return draft


@transaction.atomic
def undo_edit(client: Client, *, revision: int, by: User, now) -> Draft:
    """Back to before the last change; refused when there is none."""
    draft = locked_draft(client, revision)
    if not draft.past:
        raise UsecaseRefused(_("There is nothing to undo."))
    return _along(draft, draft.past, draft.future, by=by, now=now)


@transaction.atomic
def redo_edit(client: Client, *, revision: int, by: User, now) -> Draft:
    """The change that was undone last, again; refused when there is none."""
    draft = locked_draft(client, revision)
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


def locked_draft(client: Client, revision: int) -> Draft:
    draft = Draft.objects.select_for_update().filter(client=client).first()
    if draft is None:
        raise UsecaseRefused(_("There is no draft yet: propose a program first."))
    if draft.revision != revision:
        raise StaleDraft(draft)
    return draft


def restart_from(draft: Draft, program: Program) -> None:
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
