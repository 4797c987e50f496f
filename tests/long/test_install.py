"""A fresh clone on a machine where Still Reed never ran: installed, served with the demo, stopped."""

import os
import subprocess
import tempfile
import time
import urllib.request
from pathlib import Path

import pytest

from ops.postgres import free_port

ROOT = Path(__file__).parents[2]


@pytest.fixture
def folder():
    """One that the database's own user may enter, unlike pytest's."""
    with tempfile.TemporaryDirectory() as name:
        Path(name).chmod(0o755)
        yield Path(name)


def test_a_fresh_clone_is_served_by_one_command_and_stops_without_leftovers(folder, capsys):
    clone, port = folder / "clone", free_port()
    subprocess.run(["git", "clone", "-q", str(ROOT), str(clone)], check=True)
    env = {
        key: value for key, value in os.environ.items() if not key.startswith(("REED_", "DJANGO_"))
    }
    began = time.monotonic()
    started = subprocess.Popen(
        ["./reed", "start", "--port", str(port)],
        cwd=clone,
        env=env,
        text=True,
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
    )
    told = []
    try:
        assert started.stdout is not None
        for line in started.stdout:  # until it says so, or ends
            told.append(line)
            if "Press Ctrl-C to stop" in line:
                break
        took_s = time.monotonic() - began
        assert started.poll() is None, "".join(told)
        assert _served(port), "".join(told)
    finally:
        started.terminate()
        code = started.wait(60)
    with capsys.disabled():
        print(f"\n  a fresh clone was served after {took_s:.0f} s")
    assert code == 0, "".join(told)
    assert not _served(port)
    assert not list(clone.glob(".run/pg*/data/postmaster.pid"))
    status = ["git", "status", "--porcelain"]
    assert subprocess.run(status, cwd=clone, text=True, capture_output=True).stdout == ""


def _served(port: int) -> bool:
    try:
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/readyz", timeout=2) as answer:
            return answer.status == 200
    except OSError:
        return False
