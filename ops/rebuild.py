"""`./reed rebuild`: works out anew what is kept beside the record, every line of Rounds."""

import argparse

from ops.phases import phase
from ops.postgres import APPLICATION, free_port, main_cluster
from ops.site import Site
from ops.start import prepare


def run(arguments: list[str]) -> int:
    """Harmless at any time, also while the site is running."""
    argparse.ArgumentParser(prog="./reed rebuild").parse_args(arguments)
    prepare()
    cluster = main_cluster()
    with cluster.up():
        site = Site(cluster=cluster, port=free_port())
        with phase("tables"):
            site.migrate()
        print(site.manage("rebuild_rows", role=APPLICATION).strip())
    return 0
