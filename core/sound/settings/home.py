"""Settings of `core.sound.task_sound`: the pitch around which an attempt stays."""

from dataclasses import dataclass

from core.sound.settings.setting import FRAMES, setting


@dataclass(frozen=True, slots=True)
class HomeSettings:
    """Settings for the typical pitch of an attempt."""

    stray_semitones: float = setting(
        2.5, "semitones", "A frame with a pitch an octave off is not corrected.", "shaky 0"
    )
    least: int = setting(20, FRAMES, "A few frames decide the octave of the whole.")
    width: int = setting(
        7, "half semitones", "No typical pitch is found for a wavering voice.", "only babble"
    )
    joint: int = setting(5, FRAMES, "A single wrong pitch splits one glide into two.")


HOME = HomeSettings()
