"""Speaking, counting or reading for some time."""

import math
from dataclasses import dataclass, replace
from typing import Annotated, ClassVar, Literal, Self

from core.catalogue.words import Growth
from core.program import limits
from core.program.settable import Settable, a_number
from core.program.targets.common import Asked, Asks
from core.reason import Because, Reason, says

LONGEST_PIECE_S = 90.0
"""Longest piece of speech recorded in one attempt; a recording ends at 120 s."""
_SHORTEST_S = 20.0


_SPOKEN = says("asks_speech", "“{sound}” {seconds:g} s")


@dataclass(frozen=True, slots=True, kw_only=True)
class Speech(Asks):
    """Speaking, counting or reading for about a number of seconds, in pieces of 90 s at most."""

    kind: Literal["speech"] = "speech"
    seconds: Annotated[float, limits.SPEECH_S.field]
    because: Because
    runs_on: ClassVar[bool] = True
    partly_voiced: ClassVar[bool] = True
    settables: ClassVar[tuple[Settable, ...]] = (
        a_number("seconds", "Seconds", limits.SPEECH_S, 5),
    )

    def __post_init__(self) -> None:
        limits.SPEECH_S.check("seconds", self.seconds)

    @property
    def attempts(self) -> int:
        return math.ceil(self.seconds / LONGEST_PIECE_S)

    def asked(self, place: int) -> Asked:
        return Asked(seconds=self.seconds / self.attempts)

    def said(self, sound: str) -> str:
        return str(_SPOKEN(sound=sound, seconds=self.seconds))

    def climbed(self, growth: Growth, value: float, because: Reason) -> Self | None:
        return replace(self, seconds=value, because=because) if growth is Growth.SECONDS else None

    def shorter(self, less_s: float, *, graded: bool, rungs_are_targets: bool) -> Self | None:
        seconds = float(int(self.seconds - less_s))
        return replace(self, seconds=seconds) if seconds >= _SHORTEST_S else None
