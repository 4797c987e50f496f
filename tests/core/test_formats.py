"""The program file: exact round trip, published schema, every problem by line; the client file."""

import json
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from core.catalogue.tasks import shipped_tasks
from core.catalogue.touches import Touch
from core.editing.change_rung import on_rung
from core.errors import PlanError
from core.fitting.back_pressure import back_pressure
from core.fitting.known import Limits
from core.fitting.schools import schools
from core.formats.lines import line_of, lines_of
from core.formats.program_file import data_of, program_of, program_schema, read_program
from core.formats.reading import FileRefused
from core.program.lengths import length_words, read_length_cm
from core.proposing.client_file import client_data, client_schema, read_client
from core.safety.program_gate import touches_of
from lab.bench.clients import made_up_client
from ops.terminal.propose import main
from tests.core.fitted import propose_for, proposed, request, said

DOCS = Path(__file__).parents[2] / "docs" / "formats"


def as_text(program, **changes):
    return json.dumps(data_of(program) | changes, indent=1, ensure_ascii=False)


@pytest.mark.parametrize("school", schools())
def test_a_program_of_every_school_reads_back_equal(school):
    program = proposed(school, known={"speaking": "A3"}).program
    again = read_program(as_text(program))
    assert again == program
    assert data_of(again) == data_of(program)
    assert program_of(json.loads(as_text(program))) == program


@settings(max_examples=40)
@given(st.integers(0, 2**31))
def test_made_up_programs_and_clients_read_back_equal(seed):
    wanted = made_up_client(seed)
    assert read_client(json.dumps(client_data(wanted))) == wanted
    try:
        program = propose_for(wanted).program
    except PlanError:
        return
    assert read_program(as_text(program)) == program


@pytest.mark.parametrize(
    ("name", "schema"), [("program", program_schema), ("client", client_schema)]
)
def test_the_published_schema_is_the_one_in_force(name, schema):
    published = json.loads((DOCS / f"{name}.schema.json").read_text(encoding="utf-8"))
    assert published == json.loads(json.dumps(schema()))


def test_publishing_writes_what_is_in_force(tmp_path):
    assert main(["--publish", str(tmp_path)]) == 0
    written = {file.name: file.read_text(encoding="utf-8") for file in tmp_path.iterdir()}
    assert written == {name: (DOCS / name).read_text(encoding="utf-8") for name in written}
    assert set(written) == {"program.schema.json", "client.schema.json", "history.schema.json"}


def test_the_schema_accepts_what_we_write_and_refuses_what_is_broken():
    from jsonschema import Draft202012Validator

    validator = Draft202012Validator(program_schema())
    good = json.loads(as_text(proposed("sustained", "semi_shallow", "range_full").program))
    assert list(validator.iter_errors(good)) == []
    for broken in ({**good, "format": 9}, {**good, "extra": 1}, {**good, "routines": "none"}):
        assert list(validator.iter_errors(broken))
    long_hold = json.loads(as_text(proposed("sustained").program))
    long_hold["routines"][0]["steps"][3]["target"]["holds"][0]["seconds"] = 400
    assert list(validator.iter_errors(long_hold))


def test_a_tune_is_voiced_whatever_a_file_says():
    """A form by the clock counts as air alone only where its target says so."""
    program = proposed("semi_fatigue").program
    step = next(step for step in program.steps if step.task == "straw_air")
    tune = step.grade.codes.index("tune")
    hidden = replace(on_rung(program, step.step_id, tune).step(step.step_id), voiced=False)
    assert Touch.VOICED in touches_of(hidden)


@pytest.mark.parametrize(
    "data",
    [{}, {"format": 5}, {"format": 2}, {"format": 1}, {"format": 1, "steps": None}],
)
def test_foreign_program_data_is_refused(data):
    with pytest.raises(PlanError):
        program_of(data)
    with pytest.raises(FileRefused) as refused:
        read_program(json.dumps(data))
    assert "format" in str(refused.value.problems[0])


def refused_lines(text):
    with pytest.raises(FileRefused) as refused:
        read_program(text)
    return [str(problem) for problem in refused.value.problems]


def test_every_problem_is_said_with_its_line_and_place():
    text = as_text(proposed("sustained").program)
    lines = text.splitlines()
    at = next(n for n, line in enumerate(lines, 1) if '"repetitions"' in line)
    lines[at - 1] = lines[at - 1].replace("2", "40")
    note_at = next(n for n, line in enumerate(lines, 1) if '"note": "B♭3"' in line)
    lines[note_at - 1] = lines[note_at - 1].replace("B♭3", "H3")
    said = refused_lines("\n".join(lines))
    assert any(
        line.startswith(f"line {at}, routines[0].steps[0].repetitions: 40 is too large: at most 10")
        for line in said
    )
    assert any(line.startswith(f"line {note_at}, ") and "“H3” is no note" in line for line in said)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"routines": []}, "at least one step"),
        ({"routines": [{"steps": []}]}, "at least one step"),
        ({"routines": [{"key": "Ladder 1"}]}, "is no key of a routine"),
        ({"routines": [{"kind": "nap"}]}, "routines[0].kind"),
        ({"routines": [{}, {}]}, "two routines have the same key"),
        ({"a4_hz": 300}, "at least 415"),
        ({"surprise": 1}, "is not known here"),
        ({"routines": [{"steps": [3]}]}, "routines[0].steps[0]"),
        ({"routines": [{"dose": {"sessions_a_day": 99}}]}, "at most 6"),
        ({"routines": [{"dose": {"when": "at noon"}}]}, "routines[0].dose.when"),
        (
            {"routines": [{"dose": {"away": [{"first": "2026-06-05", "last": "2026-06-01"}]}}]},
            "lies before",
        ),
    ],
)
def test_what_does_not_fit_is_said(change, words):
    program = proposed("sustained").program
    if "routines" in change:
        (own,) = data_of(program)["routines"]
        change = {"routines": [own | changed for changed in change["routines"]]}
    said = refused_lines(as_text(program, **change))
    assert any(words in line for line in said), said


def test_sixty_steps_are_too_many():
    program = proposed("sustained").program
    (own,) = data_of(program)["routines"]
    steps = [own["steps"][0] | {"step_id": f"s{n}"} for n in range(60)]
    assert any(
        "60 steps: a program takes at most 40" in line
        for line in refused_lines(as_text(program, routines=[own | {"steps": steps}]))
    )
    halves = [own | {"key": key, "steps": steps[at : at + 30]} for key, at in (("a", 0), ("b", 30))]
    assert any(
        "60 steps: a program takes at most 40" in line
        for line in refused_lines(as_text(program, routines=halves))
    )


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "no JSON"),
        ('{"format": 2,\n"steps": [}', "line 2"),
        ("[1, 2]", "object in braces"),
        ("[" * 100_000, "nested too deep"),
        ('"' + "x" * 2_100_000 + '"', "over 2 MB"),
    ],
)
def test_what_is_no_program_file_is_refused_in_words(text, words):
    assert words in refused_lines(text)[0]


def test_a_file_cannot_hide_what_a_task_touches_or_bring_unknown_ones():
    data = data_of(proposed("semi_shallow").program)
    for step in data["routines"][0]["steps"]:
        step["touches"] = []
    again = read_program(json.dumps(data), tasks=shipped_tasks())
    assert "water" in again.steps[0].touches
    data["routines"][0]["steps"][1]["task"] = "own_deep_dive"
    text = json.dumps(data, indent=1)
    with pytest.raises(FileRefused) as refused:
        read_program(text, tasks=shipped_tasks())
    (problem,) = refused.value.problems
    assert "own_deep_dive" in text.splitlines()[problem.line - 1]
    assert "add it in the Library first" in problem.words


def test_a_file_cannot_pass_the_home_limits():
    data = data_of(proposed("semi_deep", "breath_hiss", limits=Limits(breath_hold=True)).program)
    steps = [step for routine in data["routines"] for step in routine["steps"]]
    tube = next(step for step in steps if step["tube"])["tube"]
    tube["depth_cm"], tube["deepest_cm"] = 12.0, 15.0
    held = next(step for step in steps if step["task"] == "breath_hold")
    held["target"]["seconds_a_side"] = 60.0
    held["task"] = "own_quiet_wait"  # told by what it touches, whatever it is called
    problems = read_program(json.dumps(data)).problems()
    assert said(problems, "too_deep").params == {"depth_cm": 12, "deepest_cm": 5}
    assert said(problems, "breath_held_too_long").params == {"seconds": 60, "most_s": 15}


def test_lines_are_found_by_path():
    text = '{\n "a": [1,\n  {"b": "x,]}\\"",\n   "c": null}],\n "d": {}\n}'
    found = lines_of(text)
    assert found[("a",)] == 2
    assert found[("a", 1, "c")] == 4
    assert found[("d",)] == 5
    assert line_of(found, ("a", 1, "kind", "b")) == 3
    assert line_of(found, ("nowhere",)) == 1


def test_the_command_proposes_as_text_and_json(tmp_path, capsys):
    file = tmp_path / "client.json"
    file.write_text(json.dumps(client_data(request("sustained"))), encoding="utf-8")
    assert main([str(file), "--seed", "1"]) == 0
    text = capsys.readouterr().out
    assert "from B♭3, not C4: the highest comfortable note is G4" in text
    assert "7.2 min" in text
    assert main([str(file), "--json", "--seed", "1"]) == 0
    said = json.loads(capsys.readouterr().out)
    assert program_of(said["program"]).main_step.holds[0].seconds == 6.5
    assert said["load"]["routines"][0]["repetitions"] == 16
    assert len(said["first_week"]["ladder"]) == 14
    assert main(["--schools"]) == 0
    assert "pitches=shifted (default)" in capsys.readouterr().out


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"baseline": {"voice_group": "women", "age_years": 4}}, "5–100 years, not 4"),
        (
            {
                "baseline": {
                    "voice_group": "women",
                    "age_years": 50,
                    "lowest": "G4",
                    "highest": "G3",
                }
            },
            "not below",
        ),
        ({"schools": [{"school": "juggling"}]}, "is no school"),
        ({"format": 9}, "formats 1 and 2 are read"),
        ({"equipment": ["trombone"]}, "equipment"),
    ],
)
def test_the_command_says_what_is_wrong(tmp_path, capsys, change, words):
    file = tmp_path / "client.json"
    file.write_text(json.dumps(client_data(request("sustained")) | change), encoding="utf-8")
    assert main([str(file)]) == 2
    assert words in capsys.readouterr().err


def test_a_missing_client_file_is_said(tmp_path, capsys):
    assert main([str(tmp_path / "nobody.json")]) == 2
    assert "cannot be read" in capsys.readouterr().err


def test_back_pressure_by_hand():
    # wide tube, 10 mm × 35 cm, 2 cm deep, 150 mL/s: v = 150e-6 / (π·0.005²) = 1.91 m/s,
    # Re = 1.14·1.91·0.01/1.9e-5 = 1146; ½ρv² = 2.08 Pa; 64/1146·35·2.08 = 4.07 Pa;
    # 2 cm + (4.07 + 2.08)/98.07 = 2.06 cmH2O
    wide = back_pressure(bore_mm=10, length_cm=35, depth_cm=2, flow_ml_s=150)
    assert wide.laminar
    assert wide.reynolds == pytest.approx(1146, rel=0.01)
    assert wide.total == pytest.approx(2.063, abs=0.005)
    # a straw of 3 mm: v = 21.2 m/s, Re = 3820: no longer laminar, and many times the resistance
    thin = back_pressure(bore_mm=3, length_cm=20, depth_cm=0, flow_ml_s=150)
    assert not thin.laminar
    assert thin.kinetic == pytest.approx(1.14 * 21.22**2 / 2 / 98.07, rel=0.01)


@given(st.floats(2, 14), st.floats(3, 50), st.floats(0, 14), st.floats(20, 900))
def test_deeper_longer_narrower_and_faster_resist_more(bore, length, depth, flow):
    def total(**changes):
        usual = {"bore_mm": bore, "length_cm": length, "depth_cm": depth, "flow_ml_s": flow}
        return back_pressure(**usual | changes)

    here = total()
    assert total(depth_cm=depth + 1).total == pytest.approx(here.total + 1)
    assert total(length_cm=length + 5).viscous > here.viscous
    assert total(bore_mm=bore + 1).kinetic < here.kinetic


@pytest.mark.parametrize(
    "odd", [{"bore_mm": 1}, {"depth_cm": 16}, {"flow_ml_s": 0}, {"length_cm": float("nan")}]
)
def test_impossible_tubes_are_refused(odd):
    with pytest.raises(PlanError) as refused:
        back_pressure(**{"bore_mm": 5, "length_cm": 20, "depth_cm": 1, "flow_ml_s": 150} | odd)
    assert refused.value.code == "tube_out_of_limits"


@pytest.mark.parametrize(
    ("text", "cm"),
    [("2 cm", 2.0), ("20mm", 2.0), ("1 in", 2.54), ("65 inches", 165.1), ("0,5 cm", 0.5)],
)
def test_lengths_are_read_with_their_unit(text, cm):
    assert read_length_cm(text) == pytest.approx(cm)


@pytest.mark.parametrize("text", ["2", "cm", "two cm", "-1 cm", "2 ft", ""])
def test_a_length_without_a_unit_is_refused(text):
    with pytest.raises(PlanError):
        read_length_cm(text)


def test_both_units_are_said():
    assert length_words(2.54) == "2.54 cm (1.0 in)"
