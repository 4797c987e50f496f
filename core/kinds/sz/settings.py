"""Settings of a hiss that turns into a buzz."""

from dataclasses import dataclass

from core.sound.settings.setting import FRAMES, STEPS, setting


@dataclass(frozen=True, slots=True)
class JoinSettings:
    """Settings for finding the switch from hiss to buzz."""

    longest_silence_s: float = setting(
        0.6,
        "s",
        "A hiss and a later buzz count as one attempt.",
        "buzz half a second after the hiss",
    )
    stillest_voice_cents: float = setting(
        0.7, "cents", "A machine tone is measured as a buzz.", "a held note for a buzz"
    )
    voice_under_hz: int = setting(
        900, "Hz", "The hiss itself sets the time of the switch.", "task sz 0"
    )
    sets_in_db: float = setting(
        -10.0,
        "dB of the settled level",
        "The switch is set where the voice is barely there, or late.",
        "task sz 0",
    )
    over_hiss_db: float = setting(4.0, "dB", "The low part of the hiss is taken for the voice.")
    least_buzz: int = setting(
        8, FRAMES, "A moment of false voicing in the hiss is counted as the buzz.", "buzz of 120 ms"
    )
    least_hiss: int = setting(8, FRAMES, "A breathy onset is counted as a hiss.", "hiss of 120 ms")
    reach: int = setting(32, STEPS, "The switch is placed far from where the voice was found.")
    stays: int = setting(8, STEPS, "A short burst before the voice is counted as the switch.")
    stays_share: float = setting(
        0.7, "of these steps", "One weak period hides the switch.", "task sz 0"
    )
    rises: int = setting(16, STEPS, "A silence that ended long before the voice is reported.")
    look_back: int = setting(
        280,
        STEPS,
        "A pause within the hiss is counted as the silence before the voice.",
        "buzz half a second after the hiss",
    )
    window_s: float = setting(
        0.007,
        "s",
        "Each silence is too short by what the window of 10 ms smears into it.",
        "task sz 0",
    )
    shortest_gap_s: float = setting(0.012, "s", "A dip in level is reported as a silence.")


JOIN = JoinSettings()
