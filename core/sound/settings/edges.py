"""Settings of `core.sound.edges`: where a hold begins and ends."""

from dataclasses import dataclass

from core.sound.settings.setting import STEPS, setting


@dataclass(frozen=True, slots=True)
class EdgeSettings:
    """Settings for finding onset and offset."""

    below_median_db: float = setting(
        20.0,
        "dB under the hold's median",
        "A soft ending is cut off, or room noise is included in the hold.",
        "clean 0",
    )
    over_room_db: float = setting(3.0, "dB", "Room noise is included in the hold.", "fan 0")
    reach: int = setting(80, STEPS, "Another person's voice nearby shifts the edge.")
    scrap: int = setting(
        9,
        "frames of 10 ms",
        "A short burst of creak next to the hold is treated as another voice.",
        "creaking ends 0",
    )
    dip: int = setting(
        10, STEPS, "A creaky ending is cut off between two glottal pulses.", "breath before 2"
    )
    out: int = setting(4, STEPS, "Breath or room noise is added to the hold.", "babble 0")
    out_clear: int = setting(
        16, STEPS, "A soft onset that is well above the room noise is cut off."
    )
    inside: int = setting(
        10, STEPS, "A noise within the hold cuts off its beginning.", "cough, ticks 0"
    )
    stands_clear_db: float = setting(
        -14.0,
        "dB, room under voice",
        "The edge is moved far out in a room too noisy to tell.",
        "fan 1",
    )
    smoothed: int = setting(3, STEPS, "A single noise peak triggers the edge.", "fan 0")
    clear: int = setting(20, STEPS, "The onset itself is counted as room noise.", "fan 0")
    look: int = setting(400, STEPS, "A noise long before the hold sets the room level.", "fan 0")
    least_room: int = setting(
        20,
        STEPS,
        "The room level is estimated from too little sound.",
        "glide that breaks and goes on higher",
    )
    least_breath: int = setting(12, STEPS, "Every onset is treated as breath.", "breath before 2")
    breath_under_db: float = setting(
        8.0, "dB", "A soft onset is cut off as if it were breath.", "breath before 2"
    )
    over_breath_db: float = setting(
        2.0, "dB", "Breath before the voice is counted as hold.", "breath before 0"
    )
    loudest_of_breath: int = setting(
        80, "percentile", "A quiet moment is taken as the level of the breath.", "breath before 0"
    )
    breath_smoothed: int = setting(
        5, STEPS, "A single dip in the low partials shifts the edge.", "breath before 0"
    )
    nearly_up_db: float = setting(
        -4.0,
        "dB",
        "The onset slope is read after the voice has reached its full level.",
        "breath before 0",
    )
    slowest: int = setting(80, STEPS, "A crescendo during the hold is taken for its onset.")
    heard_early: float = setting(
        1.0,
        STEPS,
        "A sudden onset seems to start early, because each step covers 10 ms.",
        "breath before 0",
    )
    partials: float = setting(
        1.6,
        "times the pitch",
        "Breath noise fills the band that should distinguish voice from breath.",
        "breath before 0",
    )
    partials_least_hz: float = setting(
        500.0, "Hz", "No band is left to compare for a low voice.", "breath before 0"
    )
    room_percentile: int = setting(
        80, "percentile", "A lull is taken for the usual room level.", "soft 0"
    )
    farthest_s: float = setting(0.04, "s", "A slow onset is extrapolated back into silence.")
    halfway: float = setting(
        0.6,
        "of the median amplitude",
        "The onset slope is read where noise still dominates.",
        "fan 0",
    )
    room_no_matter_db: float = setting(
        -26.0, "dB, room under voice", "Negligible room noise shifts the edge.", "clean 0"
    )
    quiet_room_db: float = setting(
        -23.0,
        "dB, room under voice",
        "Echo and breath are searched for in a room too noisy to show them.",
        "breath before 0",
    )
    look_back: int = setting(
        80, STEPS, "A dip within the hold is taken for its end.", "uneven bubbles 2"
    )
    fall: int = setting(
        4,
        STEPS,
        "The drop into an echo is missed, or a noise peak is taken for one.",
        "echoing room 0",
    )
    fall_db: float = setting(
        4.5,
        "dB",
        "A voice that fades out is cut off as if it were followed by an echo.",
        "echoing room 0",
    )
    least_tail: int = setting(
        8, STEPS, "The last glottal pulse is taken for an echo.", "creaking ends 2"
    )
    steeper: float = setting(
        1.3, "times the tail's slope", "A voice that fades evenly is cut off.", "echoing room 0"
    )
    ends_times: float = setting(
        1.5, "times the tail's slope", "A voice that stops by itself is cut off as an echo."
    )
    ends_db: float = setting(8.0, "dB", "As above, when the tail is almost level.")


EDGE = EdgeSettings()
