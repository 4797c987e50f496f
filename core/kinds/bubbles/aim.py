"""Bubbles without a voice as a target: "air only"."""

from dataclasses import dataclass
from typing import ClassVar

from core.kinds.aim import AIR_ONLY


@dataclass(frozen=True, slots=True)
class AirOnly:
    """Air through the tube without voice; voice is then not listened for."""

    name: ClassVar[str] = AIR_ONLY


def read_aim(text: str) -> AirOnly | None:
    """What that text aims at; a voice through the tube aims at nothing."""
    return AirOnly() if text.strip() == AIR_ONLY else None
