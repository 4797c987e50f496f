"""What can be decided, in the order in which it comes first."""

from dataclasses import dataclass
from enum import StrEnum

from core.reason import Reason


class Act(StrEnum):
    """The acts of a review; of several that are due the first acts and the others are listed."""

    EMERGENCY = "emergency"
    CONTACT = "contact"
    EXAMINE = "examine"
    PROBE = "probe"
    RUNG_DOWN = "rung_down"
    EASE = "ease"
    STAGE_BACK = "stage_back"
    REVIEW = "review"
    REMEASURE = "remeasure"
    SWAP = "swap"
    TEACH = "teach"
    TAPER = "taper"
    DISCHARGE = "discharge"
    CLIMB = "climb"
    STAY = "stay"

    @property
    def place(self) -> int:
        """0 = comes before every other."""
        return list(Act).index(self)


class Dimension(StrEnum):
    """What of a step is eased: its rung, the level aimed at, the depth of the water, the bore of the tube."""

    RUNG = "rung"
    LEVEL = "level"
    DEPTH = "depth"
    BORE = "bore"


@dataclass(frozen=True, slots=True, kw_only=True)
class Proposal:
    """One thing to decide.

    steps: ids of the steps it is about, () = the program; rung: the rung they would stand on, where
    it is about a rung; dimension: what is eased, to: the dB over the own talk, cm or mm it is eased to
    where that is not the rung; reasons: the numbers it rests on; against: what speaks against it, or, where
    they stay, what is missing; by_clock: it rests on the stopwatch alone and waits to be heard.
    """

    act: Act
    steps: tuple[str, ...] = ()
    rung: int | None = None
    reasons: tuple[Reason, ...] = ()
    against: tuple[Reason, ...] = ()
    by_clock: bool = False
    dimension: Dimension = Dimension.RUNG
    to: float | None = None
