"""Stop signs: what ends a home session at once."""

from enum import StrEnum


class StopSign(StrEnum):
    PAIN = "pain"
    LIGHT_HEADED = "light_headed"
    CHOKING = "choking"
    VOICE_WORSE = "voice_worse"
    BREATHING = "breathing"
    ANOTHER = "another"
