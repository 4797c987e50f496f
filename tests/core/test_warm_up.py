"""A warm-up of the day: the right order, the minutes there are, nothing beyond what is prescribed."""

from dataclasses import replace
from itertools import product

import pytest

from core.dose.minutes import length_of
from core.dose.warm_up import MINUTES, Purpose, VoiceToday, warm_up
from core.program.step import Phase
from tests.core.fitted import proposed

ORDER = [
    Phase.RELEASE,
    Phase.BREATH,
    Phase.SEMI_OCCLUDED,
    Phase.VOICE,
    Phase.RESONANCE,
    Phase.RANGE,
    Phase.CARRY_OVER,
]


@pytest.fixture(scope="module")
def steps():
    return proposed(
        "warm_up", "range_full", "sustained", "loudness_longest", "cool_down"
    ).program.steps


def plan(steps, minutes=20, purpose=Purpose.SINGING, voice=VoiceToday.FRESH):
    return warm_up(steps, minutes=minutes, purpose=purpose, voice=voice)


def done(steps, found):
    by_id = {step.step_id: step for step in steps}
    return [replace(by_id[step_id], repetitions=times) for step_id, times in found.parts]


@pytest.mark.parametrize(
    ("minutes", "purpose", "voice"), list(product(MINUTES, Purpose, VoiceToday))
)
def test_order_minutes_and_no_more_than_is_prescribed(steps, minutes, purpose, voice):
    found = plan(steps, minutes, purpose, voice)
    own = done(steps, found)
    assert own
    places = [ORDER.index(step.phase) for step in own]
    assert places == sorted(places)
    assert len({step.task for step in own}) == len(own)
    assert found.minutes == pytest.approx(length_of(own).minutes)
    assert found.minutes <= minutes or {step.phase for step in own} == {Phase.SEMI_OCCLUDED}
    prescribed = {step.step_id: step.repetitions for step in steps}
    assert all(1 <= times <= prescribed[step_id] for step_id, times in found.parts)
    assert not any(step.level for step in own)
    assert any(step.phase is Phase.SEMI_OCCLUDED for step in own)


def test_range_is_for_singing_with_a_fresh_voice(steps):
    def phases(**asked):
        return {step.phase for step in done(steps, plan(steps, 30, **asked))}

    assert Phase.RANGE in phases()
    assert Phase.RANGE not in phases(purpose=Purpose.SPEAKING)
    for voice in (VoiceToday.THICK, VoiceToday.TIRED):
        assert not phases(voice=voice) & {Phase.RANGE, Phase.VOICE}


def test_what_is_left_out_is_said_with_its_reason(steps):
    said = [str(why) for why in plan(steps, 5, Purpose.SPEAKING).trimmed]
    assert any("not at full power" in line for line in said)
    assert any("for singing only" in line for line in said)
    assert any("does not fit into 5 minutes" in line for line in said)
    short = [step for step in steps if step.phase is Phase.SEMI_OCCLUDED]
    assert "this is all of your program" in str(plan(short, 30).trimmed[-1])


def test_nothing_to_warm_up_with_is_an_empty_plan(steps):
    cool = [step for step in steps if step.phase is Phase.COOL_DOWN]
    assert plan(cool).parts == ()
