"""Settings of `core.sound.background`: tones that stand in the room."""

from dataclasses import dataclass

from core.sound.settings.setting import FRAMES, setting


@dataclass(frozen=True, slots=True)
class StandingToneSettings:
    """Of the search for hum and machines before or after the voice."""

    skipped: int = setting(3, FRAMES, "The half-heard first frames hide a hum.")
    looked: int = setting(22, FRAMES, "A voice steady for a moment counts as a hum.")
    rising_db: float = setting(
        4.5,
        "dB",
        "A voice that begins at once counts as a hum (half-heard: 3 dB less).",
        "beside a machine",
    )
    steady_semitones: float = setting(0.15, "semitones", "A voice counts as a hum.")
    steady_db: float = setting(1.0, "dB", "A voice that swells counts as a hum.")
    same_semitones: float = setting(0.35, "semitones", "A voice near the hum is taken out with it.")
    same_db: float = setting(
        3.0, "dB", "A voice on the pitch of the hum is taken out.", "beside a machine"
    )
    still_cents: float = setting(2.5, "cents", "A calm voice is taken out as a hum.")
    still_share: float = setting(
        0.2, "of the rest's spread", "A hum beside a shaky voice is left in."
    )


STANDING_TONE = StandingToneSettings()
