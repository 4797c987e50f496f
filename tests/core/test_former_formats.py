"""Programs of formats 1, 2 and 3: still read, nothing lost; rewording changes nothing."""

import json
import re
from datetime import time

import pytest

from core.catalogue.tasks import shipped_tasks
from core.editing.change_rung import on_rung, step_on_rung
from core.formats.program_file import data_of, program_of, read_program
from core.formats.reading import FileRefused
from core.proposing.request import Wishes
from core.safety.program_gate import touches_of
from tests.core.fitted import proposed
from tests.core.former import as_format_three, as_format_two

ONE = {
    "format": 1, "school": "shifted", "a4_hz": 440.0, "margin_semitones": 2,
    "comfort": {"lowest": "G3", "highest": "G4", "transition": None, "speaking": None},
    "pitches_because": "five notes", "goal_s": 17.6, "goal_because": "longest /s/",
    "rungs_s": [6.5, 7.0], "rung": 1, "longest_shown_s": 8.4,
    "steps": [
        {"step_id": "a", "task": "sustained_power", "kind": "hold", "name": "Power notes", "sound": "oh",
         "instruction": "i", "caution": "c", "repetitions": 2, "rest_s": 15.0, "glide": None,
         "holds": [{"note": "C4", "seconds": 7.0, "because": "b"}]},
        {"step_id": "b", "task": "sustained_stretch", "kind": "glide", "name": "Stretch", "sound": "oh",
         "instruction": "i", "caution": "c", "repetitions": 2, "rest_s": 15.0, "holds": [],
         "glide": {"start": "G3", "end": "G4", "seconds": 8.0, "because": "b"}},
    ],
    "dose": {"sessions_a_day": 2, "days_a_week": 7, "weeks": 6},
}  # fmt: skip


def test_format_one_is_still_read_with_nothing_lost():
    program = program_of(ONE)
    hold, glide = program.steps
    assert (hold.holds[0].note.name, hold.holds[0].seconds) == ("C4", 7.0)
    assert (hold.grade.rungs, hold.rung, hold.grade.goal) == ((6.5, 7.0), 1, 17.6)
    assert glide.glide.end.name == "G4"
    assert program.routines[0].dose.weeks == 6
    assert read_program(json.dumps(ONE)) == program


def test_format_two_is_still_read_as_one_routine_with_nothing_lost():
    two = as_format_two(data_of(proposed("loudness_vowels").program))
    program = program_of(two)
    (only,) = program.routines
    assert (only.key, only.kind) == ("practice", "practice")
    assert [step.step_id for step in only.steps] == [step["step_id"] for step in two["steps"]]
    assert only.short_day.task == "short_day_reading"
    assert (only.dose.sessions_a_day, only.dose.days_a_week, only.dose.weeks) == (1, 6, 8)
    assert read_program(json.dumps(two)) == program
    assert program_of(data_of(program)) == program


def test_air_alone_of_format_two_is_still_air_alone():
    # a straw in air, begun with air alone
    two = as_format_two(data_of(proposed("semi_fatigue").program))
    straw = next(step for step in two["steps"] if step["task"] == "straw_air")
    assert straw["cue"] == "air only"
    program = program_of(two)
    step = program.step(straw["step_id"])
    assert (step.target.air_only, step.voiced) == (True, False)
    climbed = on_rung(on_rung(program, step.step_id, 1), step.step_id, 0).step(step.step_id)
    assert (climbed.target.air_only, climbed.voiced) == (True, False)
    assert on_rung(program, step.step_id, 1).step(step.step_id).voiced


@pytest.mark.parametrize(
    "schools",
    [
        ("sustained", "semi_shallow"),
        ("semi_to_speech", "carry_over"),
        ("breath_beats", "resonance"),
    ],
)
def test_format_three_knew_rungs_by_their_words_and_is_still_read(schools):
    today = proposed(*schools).program
    three = as_format_three(data_of(today))
    assert not re.search(r'"codes?":', json.dumps(three))
    program = program_of(three)
    for step in today.all_steps:
        same = program.step(step.step_id) if step in today.steps else None
        if same is None:
            continue
        assert same.target.said("") == step.target.said("")
        assert touches_of(same) == touches_of(step)
        assert str(same.because) == str(step.because)
        assert same.because.code == "written"
        if step.grade is not None:
            assert same.grade.codes == step.grade.codes
            assert same.grade.words == step.grade.words
    assert read_program(json.dumps(three)) == program
    assert program_of(data_of(program)) == program


def test_rungs_a_clinic_had_written_in_format_three_keep_their_words():
    three = as_format_three(data_of(proposed("resonance").program))
    hum = next(s for r in three["routines"] for s in r["steps"] if s["task"] == "hum_to_words")
    hum["task"], hum["grade"]["words"][0] = "own_hum", "Hum first, Ms. Q’s way"
    step = program_of(three).step(hum["step_id"])
    assert step.grade.words[0] == "Hum first, Ms. Q’s way"
    assert step.grade.codes[0] == "hum_first_ms_q_s_way"
    assert len(set(step.grade.codes)) == len(step.grade.words)


def test_rewording_changes_no_rule():
    """What is shown of a rung or a reason is read by nothing: other words, the same program."""
    program = proposed("semi_fatigue", "breath_beats").program
    data = data_of(program)
    for routine in data["routines"]:
        for step in routine["steps"]:
            if step["grade"]:
                step["grade"]["words"] = ["…"] * len(step["grade"]["words"])
    reworded = program_of(data)
    for before, after in zip(program.steps, reworded.steps, strict=True):
        assert touches_of(after) == touches_of(before)
        assert (after.voiced, after.kind, after.target) == (
            before.voiced,
            before.kind,
            before.target,
        )
        for rung in range(len(before.grade.rungs) if before.grade else 0):
            moved, same = step_on_rung(after, rung), step_on_rung(before, rung)
            assert (moved.kind, moved.voiced) == (same.kind, same.voiced)
            assert touches_of(moved) == touches_of(same)


def test_resets_of_format_two_lie_in_the_working_hours():
    wishes = Wishes(work_from=time(9), work_to=time(17))
    two = as_format_two(data_of(proposed("semi_reset", wishes=wishes).program))
    assert program_of(two).routines[0].dose.when == "working_hours"


def test_what_is_wrong_in_a_file_of_format_two_is_said_where_it_stands_there():
    two = as_format_two(data_of(proposed("sustained").program))
    two["steps"][1]["task"] = "own_deep_dive"
    text = json.dumps(two, indent=1)
    with pytest.raises(FileRefused) as refused:
        read_program(text, tasks=shipped_tasks())
    (problem,) = refused.value.problems
    assert "own_deep_dive" in text.splitlines()[problem.line - 1]
    assert problem.where == "steps[1].task"
