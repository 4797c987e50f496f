"""What a single attempt of a step asks for: one note, one key, one breath, one piece of speech."""

from core.errors import PlanError
from core.program.step import Step
from core.program.targets import Asked


def asked_of(step: Step, place: int) -> Asked:
    """The attempt at one place of a step, from 0; PlanError("place_unknown")."""
    target = step.target
    if not 0 <= place < target.attempts:
        raise PlanError("place_unknown", place=place, places=target.attempts)
    return target.asked(place)


def rest_after(step: Step, place: int) -> float:
    """Seconds of rest after the attempt at that place: the keys of a pattern, the breaths of a pace
    and the pieces of a text run on; between held notes there is a rest."""
    target = step.target
    return 0.0 if target.runs_on and place + 1 < target.attempts else step.rest_s
