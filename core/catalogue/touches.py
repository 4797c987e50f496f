"""What a task or one of its rungs does that a condition may forbid."""

from enum import StrEnum


class Touch(StrEnum):
    """What a task does that a condition may forbid.

    nothing: looked at, and none of the others. The last three are worked out of a step, nobody
    declares them: voiced; gentle = held softly on one easy note, semi-occluded; unknown = nobody
    has said what it touches.
    """

    BREATH_HOLD = "breath_hold"
    BALLOON = "balloon"
    FORCEFUL_PUFFS = "forceful_puffs"
    WATER = "water"
    DEEP_WATER = "deep_water"
    SIP = "sip"
    NECK_HANDLING = "neck_handling"
    JAW_HANDLING = "jaw_handling"
    LYING_FLAT = "lying_flat"
    BENDING_FORWARD = "bending_forward"
    STANDING = "standing"
    SUSTAINED = "sustained"
    LOUDNESS = "loudness"
    RANGE = "range"
    SEMI_OCCLUDED = "semi_occluded"
    NOTHING = "nothing"
    VOICED = "voiced"
    GENTLE = "gentle"
    UNKNOWN = "unknown"


WORKED_OUT = frozenset({Touch.VOICED, Touch.GENTLE, Touch.UNKNOWN})
