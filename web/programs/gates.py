"""The gate of a client's program as it stands today, from the record; nobody hands it in."""

from collections.abc import Mapping
from datetime import date

from core.catalogue.tasks import Task
from core.catalogue.touches import Touch
from core.program.program import Program
from core.safety.gate import Gate, Occasion
from core.safety.inferred import before_restart
from core.safety.program_gate import doings_of, program_gate
from core.safety.screening import Screening
from web.clients.models import Client
from web.clients.queries import standing_screening
from web.clinic.clock import local_date
from web.clinic.models import Clinic
from web.library.queries import catalogue_of
from web.programs.models import ProgramVersion
from web.programs.queries import active_version


def gate_of(client: Client, program: Program | None, today: date) -> Gate:
    """Whether this program may become active today."""
    return gate_with(
        client,
        program,
        today,
        screening=standing_screening(client, today),
        version=active_version(client.pk),
        tasks=catalogue_of(client.clinic),
    )


def gate_with(
    client: Client,
    program: Program | None,
    today: date,
    *,
    screening: Screening | None,
    version: ProgramVersion | None,
    tasks: Mapping[str, Task],
) -> Gate:
    """The same for a page that has read the record already."""
    does = doings_of(program, tasks) if program else ()
    return program_gate(screening, does, today, occasion_of(client, screening, version))


def running_gate(client: Client, version: ProgramVersion | None, today: date) -> Gate:
    """Whether a version that is active may be practised today."""
    return running_gate_with(
        client,
        version,
        today,
        screening=standing_screening(client, today),
        tasks=catalogue_of(client.clinic) if version else {},
    )


def running_gate_with(
    client: Client,
    version: ProgramVersion | None,
    today: date,
    *,
    screening: Screening | None,
    tasks: Mapping[str, Task],
) -> Gate:
    """The same for what has read the record already."""
    return program_gate(
        as_running(client, screening, version),
        doings_of(version.program, tasks) if version else (),
        today,
        occasion_with(client.clinic, first=False, taken_in=is_taken_in(version), strong_runs=True),
    )


def as_running(
    client: Client, screening: Screening | None, version: ProgramVersion | None
) -> Screening | None:
    """What holds of the screening for a version that runs (`before_restart`)."""
    if screening is None or version is None or screening.usual_voice_reported is None:
        return screening
    rungs = [step.grade.rung for step in version.program.all_steps if step.grade]
    activated_on = local_date(version.activated_at, client.time_zone)
    return before_restart(screening, activated_on=activated_on, rungs=rungs)


def is_taken_in(version: ProgramVersion | None) -> bool:
    """Whether it came with a record from another installation and was not activated here."""
    return version is not None and version.taken_in_on is not None


def occasion_of(
    client: Client, screening: Screening | None, version: ProgramVersion | None
) -> Occasion:
    """A first activation here, or one after a red flag that is newer than the running version."""
    first = version is None or is_taken_in(version)
    if not first and version is not None and screening is not None:
        activated = local_date(version.activated_at, client.time_zone)
        first = any(screening.noted(flag) >= activated for flag in screening.red_flags)
    strong = not first and version is not None and _is_strong(version)
    return occasion_with(client.clinic, first=first, strong_runs=strong)


def _is_strong(version: ProgramVersion) -> bool:
    """Whether a version that runs has strong voice already."""
    return any(Touch.LOUDNESS in one.touches for one in doings_of(version.program))


def occasion_with(
    clinic: Clinic, *, first: bool, taken_in: bool = False, strong_runs: bool = False
) -> Occasion:
    """With the numbers of the clinic."""
    return Occasion(
        first=first,
        strong_runs=strong_runs,
        reachable=bool(clinic.telephone.strip()),
        taken_in=taken_in,
        always_examined=clinic.always_examined,
        hoarse_weeks=clinic.hoarse_weeks,
        examination_days=clinic.examination_days,
    )
