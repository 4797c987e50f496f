"""A record's program and results for a hospital's system, gathered for `core.formats.fhir_bundle`."""

from collections.abc import Iterator, Sequence
from datetime import date, datetime
from typing import Any

from core.formats.fhir_bundle import Figure, Plan, Result, Subject, bundle_of
from core.grading.in_session import in_session
from core.program.step_words import asks_words
from web.clients.baseline.measured import MeasuredView
from web.clients.baseline.view import BaselineView
from web.clients.models import Baseline, Client
from web.practice.models import Attempt, Entry, HomeSession
from web.practice.sessions.levels import conversations, level_references, resets_of
from web.practice.sessions.queries import attempts_in
from web.practice.today.practicable import practicable
from web.programs.client_file import ClientFile
from web.review.results.sessions import step_names
from web.review.results.since_first import baseline_figures
from web.review.results.step_figures import References, tried_of


def bundle_for(client: Client, *, first: date, last: date, now: datetime) -> dict[str, Any]:
    """The program in force and what was found from first to last day, as FHIR R4B."""
    file = ClientFile(client, last)
    version = file.version
    plan = None
    if version is not None:
        program = version.program
        plan = Plan(
            version_id=str(version.pk),
            number=version.number,
            since=version.active_from,
            program=program,
            words={step.step_id: asks_words(step) for step in program.steps},
            names=step_names(program),
            on_hold=bool(file.running_gate.blocks),
            resting=frozenset(step.step_id for step in practicable(file, program).resting),
        )
    subject = Subject(
        client_id=str(client.pk),
        name=client.name,
        born_on=client.born_on,
        clinic=client.clinic.name,
        clinic_id=str(client.clinic_id),
        clinician=client.clinician.name,
        clinician_id=str(client.clinician_id),
    )
    found = [*_baselines(client, first, last), *_home_sessions(file, first)]
    return bundle_of(subject, plan, found, now=now)


def _baselines(client: Client, first: date, last: date) -> Iterator[Result]:
    rows = Baseline.objects.filter(client=client, recorded_at__date__range=(first, last))
    for row in rows.order_by("recorded_at"):
        row.client = client
        recorded_at = row.recorded_at or row.begun_at
        view = BaselineView.of(row, client.age_on(recorded_at.date()))
        for one in baseline_figures(MeasuredView(view, client.clinic.a4_hz)):
            figure = Figure(code=one.code, value=one.value)
            yield Result(
                key=f"{row.pk} {one.code}",
                code=one.code,
                words=f"{one.code} ({one.scale})" if one.scale else one.code.replace("_", " "),
                at=recorded_at,
                figures=(figure,),
                device=one.device,
                of_plan=False,
            )


def _home_sessions(file: ClientFile, first: date) -> Iterator[Result]:
    """Those from a day to the day of the file."""
    client = file.client
    rows = HomeSession.objects.filter(client=client, practice_day__range=(first, file.today))
    sessions = list(rows.select_related("version").order_by("started_at"))
    ids = [session.pk for session in sessions]
    by_session: dict[Any, list[Attempt]] = {}
    for attempt in attempts_in(HomeSession.objects.filter(pk__in=ids)):
        if not attempt.left_out:
            by_session.setdefault(attempt.home_session_id, []).append(attempt)
    said = {
        (entry.home_session_id, str(entry.step_id)): entry.value
        for entry in Entry.objects.filter(home_session__in=ids, kind="strain").order_by("at")
    }
    resets = resets_of(client.pk)
    references = References(
        soft=level_references(client.pk, file.versions, resets),
        talk=conversations(client.pk, resets),
    )
    for session in sessions:
        names = step_names(session.version.program)
        for step in session.version.program.all_steps:
            own = [
                row for row in by_session.get(session.pk, ()) if str(row.step_id) == step.step_id
            ]
            if not own:
                continue
            figures = _figures(in_session(step, [tried_of(row, step, references) for row in own]))
            strain = said.get((session.pk, step.step_id))
            if strain is not None:
                figures.append(Figure(code="strain_after", value=float(strain)))
            yield Result(
                key=f"{session.pk} {step.step_id}",
                code="step",
                words=names.get(step.step_id, step.name),
                at=session.started_at,
                figures=tuple(figures),
                method=", ".join(dict.fromkeys(str(row.get_taken_display()) for row in own)),
            )


def _figures(found: Sequence[Any]) -> list[Figure]:
    return [
        Figure(code=one.code, value=one.value, of=one.of, why=str(one.why or "")) for one in found
    ]
