"""Work that runs beside the server at intervals, never within a request."""

import logging
import threading
from collections.abc import Callable, Sequence

from django.db import close_old_connections

log = logging.getLogger(__name__)
_EVERY_S = 10.0


def run_periodically(
    jobs: Sequence[Callable[[], object]],
    *,
    every_s: float = _EVERY_S,
    woken: threading.Event | None = None,
) -> threading.Event:
    """Do each job in turn every so many seconds, in a thread of its own, until the event that is given back is
    set; `woken`, when set, makes it sooner. What is to be done stands in the database, so that several processes
    share it and a restart forgets nothing. One that fails, whatever at, leaves the others to be done: a stop
    sign's mail hangs on no other work."""
    ended = threading.Event()
    sooner = woken or ended

    def run() -> None:
        while True:
            sooner.wait(every_s)
            if ended.is_set():
                return
            if woken:
                woken.clear()
            for job in jobs:
                try:
                    job()
                except Exception:
                    log.exception("work beside the server was not done")
            close_old_connections()

    threading.Thread(target=run, name="beside", daemon=True).start()
    return ended
