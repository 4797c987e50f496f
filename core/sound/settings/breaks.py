"""Settings of `core.sound.breaks`: gaps and leaps inside a hold."""

from dataclasses import dataclass

from core.sound.settings.setting import FRAMES, setting


@dataclass(frozen=True, slots=True)
class BreakSettings:
    """Settings for finding breaks in a hold."""

    least_gap_s: float = setting(
        0.06, "s", "The roughness of a creaky voice is counted as breaks.", "breaks 0"
    )
    gap_seen_short_s: float = setting(
        0.006, "s", "A gap of exactly 60 ms is missed, because the envelope covers 10 ms."
    )
    jump_semitones: float = setting(
        4.0, "semitones", "A wobble is counted as a pitch break.", "breaks 0"
    )
    over_room_db: float = setting(
        4.0, "dB", "A gap is hidden by the noise of a loud room.", "babble 2"
    )
    side: int = setting(5, FRAMES, "A single odd frame is counted as a pitch break.", "breaks 0")
    step_over: int = setting(
        3,
        FRAMES,
        "A pitch break looks half its size, because some frames cover both notes.",
        "breaks 0",
    )
    voice_lost_s: float = setting(
        0.02,
        "s",
        "A gap in voicing looks longer than it is, because each frame covers 50 ms.",
        "voice stops for a second in water",
    )
    least_lost: int = setting(2, FRAMES, "A single unvoiced frame is counted as a gap.")
    near_gap_s: float = setting(
        0.06, "s", "One break is counted twice, as a gap and as a pitch break."
    )
    from_ends_s: float = setting(0.02, "s", "The rise or fall at either end is counted as a gap.")
    same_step_semitones: float = setting(
        0.3, "semitones", "The time of a pitch break depends on a random peak.", "breaks 0"
    )


BREAK = BreakSettings()
