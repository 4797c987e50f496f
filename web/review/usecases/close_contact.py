"""A contact is closed: what the client said, and what was decided then; in one transaction."""

from collections.abc import Iterable
from datetime import timedelta

from django.db import transaction
from django.utils.translation import gettext as _

from core.editing.change_rung import on_rung
from core.errors import PlanError
from core.grading.act import Act
from core.program.program import Program
from core.safety.program_gate import touches_of
from core.safety.stop import OpenSign, rests
from web.clients.models import Client
from web.clients.signals import record_changed
from web.clinic import clock
from web.clinic.models import User
from web.clinic.records import Unreadable
from web.clinic.refusal import UsecaseRefused
from web.clinic.usecases import outbox
from web.clinic.words import core_words
from web.library.queries import catalogue_of
from web.practice.today.practicable import open_signs
from web.practice.usecases.clear_stop import clear_stop_signs
from web.programs.queries import active_version
from web.programs.usecases.versions import StaleVersion, activate_next
from web.review.deciding.proposals import DUE_DAYS
from web.review.models import After, Decision, DecisionDone, DecisionVerdict

LONGEST_SAID = 500


@transaction.atomic
def close_contact(client: Client, *, said: str, then: str, by: User, now) -> None:
    """Keep what was said and decided about open stop signs and contacts of this client.

    reopen: stop signs are cleared and the held steps go one target lower, through the gate; hold: they
    stay on hold; examine: they stay on hold and an examination is asked for. UsecaseRefused without
    words or a decision, where a red flag was said and nobody has screened since, where the gate stays
    shut; then nothing is kept.
    """
    Client.objects.select_for_update().get(pk=client.pk)
    said = " ".join(said.split())[:LONGEST_SAID]
    if not said:
        raise UsecaseRefused(_("Write what the client said. Nothing was saved."))
    if then not in After.values:
        raise UsecaseRefused(_("Choose what was decided. Nothing was saved."))
    today = clock.local_date(now, client.time_zone)
    signs = open_signs(client.pk)
    held = {one.step_id for one in signs if one.step_id}
    if then == After.REOPEN:
        _reopen_lower(client, signs, by=by, now=now)
        clear_stop_signs(client, by=by, now=now)
    made = {"clinic_id": client.clinic_id, "client": client, "by": by, "at": now}
    open_tasks = Decision.objects.filter(client=client, act=Act.CONTACT, done=None)
    tasks = list(open_tasks.exclude(due_on=None))
    if not tasks:
        tasks = [
            Decision.objects.create(
                act=Act.CONTACT,
                steps=sorted(held),
                verdict=DecisionVerdict.ACCEPTED,
                reason=said,
                evidence={"about": "", "reasons": [], "against": [], "numbers": {}},
                day=today,
                due_on=today,
                **made,
            )
        ]
    for task in tasks:
        DecisionDone.objects.create(decision=task, day=today, said=said, then=then, **made)
    if then == After.EXAMINE:
        _ask_for_examination(client, said, today=today, made=made)
    outbox.withdraw([client.pk])
    record_changed.send(DecisionDone, client_id=client.pk)


def _ask_for_examination(client: Client, said: str, *, today, made) -> None:
    Decision.objects.create(
        act=Act.EXAMINE,
        steps=[],
        verdict=DecisionVerdict.ACCEPTED,
        reason=said,
        evidence={"about": "", "reasons": [], "against": [], "numbers": {}},
        day=today,
        due_on=today + timedelta(days=DUE_DAYS[Act.EXAMINE]),
        **made,
    )


def _reopen_lower(client: Client, signs: Iterable[OpenSign], *, by: User, now) -> None:
    """The program with every step that the signs hold one rung lower, in force from today."""
    version = active_version(client.pk)
    if version is None:
        return
    try:
        program = version.program
    except Unreadable:
        return
    lower = _one_lower(program, list(signs), client)
    if lower == program:
        return
    try:
        activate_next(
            client,
            lower,
            after=version.number,
            written_reason="",
            by=by,
            now=now,
            active_from=clock.local_date(now, client.time_zone),
        )
    except StaleVersion as stale:
        raise UsecaseRefused(
            _("The program was changed meanwhile. Nothing was saved: look again.")
        ) from stale
    except PlanError as error:
        raise UsecaseRefused(core_words(error)) from error


def _one_lower(program: Program, signs: list[OpenSign], client: Client) -> Program:
    tasks = catalogue_of(client.clinic)
    held = [s for s in program.steps if rests(s, signs, lambda step: touches_of(step, tasks))]
    moved = set()
    for step in held:
        if step.grade is None or step.rung == 0 or step.grade.key in moved:
            continue
        moved.add(step.grade.key)
        program = on_rung(program, step.step_id, step.rung - 1)
    return program
