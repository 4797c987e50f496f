"""`./reed start`: everything from a fresh machine to a served demo."""

import argparse
import contextlib
import os
import signal
import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from ops import debian, environment
from ops.phases import PhaseFailed, phase
from ops.postgres import main_cluster
from ops.running import end_leftover, forget, remember
from ops.site import Site, end


def run(arguments: list[str]) -> int:
    """Set up, serve until Ctrl-C, stop what was started."""
    parser = argparse.ArgumentParser(prog="./reed start")
    parser.add_argument("--port", type=int, default=8010)
    parser.add_argument("--host", default="127.0.0.1")
    parser.add_argument("--cert", type=Path, help="certificate for a real phone (HTTPS)")
    parser.add_argument("--key", type=Path)
    parser.add_argument("--fresh", action="store_true", help="empty the database first")
    parser.add_argument("--today", help="the demo's day, for example 2026-06-15")
    given = parser.parse_args(arguments)
    if bool(given.cert) != bool(given.key):
        parser.error("--cert and --key go together")
    for path in filter(None, (given.cert, given.key)):
        if not path.exists():
            parser.error(f"{path} is not there")
    prepare()
    if end_leftover():
        print("  ended the server that an earlier start left behind", file=sys.stderr)
    signal.signal(signal.SIGTERM, lambda *_: os.kill(os.getpid(), signal.SIGINT))
    cluster = main_cluster()
    with phase("database"):
        cluster.start()
    try:
        site = Site(
            cluster=cluster,
            port=given.port,
            host=given.host,
            today=given.today,
            cert=given.cert,
            key=given.key,
        )
        with phase("tables"):
            site.migrate()
        server, sign_ins = _serve_with_demo(site, fresh=given.fresh)
        try:
            remember(server.pid)
            print(f"\nStill Reed is on {site.address}\n\n{sign_ins}\nCtrl-C stops it.", flush=True)
            code = server.wait()
            if code in (0, -signal.SIGTERM):
                return 0
            raise PhaseFailed(f"The server ended by itself with {code}; the lines above say why.")
        finally:
            end(server)
            forget()
    except KeyboardInterrupt:
        return 0
    finally:
        with contextlib.suppress(KeyboardInterrupt):
            cluster.stop()


def _serve_with_demo(site: Site, *, fresh: bool) -> tuple[subprocess.Popen[bytes], str]:
    """Load the demo, then serve; where it was loaded before, both at once."""
    loaded = site.cluster.folder / "demo-loaded"
    if loaded.exists() and not fresh:
        with phase("server"), ThreadPoolExecutor(1) as beside:
            sign_ins = beside.submit(site.load_demo)
            return site.serve(), sign_ins.result()
    with phase("demo data (once)"):
        told = site.load_demo(fresh=fresh)
        loaded.touch()
    with phase("server"):
        return site.serve(), told


def prepare(level: str = "base") -> None:
    """Packages, Python, Node, styles: everything but the database. Above "base" with a browser."""
    debian.install_missing(debian.SERVE | (debian.BROWSER if level != "base" else {}))
    environment.ensure_python(level)
    environment.ensure_styles()
