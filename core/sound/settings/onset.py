"""Settings of `core.sound.onset`: how the voice begins."""

from dataclasses import dataclass

from core.sound.settings.setting import STEPS, setting


@dataclass(frozen=True, slots=True)
class OnsetSettings:
    """Settings for telling soft, hard and breathy onsets apart."""

    hard_within_s: float = setting(
        0.0105, "s", "A soft onset is reported as hard, or a hard one as soft.", "clean 1"
    )
    risen_db: float = setting(
        3.0, "dB under the settled level", "The onset seems never to be complete.", "clean 1"
    )
    least_breath_s: float = setting(
        0.06, "s", "Any onset is reported as breathy.", "breath before 0"
    )
    breath_under_db: float = setting(
        32.0, "dB", "The background of a quiet room is counted as breath.", "breath before 0"
    )
    over_room_db: float = setting(6.0, "dB", "Room noise is counted as breath.")
    room_under_db: float = setting(
        26.0, "dB", "An onset masked by room noise is classified.", "clean 0"
    )
    smoothed: int = setting(10, STEPS, "A short lull ends the breath.")
    breath_look_s: float = setting(0.25, "s", "A sound long before the onset is counted as breath.")
    rise_look_s: float = setting(0.3, "s", "A later crescendo is counted as the onset.")
    settled_from_s: float = setting(
        0.06, "s", "The level is read while the voice is still rising.", "clean 0"
    )
    settled_to_s: float = setting(
        0.16, "s", "A later crescendo raises the level that is taken for the onset.", "clean 0"
    )
    least_settled: int = setting(20, STEPS, "An onset is classified from too little sound.")


ONSET = OnsetSettings()
