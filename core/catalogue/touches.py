"""What a task or one of its rungs does that a condition may forbid."""

from enum import StrEnum


class Touch(StrEnum):
    """What a task does that a condition may forbid.

    easy_lead: an easy cough, laugh or sigh that is led into a hum; target_pitch: another speaking
    pitch; find_pitch: the comfortable one is looked for. nothing: looked at, and none of
    the others. Those after it are worked out, nobody declares them. Of a step: voiced; gentle = held
    softly on one easy note, semi-occluded; pitch_up = its target pitch goes up; unknown = nobody
    has said what it touches. Of a task, by
    its family and what it needs: breath, straw, spoken (articulation, carry-over), resonance (hum and
    ng into words).
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
    EASY_LEAD = "easy_lead"
    TARGET_PITCH = "target_pitch"
    FIND_PITCH = "find_pitch"
    NOTHING = "nothing"
    VOICED = "voiced"
    GENTLE = "gentle"
    UNKNOWN = "unknown"
    BREATH = "breath"
    STRAW = "straw"
    SPOKEN = "spoken"
    RESONANCE = "resonance"
    PITCH_UP = "pitch_up"


WORKED_OUT = frozenset(
    {
        Touch.VOICED,
        Touch.GENTLE,
        Touch.UNKNOWN,
        Touch.BREATH,
        Touch.STRAW,
        Touch.SPOKEN,
        Touch.RESONANCE,
        Touch.PITCH_UP,
    }
)
