"""A fresh clone on a machine where Still Reed never ran: installed, served with the demo, stopped."""

import os
import signal
import subprocess
import time
import urllib.request
from pathlib import Path

from ops.postgres import free_port

ROOT = Path(__file__).parents[2]
MOST_S = 600
"""A hard end, far beyond what it takes (docs/testing.md): a start that hangs fails."""


def test_a_fresh_clone_is_served_by_one_command_and_stops_without_leftovers(tmp_path, capsys):
    clone, port = tmp_path / "clone", free_port()
    subprocess.run(["git", "clone", "-q", str(ROOT), str(clone)], check=True)
    env = {
        key: value for key, value in os.environ.items() if not key.startswith(("REED_", "DJANGO_"))
    }
    began = time.monotonic()
    log = (tmp_path / "log").open("w+")
    started = subprocess.Popen(
        ["./reed", "start", "--port", str(port)], cwd=clone, env=env, stdout=log, stderr=log
    )
    try:
        while not _served(port):
            assert started.poll() is None, (tmp_path / "log").read_text()
            assert time.monotonic() - began < MOST_S, (tmp_path / "log").read_text()
            time.sleep(0.5)
        took_s = time.monotonic() - began
    finally:
        started.send_signal(signal.SIGINT)
        code = started.wait(60)
    with capsys.disabled():
        print(f"\n  a fresh clone was served after {took_s:.0f} s")
    told = (tmp_path / "log").read_text()
    assert code == 0, told
    assert f"Still Reed is running at http://127.0.0.1:{port}" in told
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
