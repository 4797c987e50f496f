"""Settings of `core.sound.losses`: sound that the device lost."""

from dataclasses import dataclass

from core.sound.settings.setting import setting


@dataclass(frozen=True, slots=True)
class LossSettings:
    """Settings for finding dropouts: zeros and steps in the samples."""

    block_s: float = setting(0.1, "s", "The second of two losses close together is missed.")
    blocks: int = setting(10, "blocks at once", "Live sound takes too much processor time.")
    near_s: float = setting(0.005, "s", "The level next to a step is taken from its far side.")
    around_s: float = setting(0.03, "s", "A single irregular period is reported as lost sound.")
    least_zeros_s: float = setting(
        0.001, "s", "Zero samples in a quiet sound are reported as lost.", "zeros in a note"
    )
    longest_zeros_s: float = setting(2.0, "s", "A pause by the client is reported as lost sound.")
    quietest: float = setting(
        10 ** (-50 / 20), "of full scale (−50 dBFS)", "Noise around a silence is taken for voice."
    )
    alike: float = setting(
        4.0, "times", "The beginning or end of the voice is reported as lost sound."
    )
    step_over_others: float = setting(
        4.0,
        "times the widest other step",
        "A glottal pulse in creaky voice is reported as lost sound.",
    )
    step_over_level: float = setting(
        0.7,
        "times the level beside",
        "A small discontinuity in a loud sound is reported as lost sound.",
    )
    guard: int = setting(2, "samples", "A step is compared with its own neighboring samples.")
    nearest: int = setting(6, "samples", "Every large step needs a full, slow comparison.")
    enough: float = setting(
        0.5, "of the samples around", "The first sample of a recording is reported as lost sound."
    )


LOSS = LossSettings()
