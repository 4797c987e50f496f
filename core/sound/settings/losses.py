"""Settings of `core.sound.losses`: sound that the device lost."""

from dataclasses import dataclass

from core.sound.settings.setting import setting


@dataclass(frozen=True, slots=True)
class LossSettings:
    """Of the search for zeros and steps in the samples."""

    block_s: float = setting(0.1, "s", "Of two losses close together one is missed.")
    blocks: int = setting(10, "blocks at once", "Live sound costs too much.")
    near_s: float = setting(0.005, "s", "The level beside a step is that of the other side.")
    around_s: float = setting(0.03, "s", "A single rough period counts as a loss.")
    least_zeros_s: float = setting(
        0.001, "s", "The zeros of a quiet sound count as lost.", "zeros in a note"
    )
    longest_zeros_s: float = setting(2.0, "s", "A pause of the client counts as lost.")
    quietest: float = setting(
        10 ** (-50 / 20), "of full scale (−50 dBFS)", "Noise around silence counts as voice."
    )
    alike: float = setting(4.0, "times", "A voice that sets in or ends counts as lost.")
    step_over_others: float = setting(
        4.0, "times the widest other step", "The pulse of a creak counts as a loss."
    )
    step_over_level: float = setting(
        0.7, "times the level beside", "A small kink in a loud sound counts as a loss."
    )
    guard: int = setting(2, "samples", "A step is compared with its own ringing.")
    nearest: int = setting(6, "samples", "Every step costs a look at all around it.")
    enough: float = setting(
        0.5, "of the samples around", "The first sample of a sound counts as a loss."
    )


LOSS = LossSettings()
