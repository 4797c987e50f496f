"""Levels at home, dBFS, each only against the same device: the soft reference and usual talk."""

from collections.abc import Iterable
from datetime import datetime
from statistics import median

from web.practice.models import USUAL_TALK, Attempt, LevelReset
from web.programs.models import ProgramVersion


def device_of(attempt: Attempt) -> str:
    return attempt.measurement.device_name if attempt.measurement else ""


def level_references(
    client_id, versions: Iterable[ProgramVersion] | None = None
) -> dict[str, float]:
    """Soft reference of each device, dBFS: the median level of the soft holds of the first home
    session on it since it was last taken anew. Strong holds are kept apart: they never enter.
    `versions`: all of the client's, where they were read already."""
    if versions is None:
        versions = ProgramVersion.objects.filter(client_id=client_id).only("content")
    anew = resets_of(client_id, LevelReset.SOFT)
    rows = (
        Attempt.objects.filter(
            client_id=client_id,
            measurement__level_mean_db__isnull=False,
            step_id__in=soft_step_ids(versions),
        )
        .order_by("started_at")
        .select_related("measurement")[:400]
    )
    levels: dict[str, tuple[object, list[float]]] = {}
    for row in rows:
        if (at := anew.get(device_of(row))) is not None and row.received_at <= at:
            continue
        session, found = levels.setdefault(device_of(row), (row.home_session_id, []))
        level = row.measurement.level_mean_db if row.measurement else None
        if row.home_session_id == session and level is not None:
            found.append(level)
    return {device: median(found) for device, (_session, found) in levels.items()}


def soft_step_ids(versions: Iterable[ProgramVersion]) -> set[str]:
    """The steps of evenly held soft notes of these versions: no level is aimed at in them, and none
    grows within (a swell is no soft hold)."""
    return {
        step.step_id
        for version in versions
        for step in version.program.steps
        if step.level is None and step.target.form == "holds"
    }


def resets_of(client_id, kind: str) -> dict[str, datetime]:
    """When a reference of each device was last put aside, to be taken anew."""
    rows = LevelReset.objects.filter(client_id=client_id, kind=kind).order_by("at")
    return {row.device: row.at for row in rows}


def conversations(client_id) -> dict[str, float]:
    """Level of usual talk on each device at home, dBFS: the newest since it was taken anew."""
    anew = resets_of(client_id, LevelReset.CONVERSATION)
    rows = (
        Attempt.objects.filter(
            client_id=client_id,
            step_id=USUAL_TALK,
            measurement__level_mean_db__isnull=False,
        )
        .order_by("started_at")
        .select_related("measurement")
    )
    found: dict[str, float] = {}
    for row in rows:
        at = anew.get(device_of(row))
        level = row.measurement.level_mean_db if row.measurement else None
        if level is not None and (at is None or row.received_at > at):
            found[device_of(row)] = level
    return found
