"""Settings that several kinds of task share."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from core.sound.settings.setting import AT_START, FRAMES, setting


@dataclass(frozen=True, slots=True)
class LiveSettings:
    """Settings for the live state during an attempt."""

    neighbor_octaves: float = setting(
        1 / 6, "octaves", "A single wrong pitch is drawn as a spike.", AT_START
    )
    regular_from: float = setting(
        0.55, "of 1", "Noise is drawn as pitch, or a hoarse voice is not drawn.", "clean 0"
    )
    under_peak_db: float = setting(
        35.0, "dB", "Reverberation after a loud note keeps the attempt running.", "clean 0"
    )
    ended_after_s: float = setting(1.2, "s", "A break in the voice ends the attempt.", AT_START)
    over_quietest_db: float = setting(
        6.0, "dB", "Room noise keeps an attempt without voice running.", "task breath 0"
    )


LIVE = LiveSettings()


@dataclass(frozen=True, slots=True)
class WholeSoundSettings:
    """Settings for the figures of one continuous sound."""

    trimmed_s: float = setting(
        0.2, "s", "The rise and fall at the ends are counted as unsteady level.", "clean 0"
    )
    room_too_near_db: float = setting(
        1.0, "dB", "Subtracting the room noise leaves an arbitrary level.", "babble 2"
    )
    ends_left_out_s: float = setting(
        0.025, "s", "The level is read where the analysis window is half silent.", "clean 0"
    )
    least_for_level: int = setting(
        10, FRAMES, "A spread and a slope are reported for too little sound."
    )
    least_at_end: int = setting(
        3, FRAMES, "A trail-off is reported from one or two frames.", "held for a third of a second"
    )


WHOLE = WholeSoundSettings()


@dataclass(frozen=True, slots=True)
class LostSoundSettings:
    """Settings for dropouts of the device."""

    beside_s: float = setting(0.06, "s", "A dropout in silence makes a good attempt unmeasurable.")


LOST = LostSoundSettings()


@dataclass(frozen=True, slots=True)
class HeldNoteSettings:
    """Settings for findings about a held note."""

    off_the_note_cents: float = setting(
        50.0, "cents", "A note closer to the next one passes as the target.", "30 cents off"
    )
    another_octave_cents: float = setting(
        900.0, "cents", "An octave off is reported as a very wrong note.", "an octave off"
    )


HELD_NOTE = HeldNoteSettings()


@dataclass(frozen=True, slots=True)
class SwellSettings:
    """Settings for measuring a swell."""

    ends_left_out: int = setting(
        10, FRAMES, "The onset itself is counted as growing.", "task hiss 0"
    )
    smoothed: int = setting(21, FRAMES, "A short accent is counted as the peak.", "task hiss 0")
    shortest: int = setting(
        60, FRAMES, "A swell is reported for a sound too short to hold one.", "swell of a second"
    )


SWELL = SwellSettings()


@dataclass(frozen=True, slots=True)
class SpeechSettings:
    """Settings for finding phrases and telling speech from other sound."""

    longest_pause_s: float = setting(
        5.0, "s", "A reader who turns the page ends the attempt.", AT_START
    )
    room_percentile: int = setting(
        10, "percentile", "Speech with few pauses is taken for room noise.", "task level 0"
    )
    peak_percentile: int = setting(
        98,
        "percentile",
        "A knock sets the peak level, and quiet phrases are missed.",
        "task level 1",
    )
    over_room_db: float = setting(
        8.0, "dB", "Room noise fills the pauses between phrases.", "task level 0"
    )
    under_peak_db: float = setting(
        32.0, "dB", "Another speaker farther away is counted as speech.", "task level 0"
    )
    shortest_phrase_s: float = setting(
        0.3, "s", "A cough or a knock is counted as a phrase.", "phrases of half a second"
    )
    least_voice: int = setting(10, FRAMES, "A rustle is counted as a phrase.")
    least_voiced_s: float = setting(
        0.3, "s", "Figures are reported although there is almost no voice.", "a single word"
    )
    least_voiced_share: float = setting(
        0.12, "of the sounding time", "A whisper is measured as voice.", "a hiss for talk"
    )
    held_share: float = setting(
        0.6,
        "of the voiced time",
        "Held notes or music are measured as speech.",
        "held notes for talk",
    )
    least_own_power: float = setting(
        0.1, "of the power", "Subtracting the room noise leaves no level at all."
    )
    pitch_step: float = setting(
        0.125, "semitones", "The commonest pitch is too coarse.", "task level 1"
    )
    pitch_smoothed: int = setting(
        4,
        "steps of an eighth of a semitone",
        "Chance decides which pitch is commonest.",
        "task level 0",
    )


SPEECH = SpeechSettings()

SHARED: Mapping[str, Any] = {
    "live": LIVE,
    "attempt": LOST,
    "sound_figures": WHOLE,
    "held_findings": HELD_NOTE,
    "swell_figures": SWELL,
    "speech_phrases": SPEECH,
}
"""By the module that works with them."""
