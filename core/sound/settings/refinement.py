"""Settings of `core.sound.pitch_refinement`: the pitch of a held voice over neighboring frames."""

from dataclasses import dataclass

from core.sound.settings.setting import AT_START, FRAMES, setting


@dataclass(frozen=True, slots=True)
class RefinementSettings:
    """Settings for smoothing the pitch over neighboring frames."""

    reach: int = setting(4, FRAMES, "Single uneven periods shake the pitch.", AT_START)
    leap_semitones: float = setting(
        1.0, "semitones", "The pitch is smoothed across a leap.", "creaking ends 1"
    )
    bend_s2: float = setting(
        2 * 1.35e-5, "s²", "The swing of a vibrato or tremor comes out too small.", AT_START
    )


REFINEMENT = RefinementSettings()
