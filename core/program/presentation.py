"""How a step is presented at home: which words it shows, which of them is leant on, when its picture is seen."""

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated

from pydantic import Field

from core.catalogue.materials import sorts
from core.errors import PlanError
from core.program.targets import Strict


class Stress(StrEnum):
    """Which word of every line is leant on: the first by those who rush or stumble at the start, the last by
    those who fade."""

    NONE = ""
    FIRST = "first"
    LAST = "last"


class Feedback(StrEnum):
    """When the picture of an attempt is seen."""

    LIVE = "live"
    THIRD = "third"
    AFTER = "after"
    OFF = "off"


class Position(StrEnum):
    """How the client sits, stands or lies for it."""

    AS_TOLD = ""
    LYING = "lying"
    SITTING = "sitting"
    STANDING = "standing"


MOST_CUE = 120
"""Characters of a cue."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Presentation(Strict):
    """material: a sort of material by its name, "" = what belongs to the task; cue: the one that worked in
    the visit, shown at home, "" = none."""

    material: str = ""
    stress: Stress = Stress.NONE
    feedback: Feedback = Feedback.LIVE
    position: Position = Position.AS_TOLD
    cue: Annotated[str, Field(max_length=MOST_CUE)] = ""

    def __post_init__(self) -> None:
        if self.material and self.material not in sorts():
            raise PlanError("material_unknown", came=self.material, known=", ".join(sorts()))
        if len(self.cue) > MOST_CUE:
            raise PlanError("cue_too_long", came=len(self.cue), high=MOST_CUE)


AS_EVER = Presentation()
