"""Settings of `core.sound.tremor`: rate and extent of a tremor."""

from dataclasses import dataclass

from core.sound.settings.setting import FRAMES, setting


@dataclass(frozen=True, slots=True)
class TremorSettings:
    """Of the search for one rate that stands out."""

    lowest_hz: float = setting(3.0, "Hz", "A slow drift counts as tremor.", "shaky 0")
    highest_hz: float = setting(12.0, "Hz", "Roughness counts as tremor.", "shaky 1")
    least_cents: float = setting(12.0, "cents either side", "An even voice has a tremor.")
    least_s: float = setting(1.0, "s", "Two or three swings by chance count as tremor.")
    trim: int = setting(20, FRAMES, "The settling at either end counts as a swing.", "shaky 0")
    share: float = setting(
        0.55, "of the pitch's movement", "An unsteady voice without a rate has a tremor.", "shaky 0"
    )
    within_hz: float = setting(1.2, "Hz", "A tremor whose rate wanders is missed.", "shaky 0")
    least_points: int = setting(4_096, "points", "The rate is read too coarsely.", "shaky 0")
    window_sd_s: float = setting(
        0.0071,
        "s, SD of the squared Hann window",
        "A fast tremor seems smaller than it is.",
        "shaky 0",
    )
    least_known_share: float = setting(
        0.9, "of the frames", "Gaps make swings of their own.", "shaky 0"
    )
    odd_cents: float = setting(
        300.0, "cents", "A frame an octave off swamps the tremor.", "shaky 0"
    )
    all_from_hz: float = setting(1.0, "Hz", "A slow drift hides a tremor.", "word before 0")
    all_to_hz: float = setting(25.0, "Hz", "Roughness hides a tremor.")


TREMOR = TremorSettings()
