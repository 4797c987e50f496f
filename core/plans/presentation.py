"""How a step is presented at home: which words it shows, which of them is leant on, when its picture is seen."""

from dataclasses import dataclass
from enum import StrEnum

from core.catalogue.materials import sorts
from core.errors import PlanError
from core.plans.targets import Strict


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


@dataclass(frozen=True, slots=True, kw_only=True)
class Presentation(Strict):
    """material: a sort of material by its name, "" = what belongs to the task."""

    material: str = ""
    stress: Stress = Stress.NONE
    feedback: Feedback = Feedback.LIVE

    def __post_init__(self) -> None:
        if self.material and self.material not in sorts():
            raise PlanError("material_unknown", came=self.material, known=", ".join(sorts()))


AS_EVER = Presentation()
