"""The servers of a site with their worker: one, or several behind a balancer; what ends by itself is started anew."""

import os
import signal
import subprocess
import sys
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from pathlib import Path
from typing import NoReturn

from ops.balancer import Balancer
from ops.phases import PhaseFailed
from ops.postgres import free_port
from ops.site import Site, end

LOOKED_AT_EVERY_S = 0.5
TOO_SOON_S = 10.0
"""What ends sooner after its start was not ended by chance."""
MOST_TOO_SOON = 3


@dataclass
class _One:
    """A process of ours, how it is started and how often in a row it ended at once."""

    name: str
    begin: Callable[[], subprocess.Popen[bytes]]
    process: subprocess.Popen[bytes] | None = None
    began: float = 0.0
    too_soon: int = 0

    def start(self) -> None:
        self.process = self.begin()
        self.began = time.monotonic()


@dataclass
class Servers:
    """`processes` servers of a site; above one behind a balancer that listens where the site is.
    log: where they write what they have to say, None = here."""

    site: Site
    processes: int = 1
    log: Path | None = None
    _all: list[_One] = field(default_factory=list)

    def start(self) -> None:
        """Start them all at once and wait until each answers, then the balancer."""
        self.site.must_be_free()
        worker = _One("worker", lambda: self.site.work_beside(log=self.log))
        if self.processes == 1:
            self._begin([_One("server", lambda: self.site.serve(log=self.log))], [worker])
            return
        ports = [free_port() for _ in range(self.processes)]
        servers = [
            _One(f"server {number}", lambda port=port: self.site.serve(log=self.log, inner=port))  # type: ignore[misc]
            for number, port in enumerate(ports, 1)
        ]
        balancer = Balancer(
            host=self.site.host,
            port=self.site.own_port,
            servers=ports,
            cert=self.site.cert,
            key=self.site.key,
        )
        self._begin(servers, [worker, _One("balancer", balancer.start)])

    def _begin(self, servers: list[_One], others: list[_One]) -> None:
        self._all = [*servers, *others]
        try:
            with ThreadPoolExecutor(self.processes) as beside:
                list(beside.map(_One.start, servers))
            for one in others:
                one.start()
            self.site.must_answer()
        except BaseException:
            self.stop()
            raise

    @property
    def ids(self) -> list[int]:
        """Process ids: servers, worker, balancer where there is one."""
        return [one.process.pid for one in self._all if one.process]

    def kill(self, which: int | str) -> None:
        """End one at once, as when the machine takes its memory away."""
        self.end(which, signal.SIGKILL)

    def end(self, which: int | str, how: signal.Signals) -> None:
        """End the server of that number, "worker" or "balancer" by a signal and wait until it is gone."""
        by_name = {one.name: one for one in self._all}
        process = (self._all[which] if isinstance(which, int) else by_name[which]).process
        if process and process.poll() is None:
            process.send_signal(how)
            process.wait()

    def restart_ended(self) -> None:
        """Start anew what has ended."""
        for one in self._all:
            if one.process and one.process.poll() is not None:
                one.start()

    def keep_up(self, changed: Callable[[list[int]], None] = lambda ids: None) -> NoReturn:
        """Start anew what ends by itself, until Ctrl-C. changed: told the ids whenever one is another. PhaseFailed
        where one ends again and again right after its start."""
        while True:
            time.sleep(LOOKED_AT_EVERY_S)
            for one in self._all:
                code = one.process.poll() if one.process else None
                if code is None:
                    continue
                self._begin_anew(one, code)
                changed(self.ids)

    def _begin_anew(self, one: _One, code: int) -> None:
        soon = time.monotonic() - one.began < TOO_SOON_S
        one.too_soon = one.too_soon + 1 if soon else 0
        if one.too_soon >= MOST_TOO_SOON:
            raise PhaseFailed(
                f"The {one.name} ended by itself with {code}; the lines above say why."
            )
        print(f"  the {one.name} ended with {code}; started anew", file=sys.stderr, flush=True)
        one.start()

    def stop(self) -> None:
        """Stop each by its own id; the balancer first, so that nothing new comes in."""
        running = [one.process for one in reversed(self._all) if one.process]
        for process in running:
            if process.poll() is None:
                os.kill(process.pid, signal.SIGTERM)
        for process in running:
            end(process)
