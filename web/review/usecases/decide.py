"""A clinician accepts, alters or refuses a proposal; each in one transaction."""

from collections.abc import Mapping
from datetime import date, timedelta

from django.db import transaction
from django.utils.translation import gettext as _

from core.errors import PlanError
from core.grading.act import Act, Proposal
from core.grading.apply_proposal import accepted, changes
from core.reason import reasons_data
from web.clients.models import Client
from web.clients.signals import record_changed
from web.clinic import clock
from web.clinic.models import User
from web.clinic.refusal import UsecaseRefused
from web.clinic.words import core_words
from web.programs.models import ProgramVersion
from web.programs.usecases.versions import StaleVersion, activate_next
from web.review.course_file import CourseFile
from web.review.deciding.proposals import DUE_DAYS, key_of, step_names
from web.review.models import Decision, DecisionDone, DecisionVerdict

LONGEST_REASON = 500


@transaction.atomic
def decide(
    client: Client,
    *,
    key: str,
    after: int,
    accept: bool,
    rung: int | None = None,
    reason: str = "",
    due_on: date | None = None,
    by: User,
    now,
) -> Decision:
    """Keep what was decided about a proposal that still stands, with the evidence as it is now.

    after: the number of the version the page showed. Accepting a rung (another with a reason), days
    away or a taper makes the next version through the gate; a call, an examination, a measurement
    becomes a task. UsecaseRefused where the proposal or the program changed meanwhile, without a
    reason for a refusal or another rung, or where the gate stays shut; then nothing is kept.
    """
    Client.objects.select_for_update().get(pk=client.pk)
    today = clock.local_date(now, client.time_zone)
    file = CourseFile(client, today)
    history, current = file.history, file.version
    reason = " ".join(reason.split())[:LONGEST_REASON]
    if history is None or current is None or current.number != after:
        raise UsecaseRefused(_changed_by(current))
    found = next((one for one in file.found_on(today) if key_of(one) == key), None)
    if found is None or found.act is Act.STAY:
        raise UsecaseRefused(_("This proposal no longer stands; nothing was changed."))
    altered = accept and rung is not None and rung != found.rung
    if (altered or not accept) and not reason:
        raise UsecaseRefused(_("Say why; nothing was changed."))
    version = None
    if accept and changes(found):
        version = _next_version(client, history.program, found, rung, after, reason, by, now)
    verdict = (
        DecisionVerdict.REFUSED
        if not accept
        else DecisionVerdict.ALTERED
        if altered
        else DecisionVerdict.ACCEPTED
    )
    decision = Decision.objects.create(
        clinic_id=client.clinic_id,
        client=client,
        act=found.act.value,
        steps=list(found.steps),
        rung=rung if altered else found.rung,
        verdict=verdict,
        reason=reason,
        evidence=_evidence(found, history.program, today, file.rule_overrides.values()),
        day=today,
        due_on=_due(found, accept, due_on, today),
        version=version,
        by=by,
        at=now,
    )
    record_changed.send(Decision, client_id=client.pk)
    return decision


def _next_version(
    client: Client, program, found: Proposal, rung, after: int, reason: str, by: User, now
) -> ProgramVersion:
    today = clock.local_date(now, client.time_zone)
    try:
        return activate_next(
            client,
            accepted(program, found, today, rung=rung),
            after=after,
            written_reason=reason,
            by=by,
            now=now,
            active_from=today,
        )
    except StaleVersion as stale:
        raise UsecaseRefused(_changed_by(stale.current)) from stale
    except PlanError as error:
        raise UsecaseRefused(core_words(error)) from error


def _changed_by(version: ProgramVersion | None) -> str:
    if version is None:
        return _("There is no program; nothing was changed.")
    return _(
        "%(name)s made version %(number)s meanwhile. Nothing of yours was changed: look again."
    ) % {"name": version.activated_by.name, "number": version.number}


def _evidence(found: Proposal, program, today: date, numbers: Mapping[str, float]) -> dict:
    """The proposal in words and codes, with the numbers that were otherwise than shipped."""
    return {
        "about": ", ".join(step_names(found, program)),
        "reasons": reasons_data(found.reasons),
        "against": [why.words for why in found.against],
        "numbers": dict(numbers),
    }


def _due(found: Proposal, accept: bool, due_on: date | None, today: date) -> date | None:
    if not accept or found.act not in DUE_DAYS:
        return None
    usual = today + timedelta(days=DUE_DAYS[found.act])
    return due_on if due_on and due_on >= today else usual


@transaction.atomic
def mark_done(client: Client, decision_id, *, by: User, now) -> None:
    """The task of a decision is done; twice is harmless."""
    decision = Decision.objects.filter(client=client, pk=decision_id).first()
    if decision is None or decision.due_on is None:
        raise UsecaseRefused(_("There is no such task."))
    if decision.act == Act.CONTACT and not hasattr(decision, "done"):
        raise UsecaseRefused(_("Write what the client said and what was decided."))
    DecisionDone.objects.get_or_create(
        decision=decision,
        defaults={"clinic_id": client.clinic_id, "client": client, "by": by, "at": now},
    )
    record_changed.send(DecisionDone, client_id=client.pk)
