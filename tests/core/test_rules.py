"""What a rule says, number by number: needs on their last day, what stands of
several screenings."""

from datetime import date, timedelta

import pytest

from core.dose.tide import Done, Prescribed, Stroke, TideDay, tide_days
from core.errors import PlanError
from core.grading.need import Need, need_of
from core.grading.strain import StrainSaid, strain_view
from core.program.dosing import Dose
from core.safety.combined_screening import OneScreening, standing
from core.safety.condition import Condition
from core.safety.screening import RedFlag, Screening
from tests.factories.gate import facts

TODAY = date(2026, 6, 15)


def ago(days):
    return TODAY - timedelta(days=days)


@pytest.mark.parametrize(
    ("changes", "need"),
    [
        # 30 prescribed × 1.4 = 42 done is over-keen, 41 is not
        ({"kept_14_days": 30, "added_14_days": 12, "prescribed_14_days": 30}, Need.OVER_KEEN),
        ({"kept_14_days": 30, "added_14_days": 11, "prescribed_14_days": 30}, Need.ON_COURSE),
        # a task is due on its day, not before
        ({"task_due": ago(0)}, Need.TASK_DUE),
        ({"task_due": ago(-1)}, Need.ON_COURSE),
    ],
)
def test_needs_begin_on_their_day(changes, need):
    assert need_of(facts(**changes), [], TODAY).need is need


def answer(days_ago, value, step="power", family="D"):
    return StrainSaid(day=ago(days_ago), value=value, step_id=step, family=family)


def test_strain_looks_back_fourteen_days_and_the_last_day_decides():
    # five answers make the usual: the one of fourteen days ago is the fifth
    usual = [answer(days, 1.0) for days in (14, 9, 8, 7, 6)]
    assert strain_view(usual, today=TODAY, baseline=3.0).usual == 1.0
    assert strain_view(usual, today=TODAY + timedelta(days=1), baseline=3.0).usual == 3.0
    high = strain_view([*usual, answer(0, 4.0)], today=TODAY, baseline=4.0)
    assert [(one.code, dict(one.params)) for one in high.against] == [
        ("strain_high", {"strain": 4.0})
    ]
    calm_again = strain_view([*usual, answer(1, 4.0), answer(0, 1.0)], today=TODAY, baseline=4.0)
    assert not calm_again.against
    nothing = strain_view([], today=TODAY, baseline=None)
    assert (nothing.usual, nothing.against, nothing.contact) == (None, (), False)


def screening(**answers):
    return Screening(**{"asked_on": ago(1), "larynx_examined_on": ago(20)} | answers)


def stands(*all_of_them):
    return standing([OneScreening(screening=one) for one in all_of_them])


def test_what_stands_of_two_screenings_day_by_day():
    before = screening(
        asked_on=ago(30),
        red_flags=frozenset({RedFlag.BLOOD}),
        noted_on={RedFlag.BLOOD: ago(33)},
        larynx_examined_on=ago(40),
        released_on=ago(50),
        looked_at_on=ago(25),
        cleared_on=ago(29),
        cleared_from=ago(28),
        folds_operated_on=ago(90),
        conditions=frozenset({Condition.FOLD_SURGERY}),
    )
    ears = frozenset({RedFlag.EAR_PAIN})
    after = screening(asked_on=ago(5), larynx_examined_on=None, red_flags=ears)
    found = stands(before, after)
    assert found.larynx_examined_on == ago(40)
    assert found.released_on == ago(50)
    assert found.looked_at_on == ago(25)
    assert (found.cleared_on, found.cleared_from) == (ago(29), ago(28))
    # the blood was cleared before it was asked again, the ear pain is of the day it was asked
    assert found.red_flags == ears
    assert found.noted(RedFlag.EAR_PAIN) == ago(5)
    # surgery that is not told again is none; told again it is the one that was first told
    assert found.folds_operated_on is None
    told_again = screening(asked_on=ago(5), conditions=before.conditions)
    assert stands(before, told_again).folds_operated_on == ago(90)
    newer = screening(asked_on=ago(5), larynx_examined_on=ago(6), looked_at_on=ago(7))
    assert stands(before, newer).larynx_examined_on == ago(6)
    assert stands(before, newer).looked_at_on == ago(7)


def test_the_newest_clearance_stands_with_both_its_days():
    early = screening(asked_on=ago(30), cleared_from=ago(10))
    late = screening(asked_on=ago(5), cleared_on=ago(20), cleared_from=ago(2))
    # a clearance with a day it was given on counts by that day: 20 days ago is before 10
    found = stands(early, late)
    assert (found.cleared_on, found.cleared_from) == (None, ago(10))


def test_an_open_flag_keeps_the_day_it_was_noted_on():
    first = screening(
        asked_on=ago(30), red_flags=frozenset({RedFlag.BLOOD}), noted_on={RedFlag.BLOOD: ago(33)}
    )
    found = stands(first, screening(asked_on=ago(5)), screening(asked_on=ago(2)))
    assert found.noted(RedFlag.BLOOD) == ago(33)


def test_a_day_of_one_routine_is_that_day_with_nothing_of_the_others():
    day = TideDay(TODAY, {"ladder": (Stroke.KEPT,)})
    assert day.of("ladder") == day
    assert day.of("reset") == TideDay(TODAY, {"reset": ()})


def test_two_stretches_of_one_routine_add_up_and_days_upside_down_are_named():
    stretches = [
        Prescribed(routine=key, first=ago(3), last=None, dose=Dose(sessions_a_day=times))
        for key, times in (("ladder", 1), ("reset", 2))
    ]
    done = [Done(ago(1), Stroke.KEPT, "reset")]
    (day,) = tide_days(stretches, done, first=ago(1), last=ago(1), today=TODAY)
    assert day.day == ago(1)
    assert day.routines["ladder"] == (Stroke.MISSED,)
    assert day.routines["reset"] == (Stroke.KEPT, Stroke.MISSED)
    with pytest.raises(PlanError) as refused:
        tide_days(stretches, done, first=TODAY, last=ago(2), today=TODAY)
    assert refused.value.params == {"first": "2026-06-15", "last": "2026-06-13"}
