"""`./reed takes`: what the demo's attempts need is performed and measured, into the shipped file."""

import argparse
import shutil

from ops.phases import RUN, phase
from ops.postgres import APPLICATION, FAST_AND_LOOSE, Cluster, free_port
from ops.site import Site
from ops.start import prepare


def run(arguments: list[str]) -> int:
    """All of it takes half an hour on two processors; leaves nothing running and no data behind."""
    parser = argparse.ArgumentParser(prog="./reed takes")
    text = "anew also what the file holds: after a change of the simulators or the kernel"
    parser.add_argument("--all", action="store_true", help=text)
    given = parser.parse_args(arguments)
    prepare()
    shutil.rmtree(RUN / "pg-takes", ignore_errors=True)  # one that a former release left
    cluster = Cluster(RUN / "pg-takes", FAST_AND_LOOSE)
    with phase("database"):
        cluster.start()
    try:
        site = Site(cluster=cluster, port=free_port())
        with phase("tables"):
            site.migrate()
            site.manage("flush", "--no-input", "--verbosity=0")
        with phase("performing" + (" (about half an hour)" if given.all else "")):
            more = ["--all"] if given.all else []
            told = site.manage("perform_demo", *more, role=APPLICATION)
        print(told.strip())
        return 0
    finally:
        cluster.stop()
