"""Keep a level reference of a client on a device."""

from django.db import transaction
from django.utils.translation import gettext

from web.clients.models import BaselineAttempt
from web.clinic.models import User
from web.clinic.refusal import UsecaseRefused
from web.measuring.models import DeviceReference


@transaction.atomic
def save_reference(
    attempt: BaselineAttempt,
    *,
    distance_cm: float,
    meter_db: float | None,
    meter_distance_cm: float,
    by: User,
    now,
) -> DeviceReference:
    """From a measured “ah”; the same attempt again changes nothing. Core errors of distance and
    reading come through."""
    row = attempt.measurement
    if row is None or row.level_mean_db is None:
        raise UsecaseRefused(
            gettext(
                "This attempt has no level: the device changes its gain by itself, or only a stopwatch ran."
            )
        )
    reference = DeviceReference(
        clinic_id=attempt.clinic_id,
        client_id=attempt.client_id,
        measurement=row,
        device=row.device_name,
        voice_dbfs=row.level_mean_db,
        room_dbfs=row.room_db,
        distance_cm=distance_cm,
        meter_db=meter_db,
        meter_distance_cm=meter_distance_cm,
        by=by,
        at=now,
    )
    _ = reference.level
    DeviceReference.objects.bulk_create([reference], ignore_conflicts=True)
    return DeviceReference.objects.get(measurement=row)
