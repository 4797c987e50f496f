"""Settings of a voice through a tube in water."""

from dataclasses import dataclass

from core.sound.settings.setting import FRAMES, setting


@dataclass(frozen=True, slots=True)
class InWaterSettings:
    """Settings for the start and end of an attempt in water."""

    longest_voiceless_s: float = setting(
        1.5, "s", "Bubbling on without voice for a moment ends the attempt."
    )
    longest_stop_s: float = setting(
        0.8, "s", "Two attempts are counted as one.", "bubbles of air 0"
    )
    goes_on_under_db: float = setting(
        22.0, "dB", "The water settling afterward is counted as bubbling on.", "task bubbles 0"
    )
    room_percentile: int = setting(
        10, "percentile", "The bubbling itself is taken for room noise.", "task bubbles 0"
    )
    over_room_db: float = setting(
        8.0, "dB", "Room noise is counted as bubbling on.", "uneven bubbles 2"
    )
    reach: int = setting(
        25, FRAMES, "A splash long before or after the voice makes the attempt longer."
    )
    least_gap_s: float = setting(
        0.2,
        "s",
        "Each loud bubble is reported as a gap in the voice.",
        "voice stops for a second in water",
    )
    loudest_percentile: int = setting(
        95,
        "percentile",
        "A splash sets the peak level, and air alone is missed.",
        "bubbles of air 0",
    )


IN_WATER = InWaterSettings()


@dataclass(frozen=True, slots=True)
class RateSettings:
    """Settings for the bubble rate and its stops."""

    slowest_hz: float = setting(
        7.5, "Hz", "Slow swings in airflow are counted as bubbles.", "task bubbles 0"
    )
    fastest_hz: float = setting(
        45.0, "Hz", "The roughness of a low voice is counted as bubbles.", "fast bubbles"
    )
    shortest_s: float = setting(
        0.8, "s", "A rate is reported for too few bubbles.", "bubbles for a second"
    )
    floor_under_db: float = setting(
        35.0, "dB", "One silence outweighs every bubble.", "task bubbles 0"
    )
    slow_s: float = setting(0.3, "s", "A crescendo hides the bubbles.", "task bubbles 0")
    band_octaves: float = setting(
        0.45, "octaves", "Uneven bubbles are not counted, or noise is.", "task bubbles 0"
    )
    padded_s: float = setting(
        1.0, "s", "The first and last bubbles are miscounted.", "task bubbles 0"
    )
    swing_percentile: int = setting(
        70, "percentile", "A long stop makes the usual swing too small.", "task bubbles 0"
    )
    least_swing_db: float = setting(
        1.2, "dB", "A bubble rate is reported for a voice without bubbles."
    )
    least_regular: float = setting(0.25, "of 1", "A bubble rate is reported for noise in the tube.")
    stopped_share: float = setting(
        0.35,
        "of the usual swing",
        "A weak bubble is reported as a stop, or a stop is missed.",
        "task bubbles 1",
    )
    sure_share: float = setting(
        0.6,
        "of the usual swing",
        "The rate is taken from where bubbles are uncertain.",
        "task bubbles 0",
    )
    as_good: float = setting(0.85, "of the best regularity", "Half the rate is reported.")
    window_s: float = setting(1.0, "s", "A stop hides the rhythm of the rest.", "task bubbles 0")


RATE = RateSettings()


@dataclass(frozen=True, slots=True)
class RisingSettings:
    """Settings for drawing bubbles as they rise."""

    slow_s: float = setting(
        0.12,
        "s",
        "A crescendo is drawn as a bubble, or fast bubbles are not drawn.",
        "task bubbles 0",
    )
    swing_db: float = setting(0.9, "dB", "Noise is drawn as bubbles.", "task bubbles 0")
    soonest_s: float = setting(0.02, "s", "One bubble is drawn twice.", "task bubbles 1")


RISING = RisingSettings()
