"""Settings of paced breathing."""

from dataclasses import dataclass

from core.sound.settings.setting import AT_START, FRAMES, setting


@dataclass(frozen=True, slots=True)
class BreathSettings:
    """Settings for finding audible breaths."""

    longest_pause_s: float = setting(8.0, "s", "A held breath ends the attempt.", AT_START)
    over_room_db: float = setting(6.0, "dB", "Room noise is counted as a breath.", "task breath 1")
    under_own_db: float = setting(
        12.0, "dB", "The fading end of a breath makes it too long.", "task breath 0"
    )
    smoothed: int = setting(7, FRAMES, "A rustle cuts a breath in two.", "task breath 0")
    shortest_quiet: int = setting(
        12, FRAMES, "A flutter splits one breath into two.", "breaths close together"
    )
    shortest_s: float = setting(
        0.4, "s", "A click or a rustle is counted as a breath.", "breaths of half a second"
    )
    room_percentile: int = setting(
        8, "percentile", "The breaths themselves are taken for room noise.", "task breath 0"
    )
    most_voiced: float = setting(0.3, "of all frames", "A hum is measured as breathing.")
    least_voice: int = setting(
        12, FRAMES, "A breath that whistles for a moment is ignored as voice."
    )
    regular_from: float = setting(
        0.85, "of 1", "Breath through a narrow mouth is ignored as voice.", "task breath 0"
    )
    off_pace_share: float = setting(
        0.15,
        "of the longer breath",
        "Every small deviation is reported as off the pace.",
        "paced breaths 1",
    )


BREATH = BreathSettings()
