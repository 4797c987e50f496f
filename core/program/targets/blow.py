"""Air without a note."""

from dataclasses import dataclass, replace
from typing import ClassVar, Literal, Self

from core.catalogue.words import Growth
from core.kinds.aim import AIR_ONLY
from core.program import limits
from core.program.rungs import checked_hold
from core.program.settable import Settable, a_number, a_yes
from core.program.targets.common import Activity, Asked, Asks, HoldSeconds, Leg
from core.reason import Because, Reason, says
from core.reference.values import HISS_OVER_OWN_BEST

_AIR = says("asks_air", "{seconds:g} s of air")
_AIR_SWELL = says("asks_air_swell", "{seconds:g} s of air, swell")


@dataclass(frozen=True, slots=True, kw_only=True)
class Blow(Asks):
    """Air without a note, for a number of seconds: a hiss, bubbles of air only."""

    kind: Literal["blow"] = "blow"
    seconds: HoldSeconds
    because: Because
    swell: bool = False
    prepared: ClassVar[bool] = True
    air_share: ClassVar[float] = HISS_OVER_OWN_BEST.number
    settables: ClassVar[tuple[Settable, ...]] = (
        a_number("seconds", "Seconds", limits.HOLD_S, 0.5),
        a_yes("swell", "Soft, louder, soft"),
    )

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
        return (Leg(Activity.AIR, self.seconds),)

    def said(self, sound: str) -> str:
        asked = _AIR_SWELL if self.swell else _AIR
        return str(asked(seconds=self.seconds))

    def air_s(self, rung: float | None) -> float | None:
        return self.seconds if rung is None else rung

    def climbed(self, growth: Growth, value: float, because: Reason) -> Self | None:
        return replace(self, seconds=value, because=because) if growth is Growth.SECONDS else None
