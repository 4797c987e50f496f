"""Settings of `core.sound.hiss`: which frames hiss."""

from dataclasses import dataclass

from core.sound.settings.setting import FRAMES, setting


@dataclass(frozen=True, slots=True)
class HissSettings:
    """Of the search for a hiss, and what counts as silence in every task."""

    quietest_db: float = setting(-62.0, "dBFS", "A silent room hisses.", "task hiss 0")
    share: float = setting(
        0.5, "of all power above 3 kHz", "A vowel counts as a hiss that never stops."
    )
    under_peak_db: float = setting(
        25.0, "dB", "The breath after a hiss counts as hiss.", "task hiss 0"
    )
    over_room_db: float = setting(8.0, "dB", "A fan counts as hiss.")
    room_percentile: int = setting(10, "percentile", "A long hiss counts as its own room.")
    loudest_percentile: int = setting(95, "percentile", "A click hides the hiss.")
    least_run: int = setting(3, FRAMES, "Clicks join to a hiss.")


HISS = HissSettings()
