"""`./reed takes`: every attempt of the demo performed and measured anew, into the shipped file."""

from ops.phases import RUN, phase
from ops.postgres import APPLICATION, FAST_AND_LOOSE, Cluster, free_port
from ops.site import Site
from ops.start import prepare


def run(arguments: list[str]) -> int:
    """Takes about half an hour on two processors; leaves nothing running and no data behind."""
    prepare()
    cluster = Cluster(RUN / "pg-takes", FAST_AND_LOOSE)
    with phase("database"):
        cluster.start()
    try:
        site = Site(cluster=cluster, port=free_port())
        with phase("tables"):
            site.migrate()
            site.manage("flush", "--no-input", "--verbosity=0")
        with phase("performing (about half an hour)"):
            told = site.manage("perform_demo", role=APPLICATION)
        print(told.strip())
        return 0
    finally:
        cluster.stop()
