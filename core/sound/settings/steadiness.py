"""Settings of `core.sound.steadiness`: held voice told from talk."""

from dataclasses import dataclass

from core.sound.settings.setting import FRAMES, setting


@dataclass(frozen=True, slots=True)
class SteadinessSettings:
    """Settings for the windows in which level and timbre are compared."""

    window: int = setting(60, FRAMES, "A single vowel in speech passes as a hold.", "word before 1")
    shortest: int = setting(25, FRAMES, "A stretch too short to judge is judged.", "babble 0")
    every: int = setting(5, FRAMES, "The start or end of a hold is off by up to one window.")
    rise: int = setting(
        6, FRAMES, "A short hold is lost because its own rise and fall look unsteady."
    )
    unsteady: float = setting(
        1.35,
        "level in 3 dB + bands in 4 dB",
        "Speech is accepted as a hold, or a shaky voice is rejected.",
        "shaky 2",
    )
    unsteady_short: float = setting(
        1.1,
        "level in 3 dB + bands in 4 dB",
        "A syllable is accepted as a hold, or a short hold is rejected.",
        "only babble",
    )
    level_db: float = setting(
        3.0, "dB", "A hold with a trembling level is rejected as speech.", "only babble"
    )
    shape_db: float = setting(
        4.0,
        "dB",
        "A hold is rejected as speech because a band is close to the noise.",
        "only babble",
    )
    shape_floor_db: float = setting(
        -35.0,
        "dB under all bands",
        "Noise in an empty band makes a steady voice look unsteady.",
        "only babble",
    )
    together: int = setting(256, "windows", "A long recording uses too much memory at once.")


STEADINESS = SteadinessSettings()
