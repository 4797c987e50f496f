"""`./reed stop`: stops the servers and the databases that `./reed start` left behind."""

from ops.postgres import main_cluster, standby_cluster
from ops.running import end_leftover


def run(arguments: list[str]) -> int:
    """Stop by id, after checking that the id is still ours."""
    end_leftover()
    for cluster in (main_cluster(), standby_cluster()):
        if cluster.data.exists():
            cluster.stop()
    print("Stopped.")
    return 0
