"""A short run of `./reed bench faults`: its own server and database fail under real browsers."""

import os
import re
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).parents[2]


def test_nothing_is_lost_and_nothing_doubled_in_a_short_run_of_faults():
    """Server, database killed, disk full, network gone, half-open, slow, reply lost, upload doubled, out of order."""
    command = [
        sys.executable,
        "-m",
        "lab.faults.run",
        "--faults",
        "9",
        "--seed",
        "7",
        "--clients",
        "1",
    ]
    own = {
        name: value
        for name, value in os.environ.items()
        if not name.startswith(("REED_", "DJANGO_"))
    }
    done = subprocess.run(
        command,
        cwd=ROOT,
        env={**own, "PYTHONPATH": str(ROOT)},
        capture_output=True,
        text=True,
        timeout=400,
        check=False,
    )
    last = done.stdout.strip().splitlines()[-1:]
    assert done.returncode == 0, done.stdout[-3000:] + done.stderr[-3000:]
    sent, kept, lost, doubled = map(int, re.findall(r"\d+", last[0]))
    assert sent >= 8
    assert (kept, lost, doubled) == (sent, 0, 0)
