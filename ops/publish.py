"""`./reed publish`: the schema of a record and an example of every format, from the demo on a fixed day."""

import argparse

from ops.phases import ROOT, RUN, phase
from ops.postgres import APPLICATION, FAST_AND_LOOSE, Cluster, free_port
from ops.shots import TODAY
from ops.site import Site
from ops.start import prepare

FOLDER = ROOT / "docs" / "formats"


def run(arguments: list[str]) -> int:
    """On a database of its own; leaves nothing running."""
    argparse.ArgumentParser(prog="./reed publish").parse_args(arguments)
    prepare()
    cluster = Cluster(RUN / "pg-shots", FAST_AND_LOOSE)
    with phase("database"):
        cluster.start()
    try:
        site = Site(cluster=cluster, port=free_port(), today=TODAY)
        with phase("tables"):
            site.migrate()
        with phase("demo data"):
            site.load_demo(fresh=True)
        print(site.manage("publish_formats", str(FOLDER), role=APPLICATION).strip())
    finally:
        cluster.stop()
    return 0
