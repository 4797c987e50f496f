"""What one repetition of a step asks for: a module a kind of target.

Every target answers what `common.Asks` names; nobody outside asks which it is. Limits raise PlanError.
"""

from collections.abc import Iterable
from typing import Annotated

from pydantic import Field

from core.notes.note import Note
from core.program.targets.blow import Blow
from core.program.targets.common import Activity, Asked, Leg, Strict, seconds_of
from core.program.targets.counted import Counted
from core.program.targets.glide import GlidePath
from core.program.targets.holds import Holds, HoldTarget
from core.program.targets.join import Join
from core.program.targets.pace import Pace
from core.program.targets.pattern import Pattern
from core.program.targets.phrases import Phrases
from core.program.targets.speech import Speech
from core.program.targets.timed import Timed

__all__ = [
    "Activity",
    "Asked",
    "Blow",
    "Counted",
    "GlidePath",
    "HoldTarget",
    "Holds",
    "Join",
    "Leg",
    "Pace",
    "Pattern",
    "Phrases",
    "Speech",
    "StepTarget",
    "Strict",
    "Timed",
    "lowest_and_highest",
    "seconds_of",
]

StepTarget = Annotated[
    Holds | GlidePath | Blow | Join | Pattern | Pace | Speech | Phrases | Timed | Counted,
    Field(discriminator="kind"),
]


def lowest_and_highest(notes: Iterable[Note]) -> tuple[Note, Note] | None:
    """The ends of some notes, or None for none."""
    found = sorted(notes)
    return (found[0], found[-1]) if found else None
