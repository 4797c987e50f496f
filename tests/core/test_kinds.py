"""Kinds of task: each has its own room and every part, or the core does not load."""

import sys

import grimp
import numpy as np
import pytest

from core.errors import SoundError
from core.kinds.kind import Kind
from core.kinds.live import measure_sound
from core.kinds.registry import findings, kinds, load, read_task_figures
from core.sound.figures import Contour, Figures, Quality, QualityVerdict
from core.sound.reading import Sound
from lab.kinds.attempt import SimulatedAttempt
from lab.kinds.registry import simulated
from lab.simulate.voice import Voice

PARTS = {
    "read_aim": "held.read_aim",
    "measured": "held.measured",
    "findings": "held.findings",
    "own": "None",
    "in_session": "held.in_session",
    "forms": "('hum',)",
    "fitted": "'hum'",
    "course": "'best_s'",
}


def room_with(parts):
    """The `kind.py` of a room with these parts."""
    given = ", ".join(f"{part}={PARTS[part]}" for part in parts)
    return f"""
from core.kinds.hold.kind import KIND as held
from core.kinds.kind import Kind
KIND = Kind(name="hum", {given})
"""


@pytest.fixture
def rooms(tmp_path, monkeypatch):
    """A package with one room, whose `kind.py` a test writes."""
    room = tmp_path / "rooms_of_a_test" / "hum"
    room.mkdir(parents=True)
    (room.parent / "__init__.py").touch()
    (room / "__init__.py").touch()
    monkeypatch.syspath_prepend(str(tmp_path))
    yield room / "kind.py"
    for name in [name for name in sys.modules if name.startswith("rooms_of_a_test")]:
        del sys.modules[name]


def test_a_whole_kind_is_found_in_its_folder(rooms):
    rooms.write_text(room_with(PARTS))
    assert set(load("rooms_of_a_test")) == {"hum"}


@pytest.mark.parametrize("part", PARTS)
def test_a_kind_that_lacks_a_part_is_named_with_it(rooms, part):
    rooms.write_text(room_with(set(PARTS) - {part}))
    with pytest.raises(SoundError) as broken:
        load("rooms_of_a_test")
    assert broken.value.code == "kind_broken"
    assert broken.value.params["folder"] == "hum"
    assert part in broken.value.params["reason"]


def test_a_folder_without_its_kind_is_named(rooms):
    with pytest.raises(SoundError) as broken:
        load("rooms_of_a_test")
    assert broken.value.params["folder"] == "hum"


def test_every_measured_task_has_its_room():
    assert set(kinds()) == {
        "hold",
        "swell",
        "glide",
        "hiss",
        "hum",
        "sz",
        "bubbles",
        "pattern",
        "level",
        "near",
        "breath",
    }
    assert all(isinstance(kind, Kind) for kind in kinds().values())


def test_kinds_do_not_know_each_other():
    graph = grimp.build_graph("core", "web")
    names = {
        name.split(".")[2]
        for name in graph.modules
        if name.count(".") == 3 and name.endswith(".kind")
    }
    assert len(names) >= 8
    for package in ("core.kinds", "web.kinds"):
        for room in names:
            own = {f"{package}.{room}", *graph.find_descendants(f"{package}.{room}")}
            seen = {found for one in own for found in graph.find_modules_directly_imported_by(one)}
            met = {m.split(".")[2] for m in seen if ".kinds." in m} & names
            assert met <= {room}, (package, room)


def test_what_is_a_voice_and_what_is_only_air():
    voiced = {name for name, kind in kinds().items() if kind.voiced}
    assert voiced == {"hold", "swell", "glide", "bubbles", "hum", "pattern", "level", "near"}


def test_figures_that_no_kind_wrote_are_nothing():
    assert read_task_figures(None) is None
    assert read_task_figures({"humming": {}}) is None


@pytest.mark.parametrize("task", kinds())
def test_nothing_is_said_of_an_attempt_without_its_sound(task):
    for hold_s in (0.0, None):
        silent = Figures(
            task=task,
            target=None,
            quality=Quality(QualityVerdict.GOOD),
            contour=Contour(f0_hz=np.zeros(0), level_db=np.zeros(0)),
            hold_s=hold_s,
        )
        assert findings(silent) == []


def test_every_kind_has_a_stand_in_whose_sound_it_measures():
    voice = Voice(f0_hz=220.0, seconds=4.0, seed=5)
    for task in kinds():
        samples = simulated(task).perform(voice, SimulatedAttempt(seconds=4.0))
        found = measure_sound(Sound(samples, 16_000), task)
        assert found.task == task
        assert found.hold_s is not None, task
        assert found.hold_s > 0.8, task
