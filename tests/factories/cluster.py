"""What `tests/ops/test_cluster.py` and others make and look at."""


def ask(cluster, sql, **where):
    return cluster.run("psql", "-XAtc", sql, **where).strip()
