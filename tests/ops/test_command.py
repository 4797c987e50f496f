"""The one command: its words, its documentation, measuring from the shell."""

import json
import re
import subprocess
import sys
import tomllib
from pathlib import Path

import numpy as np
import pytest
import soundfile

from lab.simulate.voice import Voice, sing
from ops.main import COMMANDS
from ops.main import main as reed
from ops.terminal.measure import main as measure
from ops.test import CHECKS

ROOT = Path(__file__).resolve().parents[2]
READ = "\n".join((ROOT / name).read_text() for name in ("README.md", "CONTRIBUTING.md"))


@pytest.mark.parametrize("command", COMMANDS)
def test_every_command_is_documented(command):
    assert f"./reed {command}" in READ


def test_every_setting_is_documented():
    names = set(re.findall(r'"(REED_\w+)"', (ROOT / "web/config/env.py").read_text()))
    assert names
    assert [name for name in names if name not in READ] == []


def test_the_version_is_the_newest_of_the_changes():
    version = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]["version"]
    newest = re.search(r"^## ([\w.]+)", (ROOT / "CHANGELOG.md").read_text(), re.MULTILINE)
    assert newest is not None
    assert newest[1] == version


def test_hooks_run_what_the_tests_run_and_fetch_nothing():
    hooks = (ROOT / ".pre-commit-config.yaml").read_text()
    assert re.findall(r"repo: (.+)", hooks) == ["local"]
    assert set(re.findall(r"language: (.+)", hooks)) == {"system"}
    for name in ("lint", "format", "import rules", "templates", "scripts"):
        command = CHECKS[name]
        assert Path(command[0]).name in hooks
        assert " ".join(command[1:]) in hooks


def test_help_and_unknown_commands(capsys):
    assert reed(["help"]) == 0
    assert "./reed COMMAND" in capsys.readouterr().out
    assert reed(["dance"]) == 2
    assert "no command 'dance'" in capsys.readouterr().err


def test_the_command_runs_with_the_standard_library_alone():
    shown = subprocess.run(
        [sys.executable, "-I", "-S", "-c", f"import sys; sys.path.insert(0, {str(ROOT)!r});"
         "import ops.main, ops.start, ops.test, ops.shots, ops.backup, ops.restore"],
        capture_output=True, text=True, check=False,
    )  # fmt: skip
    assert shown.returncode == 0, shown.stderr


def test_lock_files_name_no_host():
    for name in ("package-lock.json", "requirements/base.txt", "requirements/dev.txt"):
        text = (ROOT / name).read_text()
        assert "--index-url" not in text
        assert '"resolved"' not in text


def test_measuring_many_files_a_line_each(tmp_path, capsys):
    sung = sing(Voice(f0_hz=233.08, seconds=3.0))
    good, bad = tmp_path / "good.wav", tmp_path / "bad.wav"
    good.write_bytes(sung.as_wav())
    bad.write_bytes(sung.as_wav()[:999])
    jobs = tmp_path / "jobs.json"
    jobs.write_text(
        json.dumps(
            [
                {"wav": str(good), "task": "hold", "target": "B♭3"},
                {"wav": str(bad), "task": "hold"},
                {"wav": str(tmp_path / "none.wav"), "task": "hold"},
                {"wav": str(good), "task": "juggling"},
                {"wav": str(good), "task": "hold", "target": "H9"},
                {"wav": str(good), "task": "glide", "target": None},
            ]
        )
    )
    assert measure(["--jobs", str(jobs), "--json"]) == 2
    lines = [json.loads(line) for line in capsys.readouterr().out.splitlines()]
    codes = [line["error"] and line["error"]["code"] for line in lines]
    assert codes == [
        None,
        "sound_truncated",
        "sound_unreadable",
        "task_unknown",
        "note_unknown",
        None,
    ]
    first = lines[0]
    assert first["hold_s"] == pytest.approx(sung.hold_s, abs=0.02)
    assert first["pitch_error_cents"] == pytest.approx(0, abs=2)
    assert set(first) == {
        "wav", "task", "target", "error", "onset_s", "offset_s", "hold_s", "breaks", "f0_hz",
        "pitch_error_cents", "level_db", "tremor", "onset", "quality", "contour",
    }  # fmt: skip
    assert set(first["contour"]) == {"t0_s", "hop_s", "f0_hz", "level_db"}
    assert set(first["level_db"]) == {"mean", "sd", "slope_db_per_s", "trail_off_db"}
    assert "glide" in lines[5]


def test_one_good_file_is_exit_code_0(tmp_path, capsys):
    file = tmp_path / "voice.wav"
    file.write_bytes(sing(Voice(f0_hz=220.0, seconds=1.0)).as_wav())
    assert measure([str(file), "--target", "A3"]) == 0
    assert json.loads(capsys.readouterr().out)["error"] is None


def test_a_long_file_tells_how_far_it_is_and_a_short_one_nothing(tmp_path, capsys):
    room = np.random.default_rng(1).normal(0, 1e-4, 8_000 * 60 * 6)
    for minutes, told in ((6, 6), (1, 0)):
        file = tmp_path / f"{minutes}.wav"
        soundfile.write(file, room[: 8_000 * 60 * minutes], 8_000)
        assert measure([str(file)]) == 0
        lines = capsys.readouterr().err.splitlines()
        assert len(lines) == told
        assert all(f"of {minutes} min" in line for line in lines)
