"""The measured tasks by name."""

from enum import StrEnum

from core.errors import SoundError


class Measured(StrEnum):
    """How an attempt is measured; each has its room in `core.kinds`.

    hold: one held note; glide: a slide; hiss: /s/; sz: /s/ turning into /z/; bubbles: voice through
    a tube in water; pattern: notes of a scale pattern; level: speech, counting, reading;
    breath: breathing in and out at a pace.
    """

    HOLD = "hold"
    GLIDE = "glide"
    HISS = "hiss"
    SZ = "sz"
    BUBBLES = "bubbles"
    PATTERN = "pattern"
    LEVEL = "level"
    BREATH = "breath"


def measured_task(name: str) -> Measured:
    """The task of that name; SoundError("task_unknown") otherwise."""
    try:
        return Measured(name)
    except ValueError as error:
        raise SoundError("task_unknown", task=name, known=[t.value for t in Measured]) from error
