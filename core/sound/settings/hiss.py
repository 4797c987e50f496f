"""Settings of `core.sound.hiss`: which frames hiss."""

from dataclasses import dataclass

from core.sound.settings.setting import FRAMES, setting


@dataclass(frozen=True, slots=True)
class HissSettings:
    """Settings for finding a hiss, and the level of silence in every task."""

    quietest_db: float = setting(-62.0, "dBFS", "Silence is counted as a hiss.", "task hiss 0")
    share: float = setting(
        0.5, "of all power above 3 kHz", "A vowel is counted as part of a hiss that never stops."
    )
    under_peak_db: float = setting(
        25.0, "dB", "The breath after a hiss is counted as hiss.", "task hiss 0"
    )
    over_room_db: float = setting(8.0, "dB", "Fan noise is counted as a hiss.")
    room_percentile: int = setting(10, "percentile", "A long hiss is taken for room noise.")
    loudest_percentile: int = setting(
        95, "percentile", "A click sets the peak level, and the hiss is missed.", "task sz 2"
    )
    least_run: int = setting(3, FRAMES, "Clicks are joined into a hiss.")


HISS = HissSettings()
