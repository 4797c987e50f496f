"""What a client reads agrees with what is asked: numbers, the nose, reading, lying down."""

import re

import pytest

from core.catalogue.tasks import shipped_tasks
from core.catalogue.words import Skill
from core.editing.change_rung import on_rung
from core.fitting.known import Limits
from core.fitting.schools import schools
from core.program.step_words import asks_words, whys_of
from core.program.targets import Counted, Pace, Pattern, Speech, Timed
from tests.core.fitted import propose_for, request

KNOWN = {
    "lowest": "E3",
    "highest": "C5",
    "speaking": "A3",
    "transition": "A4",
    "strong_s": (9.0,),
    "strong_over_db": 9.0,
}
NUMBERS = [
    "two",
    "three",
    "four",
    "five",
    "six",
    "seven",
    "eight",
    "nine",
    "ten",
    "twelve",
    "fifteen",
    "twenty",
    "thirty",
    "forty",
    "sixty",
]
UNITS = "second minute beat count breath time phrase line sound word pair key"
SAID = re.compile(
    rf"\b(\d+|{'|'.join(NUMBERS)})(?: to \w+)? (?:\w+ )?({'|'.join(UNITS.split())})s?\b", re.I
)
OF_A_TASK = {
    # the form of the task itself, not how much of it is asked for
    "paired_counting": set(),
    "strong_sh": {"beat"},
    "two_word_fall": {"word"},
    "bright_call": {"word"},
}


def every_step():
    """Every task of every school and choice on each of its rungs."""
    for school in schools().values():
        options = [{}]
        for choice in school.choices:
            keys = [k for k in choice.options if k not in ("typed", "standard", "unasked")]
            options += [{choice.key: key} for key in keys]
        for chosen in options:
            wanted = request(
                school.key, options=chosen, known=KNOWN, limits=Limits(breath_hold=True)
            )
            program = propose_for(wanted).program
            for step in program.all_steps:
                yield step
                for rung in range(1, len(step.grade.rungs) if step.grade else 0):
                    if step in program.steps:
                        yield on_rung(program, step.step_id, rung).step(step.step_id)


def units_of(target):
    """The units in which the target itself says how much."""
    match target:
        case Pace():
            return {"beat", "count", "second", "breath"}
        case Timed() | Speech():
            return {"second", "minute"}
        case Counted():
            return {"time", target.unit.rstrip("s")}
        case Pattern():
            return {"key"}
        case _:
            return {"second"}


def test_no_instruction_says_a_number_that_its_target_says():
    seen, odd = set(), []
    for step in every_step():
        seen.add(step.task)
        own = units_of(step.target) - OF_A_TASK.get(step.task, set())
        for number, unit in SAID.findall(step.instruction):
            if unit.lower() in own:
                odd.append(f"{step.task}: {number} {unit}")
    assert not odd
    assert len(seen) > 75


def test_no_rung_is_called_none_and_every_rung_can_be_said():
    for step in every_step():
        said = " ".join([asks_words(step), *map(str, whys_of(step))])
        assert not re.search(r"\b(none|None|nan)\b", said), said
        if step.grade is not None:
            assert all(step.grade.words)


def test_what_hums_needs_an_open_nose():
    for task in shipped_tasks().values():
        said = f"{task.instruction} {task.sound}".lower()
        if re.search(r"\bhums?\b|\bmm+\b|“ng”|\bmm-hm\b", said):
            assert Skill.NOSE_OPEN in task.skills, task.key


@pytest.mark.parametrize(
    ("words", "skill"),
    [(r"\bread\b(?! it)", Skill.READING), (r"\blie down\b|\blying\b", None)],
)
def test_what_asks_to_read_or_to_lie_says_so(words, skill):
    for task in shipped_tasks().values():
        if re.search(words, task.instruction, re.I):
            assert skill is not None, f"{task.key} tells everybody to lie down"
            assert skill in task.skills, task.key


def test_who_cannot_lie_down_reads_nothing_of_lying():
    wanted = request("breath_beats", cannot=frozenset({Skill.LYING_DOWN}))
    low = propose_for(wanted).program.steps[0]
    assert low.task == "low_breath"
    assert "lying" not in " ".join([low.instruction, *low.grade.words])
    assert "lying" not in low.grade.codes
    assert propose_for(request("breath_beats")).program.steps[0].grade.code == "lying"


def test_who_cannot_read_is_asked_to_read_nothing():
    for school in schools():
        wanted = request(school, known=KNOWN, cannot=frozenset({Skill.READING}))
        for step in propose_for(wanted).program.all_steps:
            assert Skill.READING not in shipped_tasks()[step.task].skills
            assert not re.search(r"\bread (?!it)", step.instruction, re.I), step.task


def test_advice_before_an_event_says_that_its_evidence_is_mixed():
    found = propose_for(request("warm_up"))
    words = next(a.words for a in found.program.advice if a.task == "care_before_event")
    assert "evidence" in words
    assert "mixed" in words


@pytest.mark.parametrize("minutes", [8, 15, 20, 30, 45])
def test_a_warm_up_fills_its_minutes(minutes):
    known = KNOWN | {"transition": None}
    found = propose_for(request("warm_up", options={"minutes": str(minutes)}, known=known))
    assert minutes - 2 <= found.load.routines[0].session_min <= minutes


@pytest.mark.parametrize(
    "school",
    ["semi_shallow", "semi_deep", "semi_fatigue", "semi_performer", "semi_to_speech"],
)
def test_semi_occluded_work_takes_two_to_five_minutes(school):
    found = propose_for(request(school, known=KNOWN))
    assert 2 <= found.load.routines[0].session_min <= 5
