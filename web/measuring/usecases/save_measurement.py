"""Save a measurement with its contour."""

import uuid
from datetime import datetime

from core.sound.figures import Figures
from web.clinic.records import ClinicRecord
from web.measuring.models import Measurement, StoredContour
from web.measuring.sinks import AttemptOffer, AttemptTaken
from web.measuring.store import measurement_of


def save_caught(
    caught: AttemptTaken,
    offer: AttemptOffer,
    *,
    record: ClinicRecord,
    client_id: uuid.UUID,
    now: datetime,
) -> Measurement | None:
    """Store what an attempt measured, for the client of `record`; None if it was only timed."""
    if caught.figures is None:
        return None
    return save_measurement(
        caught.figures,
        clinic_id=record.clinic_id,
        client_id=client_id,
        taken=caught.taken,
        input_name=offer.input,
        device=offer.device,
        now=now,
    )


def save_measurement(figures: Figures, **fields) -> Measurement:
    """Store the row and, where something was heard, its contour."""
    row = measurement_of(figures, **fields)
    row.save(force_insert=True)
    if len(figures.contour.f0_hz):
        StoredContour.packed(row, figures.contour).save(force_insert=True)
    return row
