"""A program without its client, fitted anew to another; schools side by side."""

import itertools
import json
from dataclasses import replace
from datetime import date

import pytest

from core.catalogue.tasks import shipped_tasks
from core.catalogue.words import Equipment
from core.editing.change_rung import on_rung
from core.editing.edit_schedule import with_calendar, with_day_away, with_weekday
from core.editing.step_targets import move_hold, set_by_hand, with_repetitions
from core.errors import PlanError
from core.program.program import Chosen
from core.proposing.compare import compared, each_option
from core.proposing.outline import outline_data, outline_of, read_outline, refitted
from tests.core.fitted import TODAY, baseline, proposed, request, said

MAN = {
    "voice_group": "men",
    "lowest": "A2",
    "highest": "D4",
    "speaking": "C3",
    "phonation_s": (20.0,),
    "probes_s": (15.0, 16.0, 14.0),
    "s_s": (22.0,),
}


def anew(program, wanted):
    ids = itertools.count()
    return refitted(
        outline_of(program), wanted, shipped_tasks(), new_step_id=lambda: f"new-{next(ids)}"
    )


def man(**changes):
    from core.notes.range import VoiceGroup

    return request(known=MAN | {"voice_group": VoiceGroup.MEN}, **changes)


def test_an_outline_holds_nothing_of_its_client():
    program = proposed("sustained", options={"goal": "typed", "goal_s": "33"}).program
    power = program.main_step.step_id
    program = set_by_hand(program, power, "presented.cue", "think of the blue door")
    program = with_calendar(program, "ladder", "times", "8:15")
    program = with_calendar(program, "ladder", "starts_on", "2026-06-22")
    program = with_day_away(program, date(2026, 7, 1), today=TODAY)
    text = json.dumps(outline_data(outline_of(program)), ensure_ascii=False)
    for own in ("blue door", "08:15", "2026-", "B♭3", "G3", "8.2", "17.6", "33", "6.5", "step-"):
        assert own not in text, own
    assert read_outline(json.loads(text)) == outline_of(program)


def test_the_cook_s_program_fits_a_man_with_his_own_notes_and_times():
    cooks = with_repetitions(proposed("sustained").program, "step-3", 3)
    cooks = with_weekday(cooks, "ladder", 7)
    his = anew(on_rung(move_hold(cooks, "step-3", 0, seconds=2), "step-3", 4), man())
    power = his.main_step
    # five notes an octave lower, C3–G3, lie inside A2–D4 at a margin of two semitones
    assert [hold.note.name for hold in power.holds] == ["C3", "D3", "E3", "F3", "G3"]
    # 80 % of the median probe of 15 s is 12 s
    assert {hold.seconds for hold in power.holds} == {12.0}
    assert (power.rung, power.repetitions) == (0, 3)
    assert [step.task for step in his.steps] == [step.task for step in cooks.steps]
    assert his.problems() == ()
    assert his.routine("ladder").dose.sessions_a_day == 2
    assert {step.step_id for step in his.steps}.isdisjoint(s.step_id for s in cooks.steps)


def test_what_the_other_cannot_do_is_replaced_or_left_out_with_its_reason():
    tube = proposed("semi_shallow").program
    no_straw = frozenset(Equipment) - {Equipment.GLASS_OF_WATER, Equipment.THIN_STRAW}
    his = anew(tube, man(equipment=no_straw))
    assert [step.task for step in his.steps] != [step.task for step in tube.steps]
    hidden = anew(proposed("sustained").program, man(hidden=frozenset({"sustained_stretch"})))
    assert "sustained_stretch" not in [step.task for step in hidden.steps]
    assert any("hidden" in str(line) for line in hidden.left_out) or said(
        [step.because for step in hidden.steps], "in_place_of"
    )
    nothing = replace(outline_of(tube), routines=outline_of(tube).routines[:1])
    with pytest.raises(PlanError, match="nothing_fits"):
        refitted(nothing, man(hidden=frozenset(shipped_tasks())), shipped_tasks(), new_step_id=str)


def test_an_outline_of_another_format_or_shape_is_refused():
    data = outline_data(outline_of(proposed("sustained").program))
    for odd in (
        {},
        {**data, "format": 2},
        {**data, "routines": []},
        {**data, "more": 1},
        {**data, "routines": [{**data["routines"][0], "steps": [{"task": "x"}]}]},
        [],
    ):
        with pytest.raises(PlanError):
            read_outline(odd)


def test_schools_are_proposed_each_alone_and_one_that_cannot_be_says_why():
    wanted = request(known={"speaking": "A3"})
    ids = itertools.count()
    chosen = [Chosen(school=key) for key in ("sustained", "loudness_vowels", "breath_hiss")]
    first, second, third = compared(wanted, chosen, new_step_id=lambda: f"{next(ids)}")
    assert first.proposal.load.routines[0].session_min == pytest.approx(431 / 60)
    assert second.proposal.program.schools == (
        Chosen(school="loudness_vowels", options=second.proposal.program.schools[0].options),
    )
    assert {step.task for step in third.proposal.program.steps}.isdisjoint(
        step.task for step in first.proposal.program.steps
    )
    no_range = request(known={"lowest": None, "highest": None})
    (none,) = compared(no_range, chosen[:1], new_step_id=str)
    assert (none.proposal, none.against.code) == (None, "nothing_fits")
    assert len(compared(wanted, [chosen[0]] * 9, new_step_id=lambda: f"{next(ids)}")) == 5


def test_one_school_is_compared_by_the_options_of_a_choice():
    goals = each_option("sustained", "goal")
    assert {one.options["goal"] for one in goals} >= {"own_s", "airflow", "steady"}
    ids = itertools.count()
    found = {
        one.chosen.options["goal"]: one
        for one in compared(request(), goals, new_step_id=lambda: f"{next(ids)}")
    }
    # the worked case: her longest /s/ is 17.6 s
    assert found["own_s"].proposal.program.main_step.grade.goal == 17.6
    assert found["own_s"].option
    assert each_option("sustained", "colour") == ()


def test_the_baseline_of_the_man_is_none_of_the_cook_s():
    assert baseline().lowest != man().baseline.lowest
