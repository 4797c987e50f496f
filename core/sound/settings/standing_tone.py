"""Settings of `core.sound.background`: tones that stand in the room."""

from dataclasses import dataclass

from core.sound.settings.setting import FRAMES, setting


@dataclass(frozen=True, slots=True)
class StandingToneSettings:
    """Settings for removing hum and machine tones from the background."""

    skipped: int = setting(
        3, FRAMES, "The first frames, which cover only half the sound, hide a hum."
    )
    looked: int = setting(22, FRAMES, "A voice that is steady for a moment is removed as a hum.")
    rising_db: float = setting(
        4.5,
        "dB",
        "A voice that starts with the recording is removed as a hum (the first frame is 3 dB low).",
        "beside a machine",
    )
    steady_semitones: float = setting(0.15, "semitones", "A voice is removed as a hum.")
    steady_db: float = setting(1.0, "dB", "A voice with a crescendo is removed as a hum.")
    same_semitones: float = setting(
        0.35, "semitones", "A voice close to the pitch of the hum is removed with it."
    )
    same_db: float = setting(
        3.0, "dB", "A voice on the pitch of the hum is removed with it.", "beside a machine"
    )
    still_cents: float = setting(2.5, "cents", "A very even voice is removed as a hum.")
    still_share: float = setting(
        0.2, "of the rest's spread", "A hum is left in when the voice is shaky."
    )


STANDING_TONE = StandingToneSettings()
