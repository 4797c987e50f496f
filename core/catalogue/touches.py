"""What a task does that a condition may forbid."""

from enum import StrEnum


class Touch(StrEnum):
    """What a task does that a condition may forbid."""

    BREATH_HOLD = "breath_hold"
    BALLOON = "balloon"
    FORCEFUL_PUFFS = "forceful_puffs"
    WATER = "water"
    DEEP_WATER = "deep_water"
    SIP = "sip"
    NECK_HANDLING = "neck_handling"
    JAW_HANDLING = "jaw_handling"
    SUSTAINED = "sustained"
    LOUDNESS = "loudness"
    RANGE = "range"
    SEMI_OCCLUDED = "semi_occluded"
