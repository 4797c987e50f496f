"""Settings of `core.sound.tremor`: rate and extent of a tremor."""

from dataclasses import dataclass

from core.sound.settings.setting import FRAMES, setting


@dataclass(frozen=True, slots=True)
class TremorSettings:
    """Settings for finding a tremor rate."""

    lowest_hz: float = setting(3.0, "Hz", "Slow drift is reported as tremor.", "shaky 0")
    highest_hz: float = setting(12.0, "Hz", "Roughness is reported as tremor.", "shaky 1")
    least_cents: float = setting(
        12.0, "cents either side", "Tremor is reported for a steady voice."
    )
    least_s: float = setting(1.0, "s", "Two or three chance swings are reported as tremor.")
    trim: int = setting(20, FRAMES, "The settling at either end is counted as a swing.", "shaky 0")
    share: float = setting(
        0.55,
        "of the pitch's movement",
        "Tremor is reported for an unsteady voice that has no single rate.",
        "shaky 0",
    )
    within_hz: float = setting(1.2, "Hz", "A tremor with a wandering rate is missed.", "shaky 0")
    least_points: int = setting(4_096, "points", "The rate is too coarse.", "shaky 0")
    window_sd_s: float = setting(
        0.0071,
        "s, SD of the squared Hann window",
        "The extent of a fast tremor is underestimated.",
        "shaky 0",
    )
    least_known_share: float = setting(
        0.9, "of the frames", "Gaps in voicing are counted as swings.", "shaky 0"
    )
    odd_cents: float = setting(300.0, "cents", "A single octave error hides the tremor.", "shaky 0")
    all_from_hz: float = setting(1.0, "Hz", "Slow drift hides the tremor.", "word before 0")
    all_to_hz: float = setting(25.0, "Hz", "Roughness hides the tremor.")


TREMOR = TremorSettings()
