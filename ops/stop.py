"""`./reed stop`: stops the server and the database that `./reed start` left behind."""

from ops.postgres import main_cluster
from ops.running import end_leftover


def run(arguments: list[str]) -> int:
    """Stop by id, after checking that the id is still ours."""
    end_leftover()
    cluster = main_cluster()
    if cluster.data.exists():
        cluster.stop()
    print("Stopped.")
    return 0
