"""Levels at home, dBFS, each only against the same device: the soft reference and usual talk."""

from collections.abc import Iterable, Mapping
from datetime import datetime
from statistics import median
from typing import Any

from django.db.models import F, QuerySet, Value, Window
from django.db.models.fields.json import KeyTextTransform
from django.db.models.functions import Coalesce, FirstValue, Left, NullIf

from web.practice.models import USUAL_TALK, Attempt, LevelReset
from web.practice.sessions.remarks import left_out
from web.programs.models import ProgramVersion


def device_of(attempt: Attempt) -> str:
    return attempt.measurement.device_name if attempt.measurement else ""


Resets = Mapping[tuple[str, str], datetime]
"""When a level of a kind on a device was last put aside, to be taken anew."""


def level_references(
    client_id,
    versions: Iterable[ProgramVersion] | None = None,
    resets: Resets | None = None,
) -> dict[str, float]:
    """Soft reference of each device, dBFS: the median level of the soft holds of the first home
    session on it since it was last taken anew. Strong holds are kept apart: they never enter.
    `versions`, `resets`: all of the client's, where they were read already."""
    if versions is None:
        versions = ProgramVersion.objects.filter(client_id=client_id).only("content")
    rows = _with_device(client_id, LevelReset.SOFT, resets)
    first = Window(
        FirstValue("home_session_id"), partition_by="device_named", order_by=["started_at", "pk"]
    )
    levels: dict[str, list[float]] = {}
    soft = rows.filter(step_id__in=soft_step_ids(versions)).annotate(first=first)
    found = soft.filter(first=F("home_session_id"))
    for device, level in found.values_list("device_named", "measurement__level_mean_db"):
        levels.setdefault(device, []).append(level)
    return {device: median(heard) for device, heard in levels.items()}


def conversations(client_id, resets: Resets | None = None) -> dict[str, float]:
    """Level of usual talk on each device at home, dBFS: the newest since it was taken anew."""
    rows = _with_device(client_id, LevelReset.CONVERSATION, resets).filter(step_id=USUAL_TALK)
    newest = rows.order_by("device_named", "-started_at", "pk").distinct("device_named")
    return dict(newest.values_list("device_named", "measurement__level_mean_db"))


def _with_device(client_id, kind: str, resets: Resets | None) -> QuerySet[Any]:
    """Attempts with a level, each with its device, but for those before the level was taken anew;
    the device is named as `device_of` does."""
    label = NullIf(KeyTextTransform("label", "measurement__device"), Value(""))
    named = Left(Coalesce(label, F("measurement__input")), 200)
    rows = Attempt.objects.filter(client_id=client_id, measurement__level_mean_db__isnull=False)
    rows = rows.filter(~left_out()).annotate(device_named=named)
    for (of_kind, device), at in (resets_of(client_id) if resets is None else resets).items():
        if of_kind == kind:
            rows = rows.exclude(device_named=device, received_at__lte=at)
    return rows


def soft_step_ids(versions: Iterable[ProgramVersion]) -> set[str]:
    """The steps of evenly held soft notes of these versions: no level is aimed at in them, and none
    grows within (a swell is no soft hold)."""
    return {
        step.step_id
        for version in versions
        for step in version.program.steps
        if step.level is None and step.target.form == "holds"
    }


def resets_of(client_id) -> Resets:
    """Every level of a client that was put aside."""
    rows = LevelReset.objects.filter(client_id=client_id).order_by("at")
    return {(row.kind, row.device): row.at for row in rows}
