"""The state of the voice and of the airway as it is asked in a screening, and what a surgeon has released."""

from enum import StrEnum

from core.reason import told_as


class VoiceState(StrEnum):
    """The one question about the voice: no_complaint (not hoarse, weak, tiring or sore, no range lost);
    clear_again (troubled before, clear now); troubled (hoarse or otherwise troubled); no_voice."""

    NO_COMPLAINT = "no_complaint"
    CLEAR_AGAIN = "clear_again"
    TROUBLED = "troubled"
    NO_VOICE = "no_voice"


class Airway(StrEnum):
    """What the client breathes and speaks through."""

    LARYNX = "larynx"
    TRACHEOSTOMY = "tracheostomy"
    NO_LARYNX = "no_larynx"


class Release(StrEnum):
    """What the surgeon has released the folds for: gentle (semi-occlusion, hum and resonance at the
    habitual pitch) or full (no limits)."""

    GENTLE = "gentle"
    FULL = "full"


VOICE_WORDS = told_as(
    "voice",
    {
        VoiceState.NO_COMPLAINT: "No complaint now: not hoarse, weak, tiring or sore, no range lost",
        VoiceState.CLEAR_AGAIN: "Hoarse or troubled before, clear now",
        VoiceState.TROUBLED: "Hoarse or otherwise troubled",
        VoiceState.NO_VOICE: "No voice",
    },
)
AIRWAY_WORDS = told_as(
    "airway",
    {
        Airway.LARYNX: "Larynx",
        Airway.TRACHEOSTOMY: "Tracheostomy",
        Airway.NO_LARYNX: "No larynx",
    },
)
RELEASE_WORDS = told_as(
    "release",
    {
        Release.GENTLE: "Gentle voicing only",
        Release.FULL: "No limits",
    },
)
