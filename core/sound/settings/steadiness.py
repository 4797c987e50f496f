"""Settings of `core.sound.steadiness`: held voice told from talk."""

from dataclasses import dataclass

from core.sound.settings.setting import FRAMES, setting


@dataclass(frozen=True, slots=True)
class SteadinessSettings:
    """Of the windows in which level and timbre are followed."""

    window: int = setting(60, FRAMES, "A single vowel of talk passes for a hold.", "word before 1")
    shortest: int = setting(25, FRAMES, "A stretch too short to judge is judged.", "babble 0")
    every: int = setting(5, FRAMES, "A hold starts or ends late by a whole window.")
    rise: int = setting(6, FRAMES, "A short hold is lost for its own rise and fall.")
    unsteady: float = setting(
        1.35, "level in 3 dB + bands in 4 dB", "Talk is held, or a shaky voice is lost.", "shaky 2"
    )
    unsteady_short: float = setting(
        1.1,
        "level in 3 dB + bands in 4 dB",
        "A syllable is a hold, or a short hold none.",
        "only babble",
    )
    level_db: float = setting(3.0, "dB", "A trembling level counts as talk.", "only babble")
    shape_db: float = setting(4.0, "dB", "A band near the noise counts as talk.", "only babble")
    shape_floor_db: float = setting(
        -35.0,
        "dB under all bands",
        "Noise in an empty band makes a calm voice unsteady.",
        "only babble",
    )
    together: int = setting(256, "windows", "A long recording takes all memory at once.")


STEADINESS = SteadinessSettings()
