"""Air without a note."""

from dataclasses import dataclass, replace
from typing import ClassVar, Literal, Self

from core.catalogue.words import Growth
from core.kinds.aim import AIR_ONLY
from core.plans.rungs import checked_hold
from core.plans.targets.common import Asked, Asks, Doing, HoldSeconds, Leg
from core.reason import Because, Reason


@dataclass(frozen=True, slots=True, kw_only=True)
class Blow(Asks):
    """Air without a note, for a number of seconds: a hiss, bubbles of air only."""

    kind: Literal["blow"] = "blow"
    seconds: HoldSeconds
    because: Because
    swell: bool = False
    prepared: ClassVar[bool] = True

    def __post_init__(self) -> None:
        checked_hold(self.seconds)

    @property
    def air_only(self) -> bool:
        return True

    def asked(self, place: int) -> Asked:
        return Asked(seconds=self.seconds, aim=AIR_ONLY)

    @property
    def swells(self) -> bool:
        return self.swell

    def legs(self, place: int) -> tuple[Leg, ...]:
        return (Leg(Doing.AIR, self.seconds),)

    def said(self, sound: str) -> str:
        return f"{self.seconds:g} s of air{', swell' if self.swell else ''}"

    def climbed(self, growth: Growth, value: float, because: Reason) -> Self | None:
        return self.lasting(value, because) if growth is Growth.SECONDS else None

    def lasting(self, seconds: float, because: Reason) -> Self | None:
        return replace(self, seconds=seconds, because=because)
