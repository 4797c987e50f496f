"""Routines: what shares a dose is one sitting, nothing else; limits count the whole day."""

from dataclasses import replace
from datetime import date, timedelta

import pytest

from core.dose.load import load_of
from core.dose.taper import on_day
from core.dose.tide import Done, Prescribed, Stroke, adherence_of, tide_days
from core.editing.change_rung import on_rung
from core.editing.edit_schedule import with_dose
from core.editing.step_order import without_step
from core.errors import PlanError
from core.fitting.known import Limits
from core.program.dosing import Dose
from core.program.program import Chosen
from core.safety.condition import Condition
from core.safety.conditions import GatedStep, judged
from core.safety.gate import Gate
from tests.core.fitted import propose_for, proposed, request, said, screened

MONDAY = date(2026, 6, 1)
NO_LIMIT = Limits(minutes_a_session=60)


def doses(found):
    return {
        one.key: (one.dose.sessions_a_day, one.dose.days_a_week, one.dose.when.value)
        for one in found.program.routines
    }


def test_a_reset_a_warm_up_and_a_cool_down_keep_their_own_dose():
    found = proposed("semi_reset", "warm_up", "cool_down", limits=NO_LIMIT)
    assert doses(found) == {
        "reset": (4, 5, "working_hours"),
        "warm_up": (1, 6, "before_use"),
        "cool_down": (1, 6, "after_use"),
    }
    # a reset is 20–30 s; only it comes four times a day
    reset = found.load.of("reset")
    assert 20 <= 60 * reset.session_min <= 30
    once = found.load.of("warm_up").session_min + found.load.of("cool_down").session_min
    assert found.load.day_min == pytest.approx(4 * reset.session_min + once)
    assert found.load.sessions_a_week == 4 * 5 + 6 + 6


def test_what_shares_a_dose_is_one_sitting_in_its_order_without_doubling():
    # both twice a day on five days; tubes come before held notes
    five_days = Chosen(school="sustained", options={"dose": "five_days"})
    found = propose_for(replace(request(), schools=(five_days, Chosen(school="semi_deep"))))
    (only,) = found.program.routines
    assert only.key == "ladder"
    phases = [step.phase.value for step in only.steps]
    assert phases.index("semi_occluded") < phases.index("voice")
    # five weeks of the one, six of the other: the review comes after five
    assert (only.dose.sessions_a_day, only.dose.days_a_week, only.dose.weeks) == (2, 5, 5)
    assert said(found.program.reasons, "shortest_weeks").params["weeks"] == 5


def test_what_differs_in_dose_is_a_routine_of_its_own():
    found = proposed("release", "sustained")
    assert doses(found) == {"ladder": (2, 7, "any"), "release": (1, 7, "any")}


def test_a_dose_that_a_school_does_not_have_is_refused():
    odd = Chosen(school="semi_deep", options={"dose": "hourly"})
    with pytest.raises(PlanError) as refused:
        propose_for(replace(request(), schools=(odd,)))
    assert refused.value.code == "option_unknown"


def test_two_routines_of_one_kind_have_their_own_keys():
    found = proposed("breath_hiss", "breath_support")
    assert sorted(one.key for one in found.program.routines) == ["breath", "breath_2"]
    assert {one.kind.value for one in found.program.routines} == {"breath"}


def test_a_client_who_has_one_sitting_a_day_does_both_in_it():
    one = Limits(sessions_a_day=1, minutes_a_session=60)
    found = proposed("release", "sustained", limits=one)
    (only,) = found.program.routines
    assert only.dose.sessions_a_day == 1
    assert {step.phase.value for step in only.steps} >= {"release", "voice"}


def test_a_client_who_has_two_sittings_a_day_keeps_the_routine_of_more_weight():
    two = Limits(sessions_a_day=2, minutes_a_session=60)
    found = proposed("sustained", "release", "cool_down", limits=two)
    assert sum(one.dose.sessions_a_day for one in found.program.routines) == 2
    assert found.program.routines[0].key == "ladder"
    # the release joins the ladder, the cool-down has a time of its own
    assert doses(found).keys() == {"ladder", "cool_down"}


def test_what_has_no_place_in_the_day_is_left_out_and_said():
    one = Limits(sessions_a_day=1, minutes_a_session=60)
    found = proposed("sustained", "cool_down", limits=one)
    assert doses(found).keys() == {"ladder"}
    assert said((out.why for out in found.left_out), "no_sitting_left").params["a_day"] == 1


def test_the_minutes_of_laryngitis_count_every_routine_of_the_day():
    soft = frozenset({"semi_occluded", "voiced", "gentle"})
    ill = frozenset({Condition.ACUTE_LARYNGITIS})
    morning = GatedStep(name="hum", touches=soft, minutes=1.5, sessions_a_day=2, routine="ladder")
    reset = GatedStep(name="straw", touches=soft, minutes=0.5, sessions_a_day=4, routine="reset")
    assert judged(ill, [morning, reset], Gate()).opens("")  # 3 + 2 = 5
    longer = replace(reset, minutes=0.6)
    over = judged(ill, [morning, longer], Gate())
    assert over.blocks[0].params["minutes"] == pytest.approx(5.4)


def test_the_longest_sitting_of_a_minor_counts_not_their_sum_and_the_day_has_a_limit():
    minor = frozenset({Condition.UNDER_TWELVE})
    one = GatedStep(name="talk", touches=frozenset(), minutes=9.0, routine="loudness")
    two = GatedStep(name="hum", touches=frozenset(), minutes=8.0, routine="cool_down")
    assert judged(minor, [one, two], Gate()).opens("")
    over = judged(minor, [replace(one, sessions_a_day=2), two], Gate())
    assert over.blocks[0].code == "minors_day"
    assert over.blocks[0].params["minutes"] == pytest.approx(26.0)
    assert over.blocks[0].params["most"] == 20


@pytest.mark.parametrize("schools", [("semi_shallow", "semi_reset"), ("semi_reset", "cool_down")])
def test_gentle_work_in_laryngitis_is_proposed_for_five_minutes_a_day_over_all(schools):
    ill = screened(request(*schools), conditions=frozenset({Condition.ACUTE_LARYNGITIS}))
    found = propose_for(ill)
    assert found.gate.opens("a reason") or not found.gate.blocks
    a_day = sum(
        load.session_min * routine.dose.sessions_a_day
        for routine, load in zip(found.program.routines, found.load.routines, strict=True)
        if any("semi_occluded" in step.touches for step in routine.steps)
    )
    assert 0 < a_day <= 5.1


def test_each_routine_has_its_own_taper():
    found = proposed("sustained", "release").program  # every day, then a taper
    started = replace(
        found,
        routines=tuple(
            replace(one, dose=replace(one.dose, starts_on=MONDAY)) for one in found.routines
        ),
    )
    late = on_day(started, MONDAY + timedelta(weeks=7, days=1))  # second week of the taper
    ladder, release = late.routine("ladder"), late.routine("release")
    assert {step.repetitions for step in ladder.steps} == {1}
    assert release.steps == started.routine("release").steps


def test_a_dose_is_set_for_one_routine_alone():
    program = proposed("semi_reset", "cool_down").program
    changed = with_dose(program, "reset", sessions_a_day=2, days_a_week=3, weeks=4)
    assert changed.routine("reset").dose.sessions_a_day == 2
    assert changed.routine("cool_down") == program.routine("cool_down")
    with pytest.raises(PlanError) as unknown:
        with_dose(program, "nap", sessions_a_day=1, days_a_week=1, weeks=1)
    assert unknown.value.code == "routine_unknown"


def test_a_routine_goes_with_its_last_step_and_the_last_routine_stays():
    program = proposed("semi_reset", "cool_down").program
    for step in program.routine("cool_down").steps:
        program = without_step(program, step.step_id)
    assert [one.key for one in program.routines] == ["reset"]
    for step in program.steps[:-1]:
        program = without_step(program, step.step_id)
    with pytest.raises(PlanError) as last:
        without_step(program, program.steps[0].step_id)
    assert last.value.code == "program_empty"


def test_a_climb_stays_in_its_routine():
    program = proposed("semi_performer", "warm_up", limits=NO_LIMIT).program
    graded = next(step for step in program.steps if step.grade and len(step.grade.rungs) > 1)
    moved = on_rung(program, graded.step_id, 1)
    own = program.routine_of(graded.step_id).key
    assert moved.routine(own) != program.routine(own)
    assert all(moved.routine(o.key) == o for o in program.routines if o.key != own)


def test_the_load_of_a_week_is_the_sum_of_its_routines():
    program = proposed("semi_reset", "warm_up", limits=NO_LIMIT).program
    load = load_of(program)
    assert load.week_min == pytest.approx(
        load.of("reset").session_min * 20 + load.of("warm_up").session_min * 6
    )


# Prescribed against kept, by routine

LADDER = Prescribed(routine="ladder", first=MONDAY, last=None, dose=Dose(sessions_a_day=2))
RESET = Prescribed(routine="reset", first=MONDAY, last=None, dose=Dose(sessions_a_day=3))


def table(*done, stretches=(LADDER, RESET)):
    sessions = [Done(MONDAY, stroke, routine) for stroke, routine in done]
    end = MONDAY + timedelta(days=1)
    return tide_days(stretches, sessions, first=MONDAY, last=MONDAY, today=end)


def test_resets_done_do_not_count_for_the_ladder():
    days = table(*[(Stroke.KEPT, "reset")] * 4)
    (day,) = days
    assert day.of("ladder").strokes == (Stroke.MISSED, Stroke.MISSED)
    assert day.of("reset").strokes == (Stroke.KEPT,) * 3 + (Stroke.ADDED,)
    kept = adherence_of(days)
    assert (kept.kept, kept.prescribed, kept.added) == (3, 5, 1)
    assert adherence_of([day.of("ladder")]).share == 0


def test_a_session_of_a_routine_that_is_gone_stands_in_on_the_day_of_the_change():
    (day,) = table((Stroke.KEPT, "practice"), stretches=(LADDER,))
    assert day.strokes == (Stroke.KEPT, Stroke.MISSED)
    (full,) = table(*[(Stroke.KEPT, "ladder")] * 2, (Stroke.KEPT, "practice"), stretches=(LADDER,))
    assert full.of("ladder").strokes == (Stroke.KEPT, Stroke.KEPT)
    assert full.of("practice").strokes == (Stroke.ADDED,)


def test_a_routine_on_its_rest_day_asks_for_nothing():
    five = replace(RESET, dose=Dose(sessions_a_day=3, days_a_week=5))
    saturday = MONDAY + timedelta(days=5)
    (day,) = tide_days(
        [LADDER, five],
        [Done(saturday, Stroke.KEPT, "reset")],
        first=saturday,
        last=saturday,
        today=saturday + timedelta(days=1),
    )
    assert day.of("ladder").strokes == (Stroke.MISSED, Stroke.MISSED)
    assert day.of("reset").strokes == (Stroke.ADDED,)


def test_fewer_sittings_are_said_with_what_was_asked_and_who_joins_whom():
    one = Limits(sessions_a_day=1, minutes_a_session=60)
    found = proposed("sustained", "breath_beats", limits=one).program
    joins = said(found.reasons, "in_one_sitting").params
    assert (joins["a_day"], joins["first"], joins["second"]) == (
        1,
        "Sustained-note ladder",
        "Breath on beats",
    )
    fewer = said(found.reasons, "fewer_a_day").params
    assert (fewer["a_day"], fewer["asked"]) == (1, 2)
    # a task of both stands once
    tasks = [step.task for step in found.steps]
    assert len(set(tasks)) == len(tasks)
    two = Limits(sessions_a_day=2, minutes_a_session=60)
    less_often = proposed("sustained", "cool_down", limits=two).program
    # three sittings are asked for, two are left
    assert {"a_day": 2, "asked": 3} in [
        dict(reason.params) for reason in less_often.reasons if reason.code == "fewer_a_day"
    ]


def test_what_finds_no_place_is_named_by_its_school():
    one = Limits(sessions_a_day=1, minutes_a_session=60)
    (out,) = proposed("sustained", "cool_down", limits=one).left_out
    assert (out.school, out.task, out.essential) == ("cool_down", "Cool-down", False)
