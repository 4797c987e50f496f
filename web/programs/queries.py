"""What pages read of programs."""

import itertools
from collections.abc import Sequence
from datetime import date, timedelta

from core.dose.tide import Prescribed
from core.plans.program import Program
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
                last=later.active_from - timedelta(days=1) if later else None,
                dose=routine.dose,
            )
            for routine in version.program.routines
        ]
    return [s for s in stretches if s.last is None or s.last >= s.first]


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


def last_climb(versions: Sequence[ProgramVersion]) -> date | None:
    """The day of the last version that stands on a higher rung than the one before it."""
    pairs = itertools.pairwise(versions)
    days = [b.active_from for a, b in pairs if _climbed(a.program, b.program)]
    return max(days, default=None)


def _climbed(before: Program, after: Program) -> bool:
    """Whether any step stands on a higher rung than in the version before."""
    rungs = {step.step_id: step.grade.rung for step in before.steps if step.grade}
    return any(
        step.grade.rung > rungs[step.step_id]
        for step in after.steps
        if step.grade and step.step_id in rungs
    )
