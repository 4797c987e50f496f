"""What a condition, an event, an injection, a hearing loss or a laryngitis changes in a decision."""

import json
from dataclasses import replace
from datetime import timedelta
from pathlib import Path

import pytest

from core.formats.reading import FileRefused
from core.grading.apply_proposal import accepted
from core.grading.history_file import read_history
from core.safety.condition import Condition
from tests.core.fitted import proposed
from tests.core.histories import (
    TODAY,
    acts,
    ago,
    codes,
    decisions,
    done,
    held,
    history,
    proposal,
    sitting,
    soft,
)
from tests.factories.deciding_safely import COOK, DAYS, POWER, answered, fine

# C4, C8, S3, S7, S8


@pytest.mark.parametrize("name", ["motor_neurone", "myasthenia"])
def test_with_weak_muscles_nothing_advances(name):
    assert proposal(history(COOK, fine(*DAYS)), "climb")
    ill = history(COOK, fine(*DAYS), conditions=frozenset({Condition(name)}))
    assert proposal(ill, "climb") is None


@pytest.mark.parametrize(
    ("ahead", "climbs"), [((7,), False), ((8,), True), ((3, 13), True), ((2, 12), False)]
)
def test_nothing_climbs_in_the_days_before_an_event(ahead, climbs):
    events = tuple(TODAY + timedelta(days=one) for one in ahead)
    record = history(COOK, fine(*DAYS), events=events)
    assert bool(proposal(record, "climb")) is climbs


def test_nothing_is_compared_across_an_injection():
    # 101 % of 7 s for a week, then 60 %: a real fall, unless botulinum toxin lies between
    good = [sitting(COOK, ago(d), soft(POWER, 5)) for d in range(16, 8, -1)]
    weak = [
        sitting(COOK, ago(d), done(POWER, [held(share=60.0 + d)] * 5, over_db=1.0))
        for d in range(5, 0, -1)
    ]
    varied = [
        replace(one, steps=(done(POWER, [held(share=100.0 + n % 2)] * 5, over_db=1.0),))
        for n, one in enumerate(good)
    ]
    record = history(COOK, [*varied, *weak])
    assert proposal(record, "contact")
    across = replace(record, injections=(ago(7),))
    assert proposal(across, "contact") is None
    fell = history(COOK, varied, fell=True)
    assert proposal(fell, "examine")
    assert proposal(replace(fell, injections=(ago(7),)), "examine") is None


def test_self_rated_counts_move_nothing_with_a_hearing_loss():
    program = proposed("resonance").program
    step = program.steps[0]
    right = [sitting(program, ago(d), done(step, [{"done": 90.0}], done=90.0)) for d in DAYS]
    record = history(program, right)
    assert proposal(record, "climb")
    assert proposal(replace(record, hearing_loss=True), "climb") is None


def test_after_a_laryngitis_every_step_begins_at_its_first_target():
    record = history(COOK, fine(*DAYS), well_again_on=ago(1))
    found = proposal(record, "probe")
    assert "well_again" in codes(found.reasons)
    begun = accepted(COOK, found, TODAY)
    assert {one.rung for one in begun.steps if one.grade} == {0}
    assert proposal(replace(record, decided=(answered("probe", 0),)), "probe") is None


# files


EXAMPLE = Path("docs/examples/history-sustained.json")


def test_histories_of_format_one_are_read_and_do_not_know_the_fields_of_format_two():
    data = json.loads(EXAMPLE.read_text(encoding="utf-8"))
    assert data["format"] == "still-reed-history/1"
    record, _day, _rules = read_history(json.dumps(data))
    assert not record.open_flags
    with pytest.raises(FileRefused):
        read_history(json.dumps(data | {"open_flags": ["blood"]}))
    two = data | {"format": "still-reed-history/2", "open_flags": ["blood"]}
    record, day, rules = read_history(json.dumps(two))
    assert acts(decisions(record, day, rules))[0] == "emergency"
    with pytest.raises(FileRefused):
        read_history(json.dumps(two | {"open_flags": ["hiccups"]}))
