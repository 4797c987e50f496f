"""Stop signs: what ends a home session at once, and what rests until somebody has looked at it."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from enum import StrEnum

from pydantic import ConfigDict

from core.catalogue.touches import Touch
from core.program.step import Phase, Step
from core.reason import told_as
from core.reference.values import PAIN_STOPS
from core.safety.screening import RedFlag


class StopSign(StrEnum):
    PAIN = "pain"
    LIGHT_HEADED = "light_headed"
    CHOKING = "choking"
    VOICE_WORSE = "voice_worse"
    BREATHING = "breathing"
    CHEST_PAIN = "chest_pain"
    FAINTING = "fainting"
    ANOTHER = "another"


_SIGN_WORDS = {
    StopSign.PAIN: "pain",
    StopSign.LIGHT_HEADED: "light-headed",
    StopSign.CHOKING: "choking or coughing",
    StopSign.VOICE_WORSE: "voice suddenly worse",
    StopSign.BREATHING: "breathing trouble",
    StopSign.CHEST_PAIN: "chest pain",
    StopSign.FAINTING: "fainting",
    StopSign.ANOTHER: "something new since last time",
}
SIGNS = told_as("sign", _SIGN_WORDS)
"""Each stop sign as a reason, for the clinician."""


@dataclass(frozen=True, slots=True)
class OpenSign:
    """A stop sign nobody has cleared yet, and the step it came with; None = not in a step."""

    __pydantic_config__ = ConfigDict(extra="forbid")

    sign: StopSign
    step_id: str | None


def hurts(step: Step) -> bool:
    """Whether the client is asked after it how much it hurt: letting go must not."""
    return step.phase is Phase.RELEASE and not step.voiced


def pain_stops(pain: int) -> bool:
    """Whether pain of 0–10 is a stop sign by itself."""
    return pain >= PAIN_STOPS.number


EMERGENCY_SIGNS = frozenset({StopSign.BREATHING, StopSign.CHEST_PAIN, StopSign.FAINTING})
"""Stop signs of which the emergency number comes first."""
EMERGENCY_FLAGS = frozenset({RedFlag.FACE_OR_SPEECH_SUDDEN, RedFlag.BLOOD, RedFlag.NOISY_BREATHING})
"""Red flags of which the emergency number comes first."""
_VOICED = frozenset({StopSign.VOICE_WORSE, StopSign.BREATHING})
_EVERYTHING = frozenset({StopSign.CHEST_PAIN, StopSign.FAINTING})
_WATER = frozenset({Touch.WATER, Touch.DEEP_WATER, Touch.SIP})


def rests(
    step: Step, signs: Iterable[OpenSign], touches_of: Callable[[Step], frozenset[Touch]]
) -> bool:
    """Whether a step rests: the one a sign came with, all water after choking, everything voiced
    after a worse voice or trouble breathing, everything after chest pain or fainting and where the step
    is not known. A step of
    which nobody said what it touches counts as water and as voiced."""
    touches = touches_of(step)
    for one in signs:
        if one.step_id == step.step_id or one.sign in _EVERYTHING:
            return True
        if one.sign is StopSign.CHOKING:
            if touches & _WATER or Touch.UNKNOWN in touches:
                return True
        elif one.sign in _VOICED:
            if Touch.VOICED in touches or Touch.UNKNOWN in touches:
                return True
        elif one.step_id is None:
            return True
    return False


def withheld(signs: Iterable[OpenSign]) -> frozenset[Touch]:
    """What no line and no prompt may ask for besides the steps: after choking, water and sips."""
    return _WATER if any(one.sign is StopSign.CHOKING for one in signs) else frozenset()
