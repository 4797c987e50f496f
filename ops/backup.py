"""`./reed backup FILE`: the whole database in PostgreSQL's own archive format, without what was promised to be
erased."""

import argparse
from pathlib import Path

from ops import debian
from ops.manifest import written
from ops.phases import phase
from ops.postgres import Cluster, main_cluster
from ops.restore import check_backup

ERASED_AFTER_A_WHILE = "public.practice_heardsound"
"""Sounds that clients agreed to for 30 days: an archive would keep them for longer."""


def run(arguments: list[str]) -> int:
    """Write the archive and its manifest, never over a file that is there; or prove that one can be restored."""
    parser = argparse.ArgumentParser(prog="./reed backup")
    parser.add_argument("file", type=Path)
    text = "prove that FILE can be restored: its digest, and every row in a database of its own, dropped again"
    parser.add_argument("--check", action="store_true", help=text)
    given = parser.parse_args(arguments)
    if given.check != given.file.exists():
        parser.error(
            f"{given.file} is {'not there' if given.check else 'there already; name another file'}"
        )
    debian.install_missing(debian.SERVE)
    cluster = main_cluster()
    with cluster.up():
        if given.check:
            with phase(f"{given.file}, restored beside the database"):
                rows = check_backup(cluster, given.file)
            print(f"  {sum(rows.values())} rows of {len(rows)} tables came back as they were")
            return 0
        with phase(f"backup to {given.file}"):
            write_backup(cluster, given.file)
    return 0


def write_backup(cluster: Cluster, file: Path) -> None:
    """Everything of the database `reed` but the sounds, readable by its owner only, and its manifest."""
    unfinished = file.with_name(file.name + ".part")
    unfinished.touch(mode=0o600)
    without = f"--exclude-table-data={ERASED_AFTER_A_WHILE}"
    cluster.run("pg_dump", "--format=custom", without, f"--file={unfinished.resolve()}")
    unfinished.rename(file)
    written(file)
