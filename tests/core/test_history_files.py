"""`./reed decide`: a client's practice from a file, and what the rules propose for it."""

import json
from datetime import date
from pathlib import Path

import pytest

from core.formats.reading import FileRefused
from core.grading.act import Act
from core.grading.history import Climbed, Decided, VisitHeld
from core.grading.history_file import history_schema, read_history
from core.safety.condition import Condition
from core.safety.stop import OpenSign, StopSign
from ops.terminal.decide import decided, main

ROOT = Path(__file__).parent.parent.parent
EXAMPLES = ROOT / "docs" / "examples"


def example(name="sustained"):
    return json.loads((EXAMPLES / f"history-{name}.json").read_text(encoding="utf-8"))


def changed(**changes):
    return json.dumps({**example(), **changes})


@pytest.mark.parametrize(
    ("name", "act", "to", "code"),
    [
        # the worked case: rung 7 s, five sessions with 5, 4, 5, 4, 5 notes of five
        ("sustained", "climb", "8 s", "meets_goal"),
        # no cut-out, half a bubble stop in 10 s: the next form
        ("tube", "climb", "one comfortable note", "meets_goal"),
        # 5, 1, 2, 5, 2 of five strong holds: under 60 % in three of five, on the first rung
        ("loudness", "ease", None, "falls_short"),
        # in tune, but soft high notes were lost for over a day
        ("patterns", "examine", None, "soft_high_lost"),
    ],
)
def test_the_examples_are_decided_as_the_rules_say(name, act, to, code):
    found = decided((EXAMPLES / f"history-{name}.json").read_text(encoding="utf-8"))
    first = found["decisions"][0]
    assert found["error"] is None
    assert (first["act"], first["to"]) == (act, to)
    assert code in [why["code"] for why in first["reasons"]]


def test_the_published_schema_is_the_one_that_is_read():
    published = json.loads((ROOT / "docs/formats/history.schema.json").read_text(encoding="utf-8"))
    assert published == history_schema()


def test_numbers_of_the_clinic_are_used():
    found = decided(changed(numbers={"common.days_between_climbs": 9}))
    # the last climb was eight days ago
    stay = found["decisions"][0]
    assert stay["act"] == "stay"
    (why,) = stay["against"]
    assert (why["code"], why["params"]) == ("climbed_lately", {"days": 8, "needed": 9})


@pytest.mark.parametrize(
    ("changes", "says"),
    [
        ({"format": "still-reed-history/9"}, "format"),
        ({"today": "soon"}, "today"),
        ({"program": {"format": 4}}, "program"),
        ({"program": {}}, "program"),
        ({"strain": 11}, "strain"),
        ({"strain": float("inf")}, "strain"),
        ({"nonsense": 1}, "nonsense"),
        ({"numbers": {"sustained.climb.need": 9}}, "more home sessions are needed"),
        ({"numbers": {"sustained.ease.when.share.under": 120}}, "100 to climb crosses 120 to ease"),
        ({"numbers": {"no.such.number": 1}}, "no rule has a number no.such.number"),
        ({"numbers": {"common.probe_days": 3}}, "probing again comes after"),
        ({"sittings": [{"day": "2026-06-14"}]}, "routine"),
        ({"sittings": [{"day": "2026-06-14", "routine": "x", "sign": "bad"}]}, "sign"),
        ({"conditions": ["nothing"]}, "conditions"),
        ({"own_sd": 0}, "own_sd"),
    ],
)
def test_a_file_that_cannot_be_is_refused_in_words(changes, says):
    found = decided(changed(**changes))
    assert found["error"] is not None
    assert says in " ".join(found["error"]["messages"])
    assert found["decisions"] == []


def test_a_figure_nobody_knows_is_refused_by_its_name():
    data = example()
    data["sittings"][0]["steps"][0]["trials"][0]["figures"]["glitter"] = 3
    found = decided(json.dumps(data))
    assert "no figure is called glitter" in found["error"]["messages"][0]


@pytest.mark.parametrize("text", ["", "[]", "{", "[" * 5000, "7", '{"format": 1}'])
def test_what_is_no_history_is_said(text):
    assert decided(text)["error"]["code"] == "file_refused"


def test_sessions_of_a_step_that_is_no_longer_there_are_passed_over():
    data = example()
    for sitting in data["sittings"]:
        sitting["steps"][0]["step_id"] = "gone"
    found = decided(json.dumps(data))
    assert found["error"] is None
    assert "climb" not in [one["act"] for one in found["decisions"]]


def test_many_histories_are_a_line_each(tmp_path, capsys):
    jobs = tmp_path / "many.jsonl"
    jobs.write_text("\n".join([json.dumps(example()), "{", "", json.dumps(example("tube"))]))
    assert main(["--jobs", str(jobs)]) == 0
    lines = [json.loads(line) for line in capsys.readouterr().out.splitlines()]
    assert [line["error"] is None for line in lines] == [True, False, True]
    assert [line["history"] for line in lines] == ["line 1", "line 2", "line 4"]


def test_the_command_says_what_is_refused_and_what_is_not_there(tmp_path, capsys):
    assert main([str(EXAMPLES / "history-sustained.json")]) == 0
    assert "climb → 8 s (Warm-up hold, Power notes)" in capsys.readouterr().out
    broken = tmp_path / "broken.json"
    broken.write_text("{")
    assert main([str(broken), "--json"]) == 2
    assert main([str(tmp_path / "none.json")]) == 2
    assert "cannot be read" in capsys.readouterr().err
    assert main(["--numbers"]) == 0
    assert "sustained.climb.need = 4" in capsys.readouterr().out


def test_everything_a_file_says_is_read():
    step = example()["sittings"][0]["steps"][0]["step_id"]
    text = changed(
        today="2026-07-01",
        families={step: "E"},
        conditions=["progressive"],
        open_signs=[{"sign": "pain", "step_id": step}],
        decided=[{"act": "teach", "day": "2026-06-09", "step_id": step}],
        visits=[{"day": "2026-06-10", "goal_held": True, "corrects": False}],
        changed_on="2026-06-08",
        strain=2.5,
        measured_on="2026-05-20",
        own_sd=0.7,
        gain_real=True,
        fell=True,
    )
    read, today, _rules = read_history(text)
    assert today == date(2026, 7, 1)
    assert (read.active_since, read.changed_on) == (date(2026, 5, 26), date(2026, 6, 8))
    assert read.families[step] == "E"
    # the others as the shipped tasks are: sustained notes
    assert set(read.families.values()) == {"D", "E"}
    assert read.conditions == {Condition.PROGRESSIVE}
    assert read.open_signs == (OpenSign(StopSign.PAIN, step),)
    assert read.decided == (Decided(act=Act.TEACH, day=date(2026, 6, 9), step_id=step),)
    assert read.visits == (VisitHeld(day=date(2026, 6, 10), goal_held=True, corrects=False),)
    assert read.climbs == (Climbed(step_id=step, day=date(2026, 6, 7), rung=1, from_rung=0),)
    assert (read.strain, read.own_sd, read.measured_on) == (2.5, 0.7, date(2026, 5, 20))
    assert (read.gain_real, read.fell) == (True, True)
    assert len(read.sittings) == len(example()["sittings"])
    (ladder,) = read.stretches
    # the practice is asked for from the day it became active on, as the routine says
    assert (ladder.routine, ladder.first, ladder.last) == ("ladder", date(2026, 5, 26), None)
    assert ladder.dose.starts_on is not None


def problems(text):
    with pytest.raises(FileRefused) as refused:
        read_history(text)
    return refused.value.problems


def test_each_problem_is_told_with_its_place():
    strange = example()["sittings"]
    strange[0]["steps"][0]["figures"]["charm"] = 3.0
    (only,) = problems(changed(sittings=strange))
    assert (only.line, only.where) == (1, "sittings")
    assert only.words.startswith("no figure is called charm: ")
    (only,) = problems(changed(numbers={"no.such": 1}))
    assert (only.line, only.where) == (1, "numbers")
    (only,) = problems(changed(program={**example()["program"], "format": 9}))
    assert only.where == "program"
    (only,) = problems("[]")
    assert (only.line, only.words) == (1, "a history is an object in braces")


def test_the_figures_a_file_may_hold_stand_in_its_schema():
    schema = history_schema()
    assert schema["$id"] == "still-reed/history/2"
    assert schema["title"] == "Still Reed history"
    assert schema["$schema"].endswith("2020-12/schema")
