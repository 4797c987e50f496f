"""`./reed start`: everything from a fresh machine to a served demo."""

import argparse
import contextlib
import os
import signal
from pathlib import Path

from ops import debian, environment
from ops.phases import RUN, PhaseFailed, phase
from ops.postgres import main_cluster
from ops.site import Site, end

SERVER_PID = RUN / "server.pid"


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
        with phase("demo data (once)"):
            sign_ins = site.load_demo(fresh=given.fresh)
        with phase("server"):
            server = site.serve()
        SERVER_PID.write_text(str(server.pid))
        signal.signal(signal.SIGTERM, lambda *_: os.kill(os.getpid(), signal.SIGINT))
        print(f"\nStill Reed is on {site.address}\n\n{sign_ins}\nCtrl-C stops it.", flush=True)
        try:
            code = server.wait()
            if code in (0, -signal.SIGTERM):
                return 0
            raise PhaseFailed(f"The server ended by itself with {code}; the lines above say why.")
        except KeyboardInterrupt:
            return 0
        finally:
            end(server)
            SERVER_PID.unlink(missing_ok=True)
    finally:
        with contextlib.suppress(KeyboardInterrupt):
            cluster.stop()


def prepare(*, dev: bool = False) -> None:
    """Packages, Python, Node, styles: everything but the database."""
    debian.install_missing(debian.SERVE | (debian.BROWSER if dev else {}))
    environment.ensure_python(dev=dev)
    environment.ensure_styles()
