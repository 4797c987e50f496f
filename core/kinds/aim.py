"""What an attempt aims at, and how it is written."""

from typing import Protocol

from core.errors import SoundError

AIR_ONLY = "air only"
"""The aim of what is blown, not voiced."""
NUMBER = r"([+-]?\d+(?:\.\d+)?)"


class AttemptTarget(Protocol):
    """What an attempt aims at; `name` is its text, which the kind's `read_aim` reads back."""

    @property
    def name(self) -> str: ...


def no_aim(_text: str) -> None:
    """For kinds without a target. Any target text is ignored."""


def unreadable(task: str, text: str) -> SoundError:
    """The error for a target text that this kind does not have."""
    return SoundError("target_unreadable", task=task, target=text)
