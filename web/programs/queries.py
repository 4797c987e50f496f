"""What pages read of programs."""

import itertools
from collections.abc import Sequence
from datetime import date, timedelta

from core.dose.tide import Prescribed
from core.grading.history import Climbed
from core.program.program import Program
from web.clients.models import Client
from web.programs.models import ProgramVersion, TriedTask


def active_version(client_id) -> ProgramVersion | None:
    """The version in force; None before the first activation."""
    return ProgramVersion.objects.filter(client_id=client_id).order_by("-number").first()


def prescribed_stretches(versions: Sequence[ProgramVersion]) -> list[Prescribed]:
    """The dose of each routine of each version over the days it was in force; versions oldest
    first."""
    stretches = []
    for place, version in enumerate(versions):
        later = versions[place + 1] if place + 1 < len(versions) else None
        stretches += [
            Prescribed(
                routine=routine.key,
                first=version.active_from,
                last=_last_day(version, later),
                dose=routine.dose,
            )
            for routine in version.program.routines
        ]
    return [s for s in stretches if s.last is None or s.last >= s.first]


def _last_day(version: ProgramVersion, later: ProgramVersion | None) -> date | None:
    """The last day a version was in force: the one before the next, or before it came from elsewhere; None = it
    still is."""
    after = later.active_from if later else version.taken_in_on
    if later and version.taken_in_on:
        after = min(later.active_from, version.taken_in_on)
    return after - timedelta(days=1) if after else None


def asked_today(versions: Sequence[ProgramVersion], day: date) -> dict[str, int]:
    """Home sessions asked for on a local date, by the key of the routine."""
    asked: dict[str, int] = {}
    for stretch in prescribed_stretches(versions):
        asked[stretch.routine] = asked.get(stretch.routine, 0) + stretch.on(day)
    return asked


def tried_tasks(client_id) -> dict[str, TriedTask]:
    """The newest try of each task, oldest first."""
    rows = TriedTask.objects.filter(client_id=client_id).order_by("at")
    return {row.task: row for row in rows}


def versions_of(client: Client) -> list[ProgramVersion]:
    return list(ProgramVersion.objects.filter(client=client).order_by("number"))


def rung_changes(versions: Sequence[ProgramVersion]) -> list[Climbed]:
    """Every step that stands on another rung than in the version before, oldest first."""
    return [
        change
        for before, after in itertools.pairwise(versions)
        for change in _rungs_changed(before.program, after.program, after.active_from)
    ]


def _rungs_changed(before: Program, after: Program, day: date) -> list[Climbed]:
    rungs = {step.step_id: step.grade.rung for step in before.steps if step.grade}
    return [
        Climbed(step_id=s.step_id, day=day, rung=s.grade.rung, from_rung=rungs[s.step_id])
        for s in after.steps
        if s.grade and rungs.get(s.step_id, s.grade.rung) != s.grade.rung
    ]
