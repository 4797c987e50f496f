"""What a rule says, number by number: the reasons of a climb, needs on their last day, what stands of
several screenings."""

from datetime import date, timedelta

import pytest

from core.dose.tide import Done, Prescribed, Stroke, TideDay, tide_days
from core.errors import PlanError
from core.grading.climb import SessionFigures, climb_advice, most_pitch_sd, session_figures
from core.grading.need import Need, need_of
from core.grading.strain import StrainSaid, StrainView, strain_view
from core.plans.dosing import Dose
from core.safety.condition import Condition
from core.safety.screening import RedFlag, Screening
from core.safety.standing import OneScreening, standing
from tests.core.test_gate import facts
from tests.core.test_sustained import climb, held

TODAY = date(2026, 6, 15)
EASED = StrainView(usual=1.0, eased=("glide",), contact=True, against=())


def ago(days):
    return TODAY - timedelta(days=days)


@pytest.mark.parametrize(
    ("against", "code", "params"),
    [
        ({"stop_sign_open": True}, "stop_sign_open", {}),
        ({"days": 4}, "few_sessions", {"sessions": 4}),
        ({"days": 2}, "few_days", {}),
        ({"kept_share_7_days": 0.49}, "little_kept", {}),
        ({"kept_share_7_days": None}, "little_kept", {}),
        # asked on the 10th, six days after the 4th
        ({"last_climb": date(2026, 6, 4)}, "climbed_lately", {"days": 6}),
        ({"strain": None}, "strain_unanswered", {"sessions": 5}),
        ({"missed": 2}, "too_few_met", {"met": 3, "sessions": 5}),
        ({"unknown": 2}, "too_few_known", {"met": 0, "sessions": 5, "unknown": 5}),
    ],
)
def test_each_condition_against_a_climb_is_said_with_its_number(against, code, params):
    advice = climb(**against)
    assert advice.climb is False
    assert {one.code: dict(one.params) for one in advice.reasons}[code] == params


def test_a_climb_says_how_many_sessions_meet_the_goal():
    (why,) = climb(missed=1).reasons
    assert (why.code, dict(why.params)) == ("meets_goal", {"sessions": 4})
    assert climb().climb is True


def test_what_strain_asks_for_goes_with_every_advice():
    figures = SessionFigures(day=TODAY, notes_asked=5, notes_met=5, notes_unknown=0, strain=6.0)
    advice = climb_advice(
        [figures],
        today=TODAY,
        last_climb=None,
        kept_share_7_days=1.0,
        stop_sign_open=False,
        strain=EASED,
    )
    assert (advice.climb, advice.ease, advice.contact) == (False, ("glide",), True)
    assert advice.reasons[0].code == "call_for_strain"


def test_unknown_notes_count_where_they_would_just_suffice():
    """Four of five notes are needed: three met and one unknown would do, so it is named."""
    notes = [held(note="0", level_over_probe_db=None), *(held(note=str(n)) for n in (1, 2, 3))]
    short = [held(note=str(n), seconds=1.0) for n in range(5)]
    sessions = [
        session_figures(short if d < 2 else notes, day=ago(9 - d), notes_asked=5, strain=2.0)
        for d in range(5)
    ]
    calm = StrainView(usual=2.0, eased=(), contact=False, against=())
    advice = climb_advice(
        sessions,
        today=TODAY,
        last_climb=None,
        kept_share_7_days=1.0,
        stop_sign_open=False,
        strain=calm,
    )
    assert dict(advice.reasons[0].params) == {"met": 0, "sessions": 5, "unknown": 3}


def test_a_note_that_failed_once_is_still_unknown_where_another_try_is():
    tries = [held(seconds=1.0), held(level_over_probe_db=None)]
    found = session_figures(tries, day=TODAY, notes_asked=1, strain=None)
    assert (found.notes_met, found.notes_unknown) == (0, 1)


def test_steadiness_asked_for_grows_with_the_own_tremor():
    assert most_pitch_sd(None) == 0.5
    assert most_pitch_sd(2.0) == pytest.approx(2.2)


@pytest.mark.parametrize(
    ("changes", "need"),
    [
        # 30 prescribed × 1.4 = 42 done is over-keen, 41 is not
        ({"kept_14_days": 30, "added_14_days": 12, "prescribed_14_days": 30}, Need.OVER_KEEN),
        ({"kept_14_days": 30, "added_14_days": 11, "prescribed_14_days": 30}, Need.ON_COURSE),
        # 21 days without a gain is a plateau, 20 are not
        ({"active_since": ago(40), "last_gain": ago(21)}, Need.PLATEAU),
        ({"active_since": ago(40), "last_gain": ago(20)}, Need.ON_COURSE),
        ({"active_since": ago(20), "last_gain": ago(30)}, Need.ON_COURSE),
    ],
)
def test_needs_begin_on_their_day(changes, need):
    assert need_of(facts(**changes), TODAY) is need


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
