"""What rests after a stop sign, whatever the steps are called."""

from dataclasses import dataclass

import pytest

from core.catalogue.touches import Touch
from core.safety.stop import OpenSign, StopSign, rests, withheld

HUM, BUBBLES, SIP, STRETCH, UNTOLD = "hum", "bubbles", "sip", "stretch", "untold"
TOUCHES = {
    HUM: {Touch.VOICED},
    BUBBLES: {Touch.VOICED, Touch.WATER},
    SIP: {Touch.SIP},
    STRETCH: set(),
    UNTOLD: {Touch.UNKNOWN},
}


@dataclass(frozen=True)
class OneStep:
    step_id: str


def resting(sign: StopSign, in_step: str | None) -> set[str]:
    signs = [OpenSign(sign=sign, step_id=in_step)]
    return {
        name
        for name in TOUCHES
        if rests(OneStep(name), signs, lambda step: frozenset(TOUCHES[step.step_id]))
    }


@pytest.mark.parametrize(
    ("sign", "in_step", "rest"),
    [
        (StopSign.PAIN, HUM, {HUM}),
        (StopSign.LIGHT_HEADED, STRETCH, {STRETCH}),
        (StopSign.PAIN, None, {HUM, BUBBLES, SIP, STRETCH, UNTOLD}),
        (StopSign.ANOTHER, None, {HUM, BUBBLES, SIP, STRETCH, UNTOLD}),
        (StopSign.CHOKING, STRETCH, {STRETCH, BUBBLES, SIP, UNTOLD}),
        (StopSign.CHOKING, None, {BUBBLES, SIP, UNTOLD}),
        (StopSign.VOICE_WORSE, HUM, {HUM, BUBBLES, UNTOLD}),
        (StopSign.VOICE_WORSE, None, {HUM, BUBBLES, UNTOLD}),
        (StopSign.BREATHING, SIP, {SIP, HUM, BUBBLES, UNTOLD}),
    ],
)
def test_rests_until_somebody_looked(sign, in_step, rest):
    assert resting(sign, in_step) == rest


def test_nothing_rests_without_a_sign():
    assert not rests(OneStep(BUBBLES), [], lambda step: frozenset(TOUCHES[step.step_id]))


@pytest.mark.parametrize("sign", StopSign)
def test_only_choking_withholds_water_and_sips(sign):
    water = {Touch.WATER, Touch.DEEP_WATER, Touch.SIP} if sign == "choking" else set()
    assert withheld([OpenSign(sign=sign, step_id=None)]) == water
