"""Settings of `core.sound.breaks`: gaps and leaps inside a hold."""

from dataclasses import dataclass

from core.sound.settings.setting import FRAMES, setting


@dataclass(frozen=True, slots=True)
class BreakSettings:
    """Of the search for breaks."""

    least_gap_s: float = setting(
        0.06, "s", "The roughness of a creak counts as breaks.", "breaks 0"
    )
    gap_seen_short_s: float = setting(
        0.006, "s", "A gap of just 60 ms is missed: the envelope hears 10 ms."
    )
    jump_semitones: float = setting(4.0, "semitones", "A wobble counts as a break.", "breaks 0")
    over_room_db: float = setting(4.0, "dB", "In a loud room a gap is covered by the noise.")
    side: int = setting(5, FRAMES, "One odd frame counts as a leap.", "breaks 0")
    step_over: int = setting(
        3, FRAMES, "A leap is halved by the frames that hear both notes.", "breaks 0"
    )
    voice_lost_s: float = setting(
        0.02, "s", "A lost voice seems longer than it is: each frame hears 50 ms."
    )
    least_lost: int = setting(2, FRAMES, "A single unvoiced frame counts as a gap.")
    near_gap_s: float = setting(0.06, "s", "A gap counts twice, as gap and as leap.")
    from_ends_s: float = setting(0.02, "s", "The rise or fall at an end counts as a gap.")
    same_step_semitones: float = setting(
        0.3, "semitones", "A leap is dated by whichever frame is highest by chance.", "breaks 0"
    )


BREAK = BreakSettings()
