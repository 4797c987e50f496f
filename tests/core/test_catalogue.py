"""The catalogue: complete, plain, and failing at load with file, key and reason."""

import re
from pathlib import Path

import pytest

from core import kinds
from core.catalogue.tasks import shipped_tasks, tasks_in
from core.catalogue.touches import Touch
from core.catalogue.words import (
    AIM_WORDS,
    EQUIPMENT_WORDS,
    FAMILY_WORDS,
    SHOWN_BY_WORDS,
    SKILL_WORDS,
    Aim,
    Equipment,
    Growth,
    Skill,
)
from core.errors import PlanError
from core.fitting.schools import schools
from core.proposing.choose import fit_for
from core.safety.conditions import rules

TASKS = shipped_tasks()


def test_every_family_is_there_with_its_tasks():
    assert {task.family for task in TASKS.values()} == set(FAMILY_WORDS)
    named = {
        "A": {"shoulder_circle", "skull_base_nods", "neck_side_stretch", "jaw_circles", "shoulder_rolls"},
        "B": {"paced_breath", "counted_breath", "hiss", "hiss_swell", "straw_hiss", "hiss_to_buzz", "pulses"},
        "C": {"lip_trill", "tongue_trill", "straw_air", "straw_water", "wide_tube_water", "buzzed_oo", "hum"},
        "D": {"sustained_warm_up", "sustained_stretch", "sustained_contract", "sustained_power"},
        "E": {"vowel_chain", "loud_ah", "counting_fours", "own_phrases", "map_route", "short_day_reading"},
        "G": {"pattern_two", "pattern_three", "pattern_four", "pattern_five", "target_pitch_phrases"},
        "J": {"care_water", "care_before_event"},
    }  # fmt: skip
    for family, keys in named.items():
        assert keys <= {key for key, task in TASKS.items() if task.family == family}


def grade_of(text: str) -> float:
    """Flesch–Kincaid grade with syllables counted by vowel groups; grade 6 is about age 11."""
    sentences = [part for part in re.split(r"[.!?:;]+", text) if part.strip()]
    words = re.findall(r"[A-Za-z']+", text)
    return (
        0.39 * len(words) / len(sentences) + 11.8 * sum(map(_syllables, words)) / len(words) - 15.59
    )


def _syllables(word: str) -> int:
    groups = len(re.findall(r"[aeiouy]+", word.lower()))
    silent = word.lower().endswith("e") and not word.lower().endswith(("le", "ee")) and groups > 1
    return max(groups - silent, 1)


@pytest.mark.parametrize("key", TASKS)
def test_instructions_can_be_read_at_eleven(key):
    task = TASKS[key]
    assert grade_of(task.instruction) <= 6
    assert all(len(sentence.split()) <= 22 for sentence in re.split(r"[.:;]", task.instruction))
    assert grade_of(task.caution) <= 9


@pytest.mark.parametrize("key", TASKS)
def test_a_task_is_whole(key):
    task = TASKS[key]
    if task.kind == "advice":
        assert "mixed evidence" in task.clinician_note
        return
    assert task.settings
    assert task.faults
    assert fit_for(task)
    assert all(fault.cue[-1] in ".?!m" for fault in task.faults)
    if task.grows is not Growth.NONE:
        assert len(task.rungs) >= 2


def test_what_shows_a_fault_is_something_the_measuring_says():
    rooms = Path(kinds.__file__).parent
    source = "".join(path.read_text() for path in rooms.rglob("*.py"))
    by_people = {"seen", "heard", "felt", "strain", "louder_than_probe"}
    for code in set(SHOWN_BY_WORDS) - by_people:
        stem = code.removesuffix("_onset")
        assert f'"{stem}"' in source, code
    shown = {fault.shown_by for task in TASKS.values() for fault in task.faults}
    assert shown <= set(SHOWN_BY_WORDS)


def test_what_touches_water_or_neck_is_marked():
    for key, task in TASKS.items():
        if Equipment.GLASS_OF_WATER in task.equipment:
            assert Touch.WATER in task.touches, key
        if "neck" in task.instruction.lower():
            assert Touch.NECK_HANDLING in task.touches or key == "neck_side_stretch", key
        if task.family == "C":
            assert Touch.SEMI_OCCLUDED in task.touches, key
        if task.family == "E":
            assert Touch.LOUDNESS in task.touches, key
        words = f"{task.instruction} {task.caution}".lower()
        if re.search(r"\b(sip|sips|drink)\b", words) and "not drink" not in words:
            assert Touch.SIP in task.touches, key


def test_every_touch_a_rule_names_is_done_by_some_task():
    done = frozenset().union(*(task.touches.union(*task.rung_touches) for task in TASKS.values()))
    named = frozenset().union(*(rule.touches for rule in rules()))
    by_nature = frozenset().union(*(task.by_nature for task in TASKS.values()))
    # worked out of the depth of a tube, of whether a step is voiced, of a ladder that goes up
    assert named - done - by_nature == {Touch.DEEP_WATER, Touch.VOICED, Touch.PITCH_UP}


def test_words_for_every_word_of_the_vocabulary():
    for words, members in ((AIM_WORDS, Aim), (EQUIPMENT_WORDS, Equipment), (SKILL_WORDS, Skill)):
        assert set(words) == set(members)


def test_every_task_but_advice_can_come_into_a_program():
    in_schools = {spec.task for school in schools().values() for spec in school.steps}
    in_schools |= {s.short_day.task for s in schools().values() if s.short_day}
    substitutes = {other for task in TASKS.values() for other in task.substitutes}
    left = {
        key
        for key, task in TASKS.items()
        if key not in in_schools | substitutes and task.kind != "advice"
    }
    assert left == set()


GOOD = """
family = "B"
[hush]
name = "Hush"
kind = "timed"
voiced = false
aims = ["breath"]
purpose = "p"
suits = "s"
instruction = "i"
clinician_note = "n"
caution = "c"
set.seconds = { unit = "s", low = 1, high = 3, default = 2 }
faults = [{ fault = "f", shown_by = "seen", cue = "c" }]
"""


@pytest.mark.parametrize(
    ("was", "now", "why"),
    [
        ('kind = "timed"', 'kind = "danced"', "danced"),
        ('caution = "c"', "", "caution"),
        ('caution = "c"', 'caution = " "', "caution is empty"),
        ('caution = "c"', "caution = 3", "caution is no text"),
        ('aims = ["breath"]', "aims = []", "aims: tuple should have at least 1 item"),
        ('aims = ["breath"]', 'aims = ["fame"]', "fame"),
        ("voiced = false", 'voiced = "no"', "true or false"),
        ("default = 2", "default = 9", "low ≤ default ≤ high"),
        ("default = 2", 'default = "two"', "set.seconds.default: input should be a valid number"),
        ('shown_by = "seen"', 'shown_by = "smelt"', "smelt"),
        ('shown_by = "seen", ', "", "faults.0.shown_by is missing"),
        ('kind = "timed"', 'kind = "hold"', "measured"),
        ('kind = "timed"', 'kind = "counted"', "counted"),
        ('kind = "timed"', 'kind = "timed"\nmeasured = ["glory"]', "glory"),
        ('kind = "timed"', 'kind = "timed"\ngrows = "cue"', "rungs"),
        ('kind = "timed"', 'kind = "timed"\nsubstitutes = ["nothing"]', "no other task"),
        ('kind = "timed"', 'kind = "timed"\ntouches = ["the moon"]', "the moon"),
        ('kind = "timed"', 'kind = "timed"\nshape = "round"', "shape"),
        ('family = "B"', 'family = "Z"', "none of A–K"),
        ("[hush]", "[Hush-1]", "small letters"),
        ("[hush]", "[hush", "Expected"),
    ],
)
def test_a_broken_entry_fails_with_file_key_and_reason(was, now, why):
    assert tasks_in({"b.toml": GOOD})["hush"].setting("seconds").limited(7) == 3
    with pytest.raises(PlanError) as broken:
        tasks_in({"b.toml": GOOD.replace(was, now, 1)})
    assert broken.value.code == "task_broken"
    assert broken.value.params["file"] == "b.toml"
    assert why in broken.value.params["reason"]


def test_the_same_key_in_two_files_and_a_substitute_for_another_purpose_are_refused():
    with pytest.raises(PlanError, match="stands in"):
        tasks_in({"a.toml": GOOD, "b.toml": GOOD})
    other = GOOD.replace("[hush]", "[rush]").replace('["breath"]', '["range"]')
    with pytest.raises(PlanError, match="no aim in common"):
        tasks_in({"a.toml": GOOD + 'substitutes = ["rush"]\n', "b.toml": other})


def test_whatever_goes_through_a_straw_or_a_tube_says_to_wash_it():
    """Own straw, washed; a tube is the client's own glass one."""
    through = {Equipment.THIN_STRAW, Equipment.WIDE_TUBE}
    found = {key: task for key, task in shipped_tasks().items() if through & set(task.equipment)}
    assert set(found) == {"straw_hiss", "straw_air", "straw_water", "wide_tube_water"}
    for key, task in found.items():
        assert "wash" in task.caution.lower(), key
        if Equipment.THIN_STRAW in task.equipment:
            assert "own straw" in task.caution.lower(), key
