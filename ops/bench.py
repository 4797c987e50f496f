"""`./reed bench`: accuracy, speed and what is lost when things fail; each benchmark by its name."""

import argparse
import json
from collections.abc import Callable
from functools import partial

from ops import environment
from ops.inside import run_inside
from ops.phases import RUN, PhaseFailed, phase
from ops.postgres import APPLICATION, FAST_AND_LOOSE, Cluster, free_port
from ops.servers import Servers
from ops.shots import TODAY
from ops.site import Site
from ops.start import prepare


def run(arguments: list[str]) -> int:
    """One of the benchmarks by its name; `measure` where none is named."""
    what, *rest = arguments or ["measure"]
    if what in ("-h", "--help"):
        print(f"./reed bench [{' | '.join(BENCHES)}] [OPTIONS]; each has its own --help")
        return 0
    if what not in BENCHES:
        raise PhaseFailed(f"no benchmark {what!r}; there are {', '.join(BENCHES)}")
    return BENCHES[what](rest)


def _inside(module: str, prepared: Callable[[], None]) -> Callable[[list[str]], int]:
    """A benchmark that is a module of its own, once what it needs is there."""

    def ran(arguments: list[str]) -> int:
        prepared()
        return run_inside(module, arguments)

    return ran


def _pages(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="./reed bench pages")
    parser.add_argument("--clients", type=int, default=2_900)
    parser.add_argument("--attempts", type=int, default=1_000_000)
    given = parser.parse_args(arguments)
    prepare("base")
    cluster = Cluster(RUN / "pg-bench", FAST_AND_LOOSE)
    with cluster.up():
        site = Site(cluster=cluster, port=free_port(), today=TODAY)
        with phase("database"):
            site.migrate()
            site.load_demo(fresh=True)
        with phase("a large clinic"):
            size = ["--clients", str(given.clients), "--attempts", str(given.attempts)]
            said = site.manage("grow_clinic", *size)
        print(f"  {said.strip()}")
        print(site.manage("time_pages"))
    return 0


def _live(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser(prog="./reed bench live")
    parser.add_argument("--streams", type=int, default=60)
    parser.add_argument("--seconds", type=float, default=20.0, help="of sound in each attempt")
    parser.add_argument("--attempts", type=int, default=1, help="of each stream, one after another")
    parser.add_argument("--spread", type=float, default=10.0, help="s from first to last start")
    parser.add_argument("--processes", type=int, default=1, help="servers behind a balancer")
    given = parser.parse_args(arguments)
    prepare("base", balanced=given.processes > 1)
    cluster = Cluster(RUN / "pg-bench", FAST_AND_LOOSE)
    with phase("database"), cluster.up():
        site = Site(cluster=cluster, port=free_port())
        site.migrate()
        site.load_demo(fresh=True)
        return live_against(
            site,
            streams=given.streams,
            seconds=given.seconds,
            spread_s=given.spread,
            processes=given.processes,
            attempts=given.attempts,
        )


def live_against(
    site: Site,
    *,
    streams: int,
    seconds: float,
    spread_s: float,
    processes: int = 1,
    attempts: int = 1,
) -> int:
    """Load a site that holds the demo with so many practice sockets; prints one table. seconds: of sound in each
    of the `attempts` of a stream; processes: servers behind a balancer."""
    starts = site.manage("live_tickets", str(streams), role=APPLICATION)
    servers = Servers(site, processes)
    servers.start()
    try:
        told = RUN / "bench-live.json"
        told.write_text(
            json.dumps(
                {
                    "address": site.address,
                    "servers": servers.ids[:processes],
                    "seconds": seconds,
                    "spread_s": spread_s,
                    "attempts": attempts,
                    "starts": json.loads(starts),
                }
            )
        )
        return run_inside("lab.load.live", [str(told)])
    finally:
        servers.stop()


BENCHES: dict[str, Callable[[list[str]], int]] = {
    "measure": _inside("lab.bench.measure", partial(environment.ensure_python, "bench")),
    "fit": _inside("lab.bench.fit", environment.ensure_python),
    "settings": _inside("lab.bench.settings", environment.ensure_python),
    "changes": _inside("lab.bench.changes", environment.ensure_python),
    "pages": _pages,
    "live": _live,
    "faults": _inside("lab.faults.run", partial(prepare, "dev", balanced=True)),
    "fuzz": _inside("lab.fuzz.run", partial(prepare, "base")),
    "bench": _inside("lab.load.edits", partial(prepare, "dev")),
    "papers": _inside("lab.load.papers", partial(prepare, "dev")),
    "practice": _inside("lab.load.practice_page", partial(prepare, "dev")),
}
