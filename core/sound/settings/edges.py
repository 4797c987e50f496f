"""Settings of `core.sound.edges`: where a hold begins and ends."""

from dataclasses import dataclass

from core.sound.settings.setting import STEPS, setting


@dataclass(frozen=True, slots=True)
class EdgeSettings:
    """Of the search for onset and offset."""

    below_median_db: float = setting(
        20.0,
        "dB under the hold's median",
        "A soft ending is cut off, or the room is held.",
        "clean 0",
    )
    over_room_db: float = setting(3.0, "dB", "The room itself counts as voice.", "fan 0")
    reach: int = setting(80, STEPS, "Someone else's voice nearby moves the edge.")
    scrap: int = setting(
        9,
        "frames of 10 ms",
        "A creak beside the hold bars the way as another voice would.",
        "creaking ends 0",
    )
    dip: int = setting(
        10, STEPS, "A creaking end is cut off between two pulses.", "breath before 2"
    )
    out: int = setting(4, STEPS, "A breath or the room is added to the hold.", "babble 0")
    out_clear: int = setting(16, STEPS, "A soft start that stands clear of the room is cut off.")
    inside: int = setting(10, STEPS, "A noise within cuts off the beginning.", "cough, ticks 0")
    stands_clear_db: float = setting(
        -14.0, "dB, room under voice", "The edge may move far in a room too loud to tell.", "fan 1"
    )
    smoothed: int = setting(3, STEPS, "One loud pulse of noise crosses the edge.", "fan 0")
    clear: int = setting(20, STEPS, "The start of the voice counts as room.", "fan 0")
    look: int = setting(400, STEPS, "A noise long before decides how loud the room is.", "fan 0")
    least_room: int = setting(20, STEPS, "The room is judged from next to nothing.")
    least_breath: int = setting(
        12, STEPS, "The rise of any voice counts as breath.", "breath before 2"
    )
    breath_under_db: float = setting(
        8.0, "dB", "A soft beginning of the voice is cut off as breath.", "breath before 2"
    )
    over_breath_db: float = setting(
        2.0, "dB", "Breath before the voice counts as hold.", "breath before 0"
    )
    loudest_of_breath: int = setting(
        80, "percentile", "A quiet moment stands for a breath.", "breath before 0"
    )
    breath_smoothed: int = setting(
        5, STEPS, "One dip of the partials moves the edge.", "breath before 0"
    )
    nearly_up_db: float = setting(
        -4.0,
        "dB",
        "The rise is read where the voice is full already and no longer rises.",
        "breath before 0",
    )
    slowest: int = setting(80, STEPS, "A swell of the hold counts as its onset.")
    heard_early: float = setting(
        1.0, STEPS, "A sudden voice seems to rise: each step hears 10 ms.", "breath before 0"
    )
    partials: float = setting(
        1.6, "times the pitch", "Breath covers what tells voice from it.", "breath before 0"
    )
    partials_least_hz: float = setting(
        500.0, "Hz", "A low voice is left with no band.", "breath before 0"
    )
    room_percentile: int = setting(80, "percentile", "A lull stands for the room.", "soft 0")
    farthest_s: float = setting(0.04, "s", "A slow rise is carried back into silence.")
    halfway: float = setting(
        0.6, "of the median amplitude", "The rise is read in the noise at its foot.", "fan 0"
    )
    room_no_matter_db: float = setting(
        -26.0, "dB, room under voice", "A room that is hardly there moves the edge.", "clean 0"
    )
    quiet_room_db: float = setting(
        -23.0,
        "dB, room under voice",
        "Echo and breath are looked for where noise hides them.",
        "breath before 0",
    )
    look_back: int = setting(80, STEPS, "A dip within the hold is taken for its end.")
    fall: int = setting(
        4, STEPS, "The fall into an echo is missed, or noise counts as one.", "echoing room 0"
    )
    fall_db: float = setting(
        4.5, "dB", "A voice that fades is cut off as if it echoed.", "echoing room 0"
    )
    least_tail: int = setting(
        8, STEPS, "The last pulse of a voice counts as its echo.", "creaking ends 2"
    )
    steeper: float = setting(
        1.3, "times the tail's slope", "A voice that fades evenly is cut off.", "echoing room 0"
    )
    ends_times: float = setting(
        1.5, "times the tail's slope", "A voice that ends by itself is cut off as echo."
    )
    ends_db: float = setting(8.0, "dB", "As above, where the tail is nearly flat.")


EDGE = EdgeSettings()
