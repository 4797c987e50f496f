"""What each home session came to, kept beside the record for the rules of grading."""

from collections.abc import Iterable, Sequence
from typing import Any

from django.db import transaction
from django.db.models import Q
from pydantic import TypeAdapter

from core.dose.taper import on_day
from core.grading.history import StepDone, Trial
from core.grading.rule import named_figures
from core.grading.step_done import step_done
from web.clients.models import Client
from web.practice.models import Attempt, Entry, HomeSession, Outcome
from web.practice.sessions.levels import conversations, device_of, level_references, resets_of
from web.practice.sessions.queries import attempts_in
from web.practice.usecases.save_entry import whole
from web.programs.queries import versions_of
from web.review.models import SessionResult
from web.review.results.step_figures import References, tried_of

STEPS = TypeAdapter(tuple[StepDone, ...])
SAID = ("strain", "effort", "gasped")


def save_results(client: Client, *, sessions: Iterable[Any] = (), every: bool = False) -> None:
    """Work out what these home sessions came to, and every other that was left open or has no result;
    `every`: all of the client's anew, for what changes levels changes every session."""
    rows = HomeSession.objects.filter(client=client).select_related("version", "client")
    if not every:
        wanted = Q(pk__in=list(sessions)) | Q(result=None) | Q(outcome=Outcome.OPEN)
        rows = rows.filter(wanted)
    found = list(rows)
    if not found:
        return
    steps = steps_of(client, found)
    signs = Entry.objects.filter(home_session__in=found, kind="stop").order_by("at")
    sign_steps = {row.home_session_id: str(row.step_id) for row in signs if row.step_id}
    results = [
        SessionResult(
            clinic_id=client.clinic_id,
            client=client,
            home_session=session,
            steps=STEPS.dump_python(steps[session.pk], mode="json"),
            whole=_whole(session),
            sign_step=sign_steps.get(session.pk),
        )
        for session in found
    ]
    with transaction.atomic():
        SessionResult.objects.bulk_create(
            results,
            update_conflicts=True,
            unique_fields=["home_session"],
            update_fields=["steps", "whole", "sign_step"],
        )


def _whole(session: HomeSession) -> bool:
    """Whether it counts for more than kept: as it ended; left open, by what was done of it, also where
    some of that is left out of figures."""
    if session.outcome != Outcome.OPEN:
        return session.outcome == Outcome.KEPT
    program = on_day(session.version.program, session.practice_day)
    return whole(session, program.routine(session.routine).steps)


def steps_of(client: Client, sessions: Sequence[HomeSession]) -> dict[Any, tuple[StepDone, ...]]:
    """Every step of these home sessions of which something was tried, by the id of the session."""
    ids = [session.pk for session in sessions]
    attempts = attempts_in(HomeSession.objects.filter(pk__in=ids))
    entries = Entry.objects.filter(home_session__in=ids, kind__in=SAID).exclude(step_id=None)
    said: dict[Any, dict[str, dict[str, float]]] = {}
    for entry in entries:
        of_step = said.setdefault(entry.home_session_id, {}).setdefault(str(entry.step_id), {})
        of_step[entry.kind] = max(float(entry.value), of_step.get(entry.kind, 0.0))
    resets = resets_of(client.pk)
    references = References(
        soft=level_references(client.pk, versions_of(client), resets),
        talk=conversations(client.pk, resets),
    )
    rows: dict[Any, list[Attempt]] = {}
    for attempt in attempts:
        rows.setdefault(attempt.home_session_id, []).append(attempt)
    return {
        session.pk: _steps(session, rows.get(session.pk, []), said.get(session.pk, {}), references)
        for session in sessions
    }


def _steps(
    session: HomeSession,
    attempts: Sequence[Attempt],
    said: dict[str, dict[str, float]],
    references: References,
) -> tuple[StepDone, ...]:
    found = []
    for step in session.version.program.all_steps:
        own = [r for r in attempts if str(r.step_id) == step.step_id and not r.left_out]
        if own:
            tries = [tried_of(row, step, references) for row in own]
            device = next((name for row in reversed(own) if (name := device_of(row))), "")
            done = step_done(step, tries, said.get(step.step_id, {}), device=device)
            found.append(_lean(done))
    return tuple(found)


def _lean(done: StepDone) -> StepDone:
    """The figures that rules read, and no others."""
    kept = named_figures()
    trials = tuple(
        Trial(note=one.note, heard=one.heard, figures=_only(one.figures, kept))
        for one in done.trials
    )
    return StepDone(
        step_id=done.step_id,
        rung=done.rung,
        asked=done.asked,
        notes=done.notes,
        trials=trials,
        figures=_only(done.figures, kept),
        said=done.said,
        device=done.device,
    )


def _only(figures: Any, kept: frozenset[str]) -> dict[str, float | None]:
    return {code: value for code, value in figures.items() if code in kept}
