"""The closed vocabularies of the task files: what a task is for, needs and shows."""

from enum import StrEnum

from core.reason import told_as


class Aim(StrEnum):
    """What a task is for: the purposes by which tasks are searched and substituted."""

    RELEASE = "release"
    BREATH = "breath"
    ONSET = "onset"
    CLOSURE = "closure"
    STEADINESS = "steadiness"
    EASE = "ease"
    LOUDNESS = "loudness"
    RANGE = "range"
    RESONANCE = "resonance"
    SPEAKING_PITCH = "speaking_pitch"
    CLEAR_SPEECH = "clear_speech"
    CARRY_OVER = "carry_over"
    CARE = "care"


class Equipment(StrEnum):
    THIN_STRAW = "thin_straw"
    WIDE_TUBE = "wide_tube"
    GLASS_OF_WATER = "glass_of_water"
    MIRROR = "mirror"
    BOOK = "book"
    BALLOON = "balloon"
    MAP = "map"


class Skill(StrEnum):
    """What a client must be able to do, where not everybody can."""

    TONGUE_TRILL = "tongue_trill"
    LIP_TRILL = "lip_trill"
    NOSE_OPEN = "nose_open"
    READING = "reading"
    LYING_DOWN = "lying_down"
    RAISING_ARMS = "raising_arms"


class Growth(StrEnum):
    """The one dimension in which a step of the task climbs."""

    NONE = "none"
    SECONDS = "seconds"
    BEATS_OUT = "beats_out"
    FORM = "form"
    DECIBELS = "decibels"
    SEMITONES = "semitones"
    COUNT = "count"
    WIDTH = "width"
    CUE = "cue"
    TEMPO = "tempo"
    PLACE = "place"


TOLD_IN_WORDS = (Growth.CUE, Growth.PLACE, Growth.WIDTH)
"""Dimensions whose rungs change what is said, not the target."""
NAMED_RUNGS = (*TOLD_IN_WORDS, Growth.FORM)
"""Dimensions whose rungs have codes; the rungs of the others are numbers."""

AIM_WORDS = told_as(
    "aim",
    {
        Aim.RELEASE: "Release of tension",
        Aim.BREATH: "Breath",
        Aim.ONSET: "Start of the voice",
        Aim.CLOSURE: "Closing of the folds",
        Aim.STEADINESS: "Steadiness",
        Aim.EASE: "Ease of voicing",
        Aim.LOUDNESS: "Loudness",
        Aim.RANGE: "Range",
        Aim.RESONANCE: "Resonance",
        Aim.SPEAKING_PITCH: "Speaking pitch",
        Aim.CLEAR_SPEECH: "Clear speech",
        Aim.CARRY_OVER: "Carry-over",
        Aim.CARE: "Care of the voice",
    },
)

EQUIPMENT_WORDS = told_as(
    "equipment",
    {
        Equipment.THIN_STRAW: "thin straw",
        Equipment.WIDE_TUBE: "wide tube",
        Equipment.GLASS_OF_WATER: "glass of water",
        Equipment.MIRROR: "mirror",
        Equipment.BOOK: "book",
        Equipment.BALLOON: "balloon",
        Equipment.MAP: "map",
    },
)

SKILL_WORDS = told_as(
    "skill",
    {
        Skill.TONGUE_TRILL: "trill the tongue",
        Skill.LIP_TRILL: "trill the lips",
        Skill.NOSE_OPEN: "breathe through the nose",
        Skill.READING: "read aloud",
        Skill.LYING_DOWN: "lie flat",
        Skill.RAISING_ARMS: "raise the arms",
    },
)

FAMILY_WORDS = told_as(
    "family",
    {
        "A": "Release and posture",
        "B": "Breath",
        "C": "Semi-occluded",
        "D": "Sustained notes",
        "E": "Speech loudness",
        "F": "Resonance and onset",
        "G": "Range, patterns and pitch",
        "H": "Articulation",
        "I": "Carry-over",
        "J": "Care",
        "K": "Warm-up and cool-down",
    },
)

FIGURE_WORDS = told_as(
    "asked_figure",
    {
        "hold": "hold in seconds",
        "pitch_error": "distance from the note in cents",
        "pitch_sd": "steadiness of pitch, SD in semitones",
        "level": "mean level in dB against the client's own",
        "level_sd": "evenness, SD of level in dB",
        "trail_off": "trail-off in dB",
        "breaks": "breaks and cut-outs",
        "onset": "onset: soft, hard or breathy",
        "glide": "lowest and highest note, span in semitones",
        "bubbles": "bubbles a second and their stops",
        "swell": "swell in dB up and down",
        "join": "moment and silence of the join in seconds",
        "notes": "each note's distance in cents, missing and added notes",
        "tempo": "evenness of tempo in %",
        "over_target": "share of the voiced time over the target, in %",
        "rate": "words a minute",
        "phrase_pitch": "commonest pitch of each phrase in semitones from the note",
        "pace": "breath in and out in seconds",
        "strain": "throat strain 0–10",
    },
)

SHOWN_BY_WORDS = told_as(
    "shown_by",
    {
        "faded": "trails off",
        "louder_than_probe": "level over the probe's",
        "hard_onset": "hard onset",
        "breathy_onset": "breathy onset",
        "off_note": "off the note",
        "other_octave": "in another octave",
        "gaps": "voice cuts out",
        "jumps": "jumps",
        "unsteady": "unsteady",
        "tremor": "tremor",
        "glide": "span of the glide",
        "voice_stops": "voice stops while bubbles go on",
        "bubble_stops": "bubbles stop while the voice goes on",
        "uneven": "uneven",
        "swell": "size of the swell",
        "join_gap": "silence at the join",
        "other_key": "in another key",
        "missing": "notes missing",
        "added": "notes added",
        "off_notes": "notes off by over 50 cents",
        "uneven_tempo": "uneven tempo",
        "shouted": "shouted",
        "under_target": "under the target",
        "phrases_fade": "phrases trail off",
        "off_target": "phrases away from the note",
        "reading_rate": "words a minute",
        "off_pace": "off the pace",
        "strain": "throat strain",
        "seen": "seen in the visit",
        "heard": "heard in the visit",
        "felt": "felt by the client",
    },
)
