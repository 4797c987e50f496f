"""A stored measurement and its contour; of sound nothing is kept here."""

import uuid
import zlib

import numpy as np
from django.db import models
from django.utils.translation import gettext_lazy as _

from core.formats.packed import unfolded
from core.sound.calibration import LevelReference
from core.sound.figures import Contour as Curve
from core.sound.kernel import HOP_S
from web.clinic.records import ClinicRecord


class Taken(models.TextChoices):
    """How an attempt was taken."""

    LIVE = "live", _("measured live")
    WAV = "wav", _("measured after sending")
    STOPWATCH = "stopwatch", _("stopwatch")
    TYPED = "typed", _("typed in")
    PAPER = "paper", _("from paper")


def device_name(device: dict, input_name: str) -> str:
    """What levels are compared by: the microphone's own name, or the kind of input."""
    return str(device.get("label") or input_name)[:200]


class Measurement(ClinicRecord):
    insert_only = True

    client_id = models.UUIDField(db_index=True)
    task = models.CharField(max_length=12)
    taken = models.CharField(max_length=10, choices=Taken)
    measured_by = models.CharField(max_length=20)
    measured_at = models.DateTimeField()
    hold_s = models.FloatField(null=True)
    onset_s = models.FloatField(null=True)
    offset_s = models.FloatField(null=True)
    f0_median_hz = models.FloatField(null=True)
    f0_sd_semitones = models.FloatField(null=True)
    pitch_error_cents = models.FloatField(null=True)
    level_mean_db = models.FloatField(null=True)
    level_sd_db = models.FloatField(null=True)
    slope_db_per_s = models.FloatField(null=True)
    trail_off_db = models.FloatField(null=True)
    glide_low_hz = models.FloatField(null=True)
    glide_high_hz = models.FloatField(null=True)
    tremor_rate_hz = models.FloatField(null=True)
    tremor_extent_cents = models.FloatField(null=True)
    onset_kind = models.CharField(max_length=8, blank=True)
    glide = models.JSONField(null=True)
    room_db = models.FloatField(null=True)
    own = models.JSONField(null=True)
    verdict = models.CharField(max_length=16)
    reasons = models.JSONField(default=list)
    breaks = models.JSONField(default=list)
    device = models.JSONField(default=dict)
    input = models.CharField(max_length=20, default="microphone")

    @property
    def device_name(self) -> str:
        return device_name(self.device, self.input)

    class Meta:
        constraints = [
            models.CheckConstraint(
                name="hold_not_negative",
                condition=models.Q(hold_s=None) | models.Q(hold_s__gte=0, hold_s__lte=120),
            ),
        ]


class DeviceReference(ClinicRecord):
    """A client's voice on one device: its level, the room, and what a meter read meanwhile.

    Insert-only: the newest of a device counts. Levels in dBFS, the meter's in dB, distances in cm.
    """

    insert_only = True

    client_id = models.UUIDField(db_index=True)
    measurement = models.OneToOneField(
        Measurement, on_delete=models.PROTECT, related_name="reference"
    )
    device = models.CharField(max_length=200)
    voice_dbfs = models.FloatField()
    room_dbfs = models.FloatField(null=True)
    distance_cm = models.FloatField()
    meter_db = models.FloatField(null=True)
    meter_distance_cm = models.FloatField(default=30.0)
    by = models.ForeignKey("clinic.User", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        constraints = [
            models.CheckConstraint(
                name="reference_distances",
                condition=models.Q(
                    distance_cm__gte=5,
                    distance_cm__lte=100,
                    meter_distance_cm__gte=5,
                    meter_distance_cm__lte=100,
                ),
            ),
            models.CheckConstraint(
                name="reference_meter",
                condition=models.Q(meter_db=None) | models.Q(meter_db__gte=30, meter_db__lte=120),
            ),
        ]

    @property
    def level(self) -> LevelReference:
        """As the core computes with it."""
        return LevelReference(
            device=self.device,
            voice_dbfs=self.voice_dbfs,
            room_dbfs=self.room_dbfs,
            distance_cm=self.distance_cm,
            meter_db=self.meter_db,
            meter_distance_cm=self.meter_distance_cm,
        )


_MOST_BYTES = 2 * 100 * 3600
"""Of a contour: 16 bits every 10 ms for an hour, longer than any sound that is taken."""


class StoredContour(ClinicRecord):
    """Pitch and level every 10 ms as compressed 16-bit integers."""

    insert_only = True

    client_id = models.UUIDField(db_index=True)
    measurement = models.OneToOneField(
        Measurement, on_delete=models.PROTECT, related_name="contour"
    )
    f0 = models.BinaryField()
    level = models.BinaryField()

    @property
    def seconds(self) -> float:
        """Length of the sound, s."""
        return len(self.curve().level_db) * HOP_S

    @classmethod
    def packed(cls, measurement: Measurement, curve: Curve) -> "StoredContour":
        """Pitch in 1/50 Hz (0 = none), level in 1/100 dB."""
        f0 = np.nan_to_num(curve.f0_hz * 50).round().astype("<u2")
        level = (curve.level_db * 100).round().clip(-32768, 32767).astype("<i2")
        return cls(
            measurement=measurement,
            clinic_id=measurement.clinic_id,
            client_id=measurement.client_id,
            f0=zlib.compress(f0.tobytes()),
            level=zlib.compress(level.tobytes()),
        )

    def curve(self) -> Curve:
        """Pitch and level; ValueError, zlib.error where they cannot be read, or unfold to more than an hour."""
        f0 = np.frombuffer(unfolded(bytes(self.f0), most=_MOST_BYTES), dtype="<u2") / 50
        level = np.frombuffer(unfolded(bytes(self.level), most=_MOST_BYTES), dtype="<i2") / 100
        return Curve(f0_hz=np.where(f0 > 0, f0, np.nan), level_db=level)


class ServerProcess(models.Model):
    """A process of the server that measures live, known to the others by its pulse; of no record."""

    id = models.UUIDField(primary_key=True)
    name = models.CharField(max_length=120)
    seen_at = models.DateTimeField()

    def __str__(self) -> str:
        return self.name


class OpenAttempt(models.Model):
    """A step that is being held right now, by which attempt and in which process; gone when the attempt is over."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    sitting = models.UUIDField()
    step_id = models.CharField(max_length=80)
    attempt_id = models.UUIDField()
    process = models.ForeignKey(ServerProcess, on_delete=models.CASCADE, related_name="open")

    class Meta:
        constraints = (
            models.UniqueConstraint(fields=["sitting", "step_id"], name="one_attempt_of_a_step"),
        )

    def __str__(self) -> str:
        return f"{self.step_id} of {self.sitting}"
