"""Settings of a glide."""

from dataclasses import dataclass

from core.sound.settings.setting import FRAMES, setting


@dataclass(frozen=True, slots=True)
class GlideSettings:
    """Settings for the path of the pitch in a glide."""

    widest_step: float = setting(
        6.0,
        "semitones",
        "A glide that breaks and goes on higher is cut in two.",
        "glide that breaks and goes on higher",
    )
    shortest: int = setting(14, FRAMES, "A path is reported for too little voice.")
    smoothed: int = setting(
        5, FRAMES, "A single wrong pitch sets the highest or lowest note.", "task glide 0"
    )
    half_heard: int = setting(
        3, FRAMES, "Frames that are half silence set the start and the end.", "glide 0"
    )
    line: int = setting(5, FRAMES, "The line to the ends follows single uneven periods.")
    before_break: int = setting(
        4, FRAMES, "The pitch at a break is taken from its last uneven period.", "glide that breaks"
    )
    look_before_break: int = setting(
        12, FRAMES, "The pitch at a break is taken from long before it."
    )


GLIDE = GlideSettings()
