"""Settings of `core.sound.task_sound`: the pitch around which an attempt stays."""

from dataclasses import dataclass

from core.sound.settings.setting import FRAMES, setting


@dataclass(frozen=True, slots=True)
class HomeSettings:
    """Of the pitch that most of the voice speaks for."""

    stray_semitones: float = setting(
        2.5, "semitones", "A frame that is an octave off stays off.", "shaky 0"
    )
    least: int = setting(20, FRAMES, "A few frames decide the octave of the whole.")
    width: int = setting(
        7, "half semitones", "A wavering voice has no pitch around which it stays.", "only babble"
    )
    joint: int = setting(5, FRAMES, "A single wrong pitch parts two pieces of one glide.")


HOME = HomeSettings()
