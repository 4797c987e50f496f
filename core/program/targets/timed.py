"""Done for some time by the clock."""

from dataclasses import dataclass, replace
from typing import Annotated, ClassVar, Literal, Self

from core.catalogue.words import Growth
from core.program import limits
from core.program.settable import Settable, a_count, a_number
from core.program.targets.common import Activity, Asked, Asks, Leg
from core.reason import Because, Reason, says

_SHORTEST_S = 15.0


_TIMED = says("asks_timed", "{seconds:g} s")
_EACH_SIDE = says("asks_each_side", "{seconds:g} s a side")


@dataclass(frozen=True, slots=True, kw_only=True)
class Timed(Asks):
    """Done for a number of seconds by the clock; `sides`: on each side in turn; `air`: with air alone,
    nothing voiced, where the task is voiced otherwise."""

    kind: Literal["timed"] = "timed"
    seconds_a_side: Annotated[float, limits.TIMED_S.field]
    sides: Annotated[int, limits.SIDES.field] = 1
    air: bool = False
    because: Because
    partly_voiced: ClassVar[bool] = True
    by_clock: ClassVar[bool] = True
    settables: ClassVar[tuple[Settable, ...]] = (
        a_number("seconds_a_side", "Seconds, each side", limits.TIMED_S, 5),
        a_count("sides", "Sides", limits.SIDES),
    )

    def __post_init__(self) -> None:
        limits.TIMED_S.check("seconds", self.seconds_a_side)
        limits.SIDES.check("sides", self.sides)

    @property
    def seconds(self) -> float:
        return self.seconds_a_side * self.sides

    @property
    def air_only(self) -> bool:
        return self.air

    def air_s(self, rung: float | None) -> float | None:
        return self.seconds_a_side if self.air and rung is None else None

    def asked(self, place: int) -> Asked:
        return Asked(seconds=self.seconds)

    def legs(self, place: int) -> tuple[Leg, ...]:
        return (Leg(Activity.MOVEMENT, self.seconds_a_side),) * self.sides

    def said(self, sound: str) -> str:
        asked = _EACH_SIDE if self.sides > 1 else _TIMED
        return str(asked(seconds=self.seconds_a_side))

    def climbed(self, growth: Growth, value: float, because: Reason) -> Self | None:
        if growth is not Growth.SECONDS:
            return None
        return replace(self, seconds_a_side=value, because=because)

    def shorter(self, less_s: float, *, graded: bool, rungs_are_targets: bool) -> Self | None:
        seconds = float(int(self.seconds_a_side - less_s / self.sides))
        if graded or seconds < _SHORTEST_S:
            return None
        return replace(self, seconds_a_side=seconds)
