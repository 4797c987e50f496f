"""`./reed start`: everything from a fresh machine to a served demo."""

import argparse
import contextlib
import os
import signal
import sys
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from ops import debian, environment
from ops.pair import Pair
from ops.phases import ROOT, phase
from ops.postgres import main_cluster, standby_cluster
from ops.running import end_leftover, forget, remember
from ops.servers import Servers
from ops.site import Site
from ops.standby import begin_watching

MOST_PROCESSES = 16


_READY = """
Still Reed is running at {address}

The demo clinic and its clients are fictional. Sign in as a clinician, or open a client's link:

{sign_ins}
Press Ctrl-C to stop."""


def run(arguments: list[str]) -> int:
    """Set up, serve until Ctrl-C, stop what was started."""
    parser = argparse.ArgumentParser(prog="./reed start")
    parser.add_argument("--port", type=int, default=8010)
    parser.add_argument("--host", default="127.0.0.1")
    parser.add_argument("--cert", type=Path, help="certificate for a real phone (HTTPS)")
    parser.add_argument("--key", type=Path)
    parser.add_argument("--fresh", action="store_true", help="empty the database first")
    parser.add_argument("--today", help="the demo's day, for example 2026-06-15")
    text = "servers behind a balancer, one for each processor core"
    parser.add_argument("--processes", type=int, default=1, help=text)
    text = "a second database that has all that was confirmed, ready to be promoted"
    parser.add_argument("--standby", action="store_true", help=text)
    given = parser.parse_args(arguments)
    if not 1 <= given.processes <= MOST_PROCESSES:
        parser.error(f"--processes lies between 1 and {MOST_PROCESSES}")
    if bool(given.cert) != bool(given.key):
        parser.error("--cert and --key go together")
    for path in filter(None, (given.cert, given.key)):
        if not path.exists():
            parser.error(f"{path} is not there")
    given.cert, given.key = (path and path.resolve() for path in (given.cert, given.key))
    os.chdir(ROOT)
    prepare(balanced=given.processes > 1)
    if end_leftover():
        print("  ended the server that an earlier start left behind", file=sys.stderr)
    signal.signal(signal.SIGTERM, signal.default_int_handler)
    cluster = main_cluster(with_standby=given.standby)
    standby = standby_cluster() if given.standby else None
    with phase("database"):
        if standby:
            cluster.stop()  # one that was left running knows nothing of a standby
        cluster.start()
    try:
        if standby:
            with phase("its standby"):
                Pair(cluster, standby).make_standby()
        site = Site(
            cluster=cluster,
            standby=standby,
            port=given.port,
            host=given.host,
            today=given.today,
            cert=given.cert,
            key=given.key,
        )
        with phase("tables"):
            site.migrate()
        servers = Servers(site, given.processes)
        watched = begin_watching(site) if standby else None
        try:
            sign_ins = _serve_with_demo(servers, fresh=given.fresh)
            remember(servers.ids)
            print(_READY.format(address=site.address, sign_ins=sign_ins), flush=True)
            servers.keep_up(remember)
        finally:
            servers.stop()
            if watched:
                watched()
            forget()
    except KeyboardInterrupt:
        return 0
    finally:
        with contextlib.suppress(KeyboardInterrupt):
            for one in filter(None, (cluster, standby)):
                one.stop()


def _serve_with_demo(servers: Servers, *, fresh: bool) -> str:
    """Load the demo, then serve; where it was loaded before, both at once. The demo's sign-ins."""
    site = servers.site
    loaded = site.cluster.folder / "demo-loaded"
    if loaded.exists() and not fresh:
        with phase("server"), ThreadPoolExecutor(1) as beside:
            sign_ins = beside.submit(site.load_demo)
            servers.start()
            return sign_ins.result()
    with phase("demo data (once)"):
        told = site.load_demo(fresh=fresh)
        loaded.touch()
    with phase("server"):
        servers.start()
    return told


def prepare(level: str = "base", *, balanced: bool = False) -> None:
    """Packages, Python, Node, styles: everything but the database. Above "base" with a browser; balanced: with
    what stands before several servers."""
    more = (debian.BROWSER if level != "base" else {}) | (debian.BALANCER if balanced else {})
    debian.install_missing(debian.SERVE | more)
    environment.ensure_python(level)
    environment.ensure_styles()
