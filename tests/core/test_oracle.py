"""The oracle of proposals: it shares no code with the product, and sees what is broken on purpose."""

import ast
import json
from pathlib import Path

import pytest

from core.catalogue.words import Equipment
from core.fitting.known import Limits
from core.proposing.client_file import client_data
from core.proposing.report import proposal_data
from core.safety.condition import FROM_THE_RECORD, Condition
from lab.bench import (
    oracle,
    oracle_minutes,
    oracle_notices,
    oracle_state,
    oracle_wants,
    oracle_words,
)
from ops.terminal.propose import main
from tests.core.fitted import TODAY, propose_for, request, screened

MANY = ("semi_deep", "breath_support", "loudness_vowels", "range_full", "sustained", "release")
KNOWN = {
    "lowest": "E3",
    "highest": "C5",
    "speaking": "A3",
    "strong_s": (9.0,),
    "strong_over_db": 9.0,
    "phonation_s": (14.0,),
    "probes_s": (10.0, 9.0, 11.0),
}


def pair(*schools, **changes):
    wide = Limits(minutes_a_session=60, minutes_a_week=1000)
    wanted = request(*(schools or MANY), known=KNOWN, limits=wide, **changes)
    wanted = screened(wanted, trouble_began_on=TODAY)
    return client_data(wanted), proposal_data(propose_for(wanted), wanted)


def test_the_oracle_imports_nothing_of_the_product():
    named = set()
    for module in (
        oracle,
        oracle_minutes,
        oracle_notices,
        oracle_state,
        oracle_wants,
        oracle_words,
    ):
        tree = ast.parse(Path(module.__file__).read_text(encoding="utf-8"))
        named |= {n.module for n in ast.walk(tree) if isinstance(n, ast.ImportFrom)}
        named |= {a.name for n in ast.walk(tree) if isinstance(n, ast.Import) for a in n.names}
    standard = {"itertools", "math", "collections.abc", "datetime", "statistics", "typing"}
    own = ("words", "minutes", "notices", "state", "wants")
    assert named == standard | {f"lab.bench.oracle_{name}" for name in own}


def test_a_sound_proposal_has_no_breach():
    assert oracle.breaches(*pair()) == []


def step(said, task):
    steps = (one for routine in said["program"]["routines"] for one in routine["steps"])
    return next(one for one in steps if one["task"] == task)


def _deeper(client, said):
    step(said, "wide_tube_water")["tube"]["depth_cm"] = 5.5


def _longer_glide(client, said):
    step(said, "sustained_stretch")["target"]["seconds"] = 15.0


def _doubled(client, said):
    said["program"]["routines"][0]["steps"].append(said["program"]["routines"][0]["steps"][0])


def _too_high(client, said):
    step(said, "sustained_power")["target"]["holds"][0]["note"] = "D5"


def _too_long(client, said):
    step(said, "sustained_power")["target"]["holds"][0]["seconds"] = 20.0


def _louder(client, said):
    step(said, "own_phrases")["level"] = {"over_db": 9.0}


def _minutes(client, said):
    client["limits"]["minutes_a_session"] = 3


def _week(client, said):
    client["limits"]["minutes_a_week"] = 20


def _flag(client, said):
    client["screening"]["red_flags"]["blood"] = True


def _old_examination(client, said):
    client["screening"]["larynx_examined_on"] = "2020-01-01"


def _having(condition):
    def change(client, said):
        client["screening"]["conditions"] = [condition]

    return change


def _cannot(skill):
    def change(client, said):
        client["cannot"] = [skill]

    return change


@pytest.mark.parametrize(
    ("change", "seen"),
    [
        (_deeper, "deeper than home"),
        (_longer_glide, "shown"),
        (_doubled, "twice"),
        (_too_high, "outside the comfortable range"),
        (_too_long, "sustained_power"),
        (_louder, "own_phrases"),
        (_minutes, "min a session"),
        (_week, "min a week"),
        (_flag, "the gate is open over"),
        (_old_examination, "asks for no reason"),
        (_having("stroke"), "pressure"),
        (_having("unsafe_swallowing"), "water or a sip"),
        (_having("fluid_limits"), "water or a sip"),
        (_having("carotid_disease"), "unsafe neck"),
        (_having("recent_jaw_surgery"), "operated jaw"),
        (_having("fold_surgery"), "loud after surgery"),
        (_having("fold_lesions"), "without a written reason"),
        (_having("acute_laryngitis"), "is voiced"),
        (_cannot("raising_arms"), "cannot raising_arms"),
    ],
)
def test_what_is_broken_on_purpose_is_seen(change, seen):
    client, said = pair()
    change(client, said)
    assert any(seen in breach for breach in oracle.breaches(client, said))


@pytest.mark.parametrize("condition", sorted(set(Condition) - FROM_THE_RECORD))
def test_no_single_condition_leads_to_a_breach(condition):
    for schools in (MANY, ("semi_shallow", "breath_counts", "loudness_longest", "carry_over")):
        wanted = screened(
            request(*schools, known=KNOWN, limits=Limits(breath_hold=True)),
            trouble_began_on=TODAY,
            conditions=frozenset({condition}),
        )
        said = proposal_data(propose_for(wanted), wanted)
        assert oracle.breaches(client_data(wanted), said) == []


def test_many_clients_are_proposed_for_in_one_process(tmp_path, capsys):
    good, _said = pair("sustained")
    lines = [json.dumps(good), "", '{"format": 1}', "[", json.dumps(good | {"equipment": ["oar"]})]
    hopeless = good | {"baseline": good["baseline"] | {"lowest": None, "highest": None}}
    file = tmp_path / "clients.jsonl"
    file.write_text("\n".join([*lines, json.dumps(hopeless)]), encoding="utf-8")
    assert main(["--jobs", str(file), "--seed", "1"]) == 0
    found = [json.loads(line) for line in capsys.readouterr().out.splitlines()]
    assert [one["line"] for one in found] == [1, 3, 4, 5, 6]
    assert found[0]["error"] is None
    assert oracle.breaches(good, found[0]) == []
    codes = [one["error"]["code"] for one in found[1:]]
    assert codes == ["file_refused", "file_refused", "file_refused", "nothing_fits"]
    assert any("comfortable note" in words for words in found[4]["error"]["messages"])
    assert main(["--jobs", str(tmp_path / "nowhere.jsonl")]) == 2
    assert set(good["equipment"]) == {one.value for one in Equipment}


@pytest.mark.parametrize(
    "code",
    [
        *("found_folds_unreleased", "found_folds_unexamined", "found_cold_unasked"),
        *("found_laryngitis_cold", "found_laryngitis_hoarser", "found_laryngitis_new"),
        *("found_botulinum_recent", "found_swallowing_unasked", "found_tracheostomy"),
        *("found_no_larynx", "found_folds_gentle", "found_no_voice", "stop_when_tired"),
        *("memory", "event_called_off"),
    ],
)
def test_a_notice_that_its_program_contradicts_is_seen(code):
    """A program of strong voice, water and many steps stands under a notice that allows none of it."""
    client, said = pair()
    said["notices"].append({"code": code, "words": "", "params": {}})
    assert oracle.breaches(client, said) == [f"contradicted by its program: {code}"]
