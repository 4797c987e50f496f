"""`./reed backup FILE`: the whole database in PostgreSQL's own archive format."""

import argparse
from pathlib import Path

from ops import debian
from ops.phases import phase
from ops.postgres import Cluster, main_cluster


def run(arguments: list[str]) -> int:
    """Write the archive; never over a file that is there."""
    parser = argparse.ArgumentParser(prog="./reed backup")
    parser.add_argument("file", type=Path)
    given = parser.parse_args(arguments)
    if given.file.exists():
        parser.error(f"{given.file} is there already; name another file")
    debian.install_missing(debian.SERVE)
    cluster = main_cluster()
    with cluster.up(), phase(f"backup to {given.file}"):
        write_backup(cluster, given.file)
    return 0


def write_backup(cluster: Cluster, file: Path) -> None:
    """Everything of the database `reed`, readable by its owner only."""
    unfinished = file.with_name(file.name + ".part")
    unfinished.touch(mode=0o600)
    cluster.run("pg_dump", "--format=custom", f"--file={unfinished.resolve()}")
    unfinished.rename(file)
