"""`./reed stop`: stops the server and the database that `./reed start` left behind."""

import os
import signal
from pathlib import Path

from ops.postgres import main_cluster
from ops.start import SERVER_PID


def run(arguments: list[str]) -> int:
    """Stop by id, after checking that the id is still ours."""
    if SERVER_PID.exists():
        pid = int(SERVER_PID.read_text())
        command = Path(f"/proc/{pid}/cmdline")
        if command.exists() and b"web.config.asgi" in command.read_bytes():
            os.kill(pid, signal.SIGTERM)
        SERVER_PID.unlink()
    cluster = main_cluster()
    if cluster.data.exists():
        cluster.stop()
    print("Stopped.")
    return 0
