"""What `./reed start` runs, known by process ids; a stale id is never taken for ours."""

import contextlib
import os
import signal
import time
from collections.abc import Iterable
from pathlib import Path

from ops.phases import RUN

_IDS = RUN / "server.pid"
_OURS = (b"web.config.asgi", b"work_beside", b"haproxy", b"start")
"""In the command line of a server, of the worker, of the balancer, and of `./reed start` itself."""


def remember(pids: Iterable[int]) -> None:
    """Note this process, which looks after the others, and those others."""
    _IDS.write_text("\n".join(map(str, [os.getpid(), *pids])))


def forget() -> None:
    _IDS.unlink(missing_ok=True)


def running() -> list[int]:
    """Process ids of a start that are still ours, who looks after them first; [] where nothing runs."""
    if not _IDS.exists():
        return []
    noted = [int(one) for one in _IDS.read_text().split() if one.isdigit()]
    return [pid for pid in noted if pid != os.getpid() and _is_ours(pid)]


def end_leftover() -> bool:
    """Stop what another start runs or a killed one left behind; True if there was anything. Who looks after the
    others is ended first, so that it starts none anew."""
    pids = running()
    forget()
    for pid in pids:
        _end(pid)
    return bool(pids)


def _is_ours(pid: int) -> bool:
    try:
        command = Path(f"/proc/{pid}/cmdline").read_bytes()
    except OSError:
        return False
    return any(part in command for part in _OURS) and _begun_here(pid)


def _begun_here(pid: int) -> bool:
    """Whether it runs in this folder: another copy of Still Reed has processes of its own."""
    try:
        return Path(f"/proc/{pid}/cwd").resolve() == RUN.parent.resolve()
    except OSError:
        return False


def _end(pid: int) -> None:
    with contextlib.suppress(ProcessLookupError):
        os.kill(pid, signal.SIGTERM)
        for _ in range(120):
            if not _is_ours(pid):
                return
            time.sleep(0.1)
        os.kill(pid, signal.SIGKILL)
