"""What a program becomes when a proposal is accepted; by hand on the worked case."""

from dataclasses import replace
from datetime import timedelta

import pytest

from core.editing.change_rung import on_rung
from core.errors import PlanError
from core.grading.act import Act, Proposal
from core.grading.apply_proposal import accepted, changes
from tests.core.fitted import TODAY, proposed
from tests.core.histories import step_of, the_cook
from tests.factories.decisions_said import stages, with_dose

COOK, POWER = the_cook()


def about(act, rung=None):
    return Proposal(act=act, steps=(POWER.step_id,), rung=rung)


def seconds(program):
    return [step.holds[0].seconds for step in program.steps if step.grade and step.holds]


def test_a_climb_or_an_ease_moves_the_steps_of_the_key_together():
    # the warm-up and the notes: 7 s, then 8 s, or back to 6.5 s
    assert seconds(COOK) == [7.0, 7.0]
    assert seconds(accepted(COOK, about(Act.CLIMB, 2), TODAY)) == [8.0, 8.0]
    assert seconds(accepted(COOK, about(Act.EASE, 0), TODAY)) == [6.5, 6.5]
    assert seconds(accepted(COOK, about(Act.CLIMB, 2), TODAY, rung=3)) == [9.0, 9.0]
    assert seconds(accepted(COOK, about(Act.CLIMB, 2), TODAY, rung=0)) == [6.5, 6.5]


def test_days_away_move_every_ladder():
    program = proposed("sustained", "breath_hiss").program
    hiss = next(step for step in program.steps if step.task == "hiss")
    program = on_rung(
        on_rung(program, step_of(program, "sustained_power").step_id, 3), hiss.step_id, 1
    )

    def rungs(of):
        return {step.task: step.grade.rung for step in of.steps if step.grade}

    before = rungs(program)
    assert (before["sustained_power"], before["hiss"]) == (3, 1)
    down = rungs(accepted(program, Proposal(act=Act.RUNG_DOWN), TODAY))
    assert down == {task: max(rung - 1, 0) for task, rung in before.items()}
    first = rungs(accepted(program, Proposal(act=Act.PROBE), TODAY))
    assert set(first.values()) == {0}
    assert set(first) == set(before)


def starts(program, proposal):
    return accepted(program, proposal, TODAY).routines[0].dose.starts_on


def test_a_taper_begins_today():
    program = with_dose(COOK, weeks=6, taper=stages(2, 3), starts_on=TODAY - timedelta(days=10))
    assert starts(program, about(Act.TAPER)) == TODAY - timedelta(weeks=6)


@pytest.mark.parametrize(
    ("days_ago", "back_to"),
    [
        # 6 weeks, then stages of 2, 3 and 4: from the third stage the second begins today
        (7 * 11, 7 * (6 + 2)),
        (7 * 8, 7 * 6),
        # in the first stage one more week of the whole dose
        (7 * 6, 7 * 5),
        # before the taper nothing changes
        (7 * 5, 7 * 5),
    ],
)
def test_one_stage_back(days_ago, back_to):
    program = with_dose(
        COOK, weeks=6, taper=stages(2, 3, 4), starts_on=TODAY - timedelta(days=days_ago)
    )
    assert starts(program, about(Act.STAGE_BACK)) == TODAY - timedelta(days=back_to)


def test_without_a_start_no_stage_is_known():
    program = with_dose(COOK, taper=stages(2), starts_on=None)
    assert accepted(program, about(Act.STAGE_BACK), TODAY) == program


@pytest.mark.parametrize(
    ("act", "rung", "changed"),
    [
        (Act.CLIMB, 2, True),
        (Act.CLIMB, None, False),
        (Act.EASE, 0, True),
        (Act.EASE, None, False),
        (Act.RUNG_DOWN, None, True),
        (Act.PROBE, None, True),
        (Act.TAPER, None, True),
        (Act.STAGE_BACK, None, True),
        (Act.EMERGENCY, None, False),
        (Act.CONTACT, None, False),
        (Act.EXAMINE, None, False),
        (Act.REVIEW, None, False),
        (Act.REMEASURE, None, False),
        (Act.SWAP, None, False),
        (Act.TEACH, None, False),
        (Act.DISCHARGE, None, False),
        (Act.STAY, None, False),
    ],
)
def test_what_changes_the_program(act, rung, changed):
    proposal = about(act, rung)
    assert changes(proposal) is changed
    if not changed:
        with pytest.raises(PlanError) as refused:
            accepted(COOK, proposal, TODAY)
        assert (refused.value.code, refused.value.params) == (
            "nothing_to_change",
            {"act": act.value},
        )


def test_a_step_that_is_gone_and_a_rung_that_is_not_there():
    gone = replace(about(Act.CLIMB, 2), steps=("5cf75070-0000-4000-8000-000000000000",))
    with pytest.raises(PlanError) as refused:
        accepted(COOK, gone, TODAY)
    assert refused.value.code == "step_unknown"
    with pytest.raises(PlanError) as refused:
        accepted(COOK, about(Act.CLIMB, 99), TODAY)
    assert refused.value.code == "rung_unknown"
