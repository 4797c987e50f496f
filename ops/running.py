"""The server of `./reed start`, known by its process id; a stale id is never taken for ours."""

import contextlib
import os
import signal
import time
from pathlib import Path

from ops.phases import RUN

_PID = RUN / "server.pid"


def remember(pid: int) -> None:
    _PID.write_text(str(pid))


def forget() -> None:
    _PID.unlink(missing_ok=True)


def running_server() -> int | None:
    """The process id of a server left running, or None."""
    if not _PID.exists():
        return None
    pid = int(_PID.read_text() or 0)
    try:
        command = Path(f"/proc/{pid}/cmdline").read_bytes()
    except OSError:
        return None
    return pid if b"web.config.asgi" in command else None


def end_leftover() -> bool:
    """Stop a server that a killed start left behind; True if there was one."""
    pid = running_server()
    forget()
    if pid is None:
        return False
    with contextlib.suppress(ProcessLookupError):
        os.kill(pid, signal.SIGTERM)
        for _ in range(80):
            os.kill(pid, 0)
            time.sleep(0.1)
        os.kill(pid, signal.SIGKILL)
    return True
