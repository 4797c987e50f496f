"""What a level means: the device, its distance, a sound-level reading, the room.

A level in dBFS says nothing by itself. It compares within one device and distance; with a reading
of a sound-level meter it becomes decibels at 30 cm. Microphone distance, room noise: Am J Speech
Lang Pathol 2018;27:887–905.
"""

from dataclasses import dataclass

import numpy as np

from core.errors import SoundError
from core.reference.values import (
    FARTHEST_MICROPHONE,
    METER_HIGHEST,
    METER_LOWEST,
    MICROPHONE_DISTANCE,
    NEAREST_MICROPHONE,
    NOISE_UNDER_VOICE,
)


def distance_correction_db(distance_cm: float) -> float:
    """What a level taken at a distance (cm) lacks against 30 cm: 20·log10(d/30 cm), in dB.

    Free field, so not beyond 1 m: SoundError("distance_out_of_limits") outside 5–100 cm.
    """
    low, high = NEAREST_MICROPHONE.number, FARTHEST_MICROPHONE.number
    if not low <= distance_cm <= high:
        raise SoundError("distance_out_of_limits", cm=distance_cm, low=low, high=high)
    return float(20 * np.log10(distance_cm / MICROPHONE_DISTANCE.number))


@dataclass(frozen=True, slots=True, kw_only=True)
class LevelReference:
    """A voice on one device: its level (dBFS) at a microphone distance (cm), the room (dBFS, None =
    unknown), and what a sound-level meter read meanwhile at its own distance (dB, cm), if one did.

    Raises SoundError: "distance_out_of_limits", "meter_out_of_limits" (30–120 dB).
    """

    device: str
    voice_dbfs: float
    distance_cm: float
    room_dbfs: float | None = None
    meter_db: float | None = None
    meter_distance_cm: float = MICROPHONE_DISTANCE.number

    def __post_init__(self) -> None:
        distance_correction_db(self.distance_cm)
        distance_correction_db(self.meter_distance_cm)
        low, high = METER_LOWEST.number, METER_HIGHEST.number
        if self.meter_db is not None and not low <= self.meter_db <= high:
            raise SoundError("meter_out_of_limits", db=self.meter_db, low=low, high=high)

    @property
    def calibrated(self) -> bool:
        return self.meter_db is not None

    @property
    def offset_db(self) -> float | None:
        """Decibels at 30 cm minus dBFS at 30 cm; None without a meter's reading."""
        if self.meter_db is None:
            return None
        voice_dbfs = self.voice_dbfs + distance_correction_db(self.distance_cm)
        return self.meter_db + distance_correction_db(self.meter_distance_cm) - voice_dbfs

    def at_30_cm_db(self, level_dbfs: float, distance_cm: float | None = None) -> float | None:
        """A level of this device (dBFS, taken at `distance_cm`) in dB at 30 cm; None if the device
        is not calibrated."""
        if self.offset_db is None:
            return None
        distance_cm = self.distance_cm if distance_cm is None else distance_cm
        return level_dbfs + distance_correction_db(distance_cm) + self.offset_db

    @property
    def room_under_db(self) -> float | None:
        """How far the room lies under the voice, dB."""
        return None if self.room_dbfs is None else self.voice_dbfs - self.room_dbfs

    def room_is_quiet(self, softest_dbfs: float | None = None) -> bool | None:
        """Whether the room lies 10 dB and more under the softest voice (dBFS; the reference's own
        where it is unknown); None where the room is unknown."""
        if self.room_dbfs is None:
            return None
        softest = self.voice_dbfs if softest_dbfs is None else min(softest_dbfs, self.voice_dbfs)
        return softest - self.room_dbfs >= NOISE_UNDER_VOICE.number
