"""The measured tasks by name and what sound each listens for."""

from enum import StrEnum

from core.errors import SoundError


class Measured(StrEnum):
    """How an attempt is measured. `hiss` listens for /s/, the others for voice."""

    HOLD = "hold"
    GLIDE = "glide"
    HISS = "hiss"


def measured_task(name: str) -> Measured:
    """The task of that name; SoundError("task_unknown") otherwise."""
    try:
        return Measured(name)
    except ValueError as error:
        raise SoundError("task_unknown", task=name, known=[t.value for t in Measured]) from error
