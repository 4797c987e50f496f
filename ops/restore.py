"""`./reed restore FILE`: replaces the database by an archive, all of it or nothing."""

import argparse
from pathlib import Path

from ops import debian
from ops.phases import PhaseFailed, phase
from ops.postgres import OWNER, Cluster, main_cluster
from ops.running import running_server


def run(arguments: list[str]) -> int:
    """Restore; refused while the site is running."""
    parser = argparse.ArgumentParser(prog="./reed restore")
    parser.add_argument("file", type=Path)
    given = parser.parse_args(arguments)
    if not given.file.exists():
        parser.error(f"{given.file} is not there")
    if running_server() is not None:
        raise PhaseFailed("The site is running. Stop it with Ctrl-C or ./reed stop, then restore.")
    debian.install_missing(debian.SERVE)
    cluster = main_cluster()
    with cluster.up(), phase(f"restore from {given.file}"):
        read_backup(cluster, given.file)
    return 0


def read_backup(cluster: Cluster, file: Path) -> None:
    """Into a new database first; the old one goes only when the archive was read whole."""
    admin = {"database": "postgres"}
    (cluster.folder / "migrated").unlink(missing_ok=True)
    cluster.run("psql", "-qXc", "DROP DATABASE IF EXISTS reed_restoring", **admin)
    cluster.run("psql", "-qXc", f"CREATE DATABASE reed_restoring OWNER {OWNER}", **admin)
    cluster.run("pg_restore", "--exit-on-error", str(file.resolve()), database="reed_restoring")
    cluster.run("psql", "-qXc", "DROP DATABASE IF EXISTS reed WITH (FORCE)", **admin)
    cluster.run("psql", "-qXc", "ALTER DATABASE reed_restoring RENAME TO reed", **admin)
