"""Settings of `core.sound.onset`: how the voice begins."""

from dataclasses import dataclass

from core.sound.settings.setting import STEPS, setting


@dataclass(frozen=True, slots=True)
class OnsetSettings:
    """Of soft, hard and breathy beginnings."""

    hard_within_s: float = setting(
        0.0105, "s", "A soft beginning is called hard, or a hard one soft.", "clean 1"
    )
    risen_db: float = setting(3.0, "dB under the settled level", "The rise never ends.", "clean 1")
    least_breath_s: float = setting(
        0.06, "s", "Any beginning is called breathy.", "breath before 0"
    )
    breath_under_db: float = setting(
        32.0, "dB", "The hush of a quiet room counts as breath.", "breath before 0"
    )
    over_room_db: float = setting(6.0, "dB", "The room counts as breath.")
    room_under_db: float = setting(
        26.0, "dB", "A beginning hidden by the room is judged.", "clean 0"
    )
    smoothed: int = setting(10, STEPS, "A lull within a breath ends it.")
    breath_look_s: float = setting(0.25, "s", "A sound long before counts as breath.")
    rise_look_s: float = setting(0.3, "s", "A swell later on counts as the rise.")
    settled_from_s: float = setting(0.06, "s", "The rise counts as the level reached.", "clean 0")
    settled_to_s: float = setting(
        0.16, "s", "A later swell counts as the level reached.", "clean 0"
    )
    least_settled: int = setting(20, STEPS, "A beginning is judged on next to nothing.")


ONSET = OnsetSettings()
