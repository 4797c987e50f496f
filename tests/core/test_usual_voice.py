"""The usual voice reported from home: two days running lift an acute laryngitis, and a program restarts (S3)."""

from dataclasses import replace
from datetime import date, timedelta

import pytest

from core.safety.condition import Condition
from core.safety.inferred import before_restart, first_usual_day, inferred, with_reports
from core.safety.screening import Screening
from core.safety.state import VoiceState

D = [date(2026, 6, day) for day in range(10, 18)]
COLD = Screening(
    asked_on=D[0],
    larynx_examined_on=None,
    voice=VoiceState.TROUBLED,
    trouble_began_on=D[0] - timedelta(days=3),
    cold=True,
    hoarser=True,
)
ILL = Condition.ACUTE_LARYNGITIS


@pytest.mark.parametrize(
    ("reports", "first"),
    [
        ({}, None),
        ({D[1]: True}, None),
        ({D[1]: True, D[2]: True}, D[1]),
        ({D[1]: True, D[2]: True, D[3]: True}, D[1]),
        ({D[1]: True, D[3]: True}, None),  # a day between
        ({D[1]: True, D[2]: False}, None),
        ({D[1]: True, D[2]: True, D[3]: False}, None),  # hoarse again
        ({D[1]: True, D[2]: False, D[3]: True, D[4]: True}, D[3]),
    ],
)
def test_two_days_running_with_the_usual_voice_count_and_a_later_relapse_undoes_them(
    reports, first
):
    assert first_usual_day(reports) == first


def test_reports_lift_a_laryngitis_that_followed_from_answers_and_nothing_else():
    twice = {D[1]: True, D[2]: True}
    assert ILL in inferred(COLD, D[2])
    assert ILL not in inferred(with_reports(COLD, D[2], twice), D[2])
    assert ILL in inferred(with_reports(COLD, D[2], {D[2]: True}), D[2])
    # from before the cold: not this illness
    before = {D[0] - timedelta(days=2): True, D[0] - timedelta(days=1): True}
    assert ILL in inferred(with_reports(COLD, D[2], before), D[2])
    well = replace(COLD, cold=False, hoarser=False, larynx_examined_on=D[0])
    assert with_reports(well, D[2], twice) == well


@pytest.mark.parametrize(
    ("activated_on", "rungs", "ill"),
    [
        (D[0], [0, 2], True),  # still where it was before
        (D[1], [0, 2], True),
        (D[2], [0, 2], False),  # restarted on the second day or after it
        (D[0], [0, 0], False),  # every step at its first rung
        (D[0], [], False),
    ],
)
def test_a_running_program_waits_for_its_restart(activated_on, rungs, ill):
    told = with_reports(COLD, D[2], {D[1]: True, D[2]: True})
    held = before_restart(told, activated_on=activated_on, rungs=rungs)
    assert (ILL in inferred(held, D[2])) is ill


def test_what_the_clinician_recorded_needs_no_restart_to_open_the_gate():
    told = replace(COLD, usual_voice_since=D[1])
    assert ILL not in inferred(before_restart(told, activated_on=D[0], rungs=[3]), D[2])
