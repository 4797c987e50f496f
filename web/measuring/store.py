"""Turns figures into stored rows; called inside the transaction of whoever keeps the attempt."""

import logging
import uuid
import zlib
from dataclasses import replace
from datetime import datetime
from typing import Any

from core.errors import CoreError
from core.kinds.registry import kinds, measured_task, read_task_figures
from core.reason import table_reason
from core.sound import VERSION
from core.sound.figures import (
    Break,
    Contour,
    Figures,
    Glide,
    Quality,
    QualityVerdict,
    Tremor,
    reasons_of,
)
from web.measuring.models import Measurement

log = logging.getLogger(__name__)
UNREADABLE = "What was kept of this attempt cannot be read: {id}. Tell whoever runs the site."


def measurement_of(
    figures: Figures,
    *,
    clinic_id: uuid.UUID | str,
    client_id: uuid.UUID | str,
    taken: str,
    input_name: str,
    device: dict,
    now: datetime,
    measured_by: str = f"kernel {VERSION}",
) -> Measurement:
    """An unsaved row. With the device's gain control still on, levels are not kept."""
    data = figures.as_data(contour=False)
    levels = {} if device.get("autoGainControl") is True else data["level_db"]
    reasons = data["quality"]["reasons"]
    verdict = data["quality"]["verdict"]
    if device.get("noiseSuppression") is True and verdict == "good":
        verdict = "usable"
        text = "The device filters noise and may cut soft sound."
        reasons = [*reasons, {"code": "noise_suppression", "text": text}]
    glide, tremor, own = figures.glide, figures.tremor, figures.own
    if own and not levels:
        own = own.without_levels()
    return Measurement(
        clinic_id=clinic_id,
        client_id=client_id,
        task=figures.task,
        taken=taken,
        measured_by=measured_by,
        measured_at=now,
        hold_s=data["hold_s"],
        onset_s=data["onset_s"],
        offset_s=data["offset_s"],
        f0_median_hz=data["f0_hz"]["median"],
        f0_sd_semitones=data["f0_hz"]["sd_semitones"],
        pitch_error_cents=data["pitch_error_cents"],
        level_mean_db=levels.get("mean"),
        level_sd_db=levels.get("sd"),
        slope_db_per_s=levels.get("slope_db_per_s"),
        trail_off_db=levels.get("trail_off_db"),
        glide_low_hz=glide.low_hz if glide else None,
        glide_high_hz=glide.high_hz if glide else None,
        room_db=figures.room_db if levels else None,
        glide=data.get("glide"),
        own=own.as_data() if own else None,
        tremor_rate_hz=tremor.rate_hz if tremor else None,
        tremor_extent_cents=tremor.extent_cents if tremor else None,
        onset_kind=figures.onset or "",
        verdict=verdict,
        reasons=reasons,
        breaks=data["breaks"],
        device=device,
        input=input_name,
    )


def stored_figures(row: Measurement) -> Figures:
    """The stored figures as the core knows them; the contour is empty where none was stored."""
    stored, found = getattr(row, "contour", None), figures_of(row)
    try:
        curve = stored.curve() if stored else Contour.none()
    except (zlib.error, ValueError, TypeError):
        log.exception("the contour of measurement %s cannot be read", row.pk)
        return _unreadable(row)
    return replace(found, contour=curve)


def figures_of(row: Measurement) -> Figures:
    """The stored figures without their contour, which is not read. A row that cannot be parsed takes no page
    down: it is not measurable and says so with its id."""
    try:
        stored = _parsed(row)
    except (CoreError, KeyError, TypeError, ValueError):
        log.exception("measurement %s cannot be read", row.pk)
        return _unreadable(row)
    same = ("onset_s", "offset_s", "f0_median_hz", "f0_sd_semitones", "pitch_error_cents")
    levels = ("level_mean_db", "level_sd_db", "slope_db_per_s", "trail_off_db", "room_db")
    tremor_cents = row.tremor_extent_cents or 0.0
    return Figures(
        **stored,
        target=None,
        contour=Contour.none(),
        hold_s=row.hold_s,
        tremor=Tremor(row.tremor_rate_hz, tremor_cents) if row.tremor_rate_hz else None,
        onset=row.onset_kind or None,
        **{name: getattr(row, name) for name in (*same, *levels)},
    )


def _parsed(row: Measurement) -> dict[str, Any]:
    """What the row holds as text and JSON, in the core's own types; nothing else happens here, so that an error
    of the code elsewhere is not taken for a damaged row."""
    return {
        "task": measured_task(row.task),
        "quality": Quality(QualityVerdict(row.verdict), reasons_of(row.reasons)),
        "breaks": tuple(Break(**one) for one in row.breaks),
        "glide": Glide.read(row.glide) if row.glide else None,
        "own": read_task_figures(row.own),
    }


def _unreadable(row: Measurement) -> Figures:
    task = row.task if row.task in kinds() else "hold"
    quality = Quality(
        QualityVerdict.NOT_MEASURABLE,
        (table_reason("row_unreadable", UNREADABLE.format(id=row.pk)),),
    )
    return Figures(task=task, target=None, quality=quality, contour=Contour.none(), hold_s=None)
