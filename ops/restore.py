"""`./reed restore FILE`: replaces the database by an archive, all of it or nothing."""

import argparse
from collections.abc import Mapping
from pathlib import Path

from ops import debian
from ops.former_tables import check_tables
from ops.manifest import checked
from ops.phases import PhaseFailed, phase
from ops.postgres import OWNER, Cluster, main_cluster
from ops.running import running

OURS = ("django_migrations", "clinic_clinic", "clients_client", "practice_attempt")
RESTORING, BEFORE, CHECKING = "reed_restoring", "reed_before", "reed_checking"


def run(arguments: list[str]) -> int:
    """Restore; refused while the site is running."""
    parser = argparse.ArgumentParser(prog="./reed restore")
    parser.add_argument("file", type=Path)
    text = "restore an archive that came without its manifest: only its tables can be checked"
    parser.add_argument("--without-manifest", action="store_true", help=text)
    given = parser.parse_args(arguments)
    if not given.file.exists():
        parser.error(f"{given.file} is not there")
    if running():
        raise PhaseFailed("The site is running. Stop it with Ctrl-C or ./reed stop, then restore.")
    debian.install_missing(debian.SERVE)
    cluster = main_cluster()
    with cluster.up(), phase(f"restore from {given.file}"):
        rows = None if given.without_manifest else checked(given.file)
        read_backup(cluster, given.file, rows=rows)
    return 0


def read_backup(cluster: Cluster, file: Path, *, rows: Mapping[str, int] | None = None) -> None:
    """Into a new database first, which has to answer as ours; until then the old one stays. rows: by table, as
    its manifest promises them.

    PhaseFailed, with the database as it was, for an archive that cannot be read, is another
    program's, was written by a newer version than this, or does not hold what was promised.
    """
    _drop(cluster, BEFORE)
    _into(cluster, RESTORING, file, rows)
    (cluster.folder / "migrated").unlink(missing_ok=True)
    _renamed(cluster, {"reed": BEFORE, RESTORING: "reed"})
    try:
        _answers_as_ours(cluster, "reed")
    except PhaseFailed:
        _renamed(cluster, {"reed": RESTORING, BEFORE: "reed"})
        raise
    _drop(cluster, BEFORE)


def check_backup(cluster: Cluster, file: Path) -> dict[str, int]:
    """The rows by table of an archive that can be restored: proved in a database beside, which is dropped."""
    rows = checked(file)
    _into(cluster, CHECKING, file, rows)
    _drop(cluster, CHECKING)
    return rows


def _into(cluster: Cluster, database: str, file: Path, rows: Mapping[str, int] | None) -> None:
    """Restore into a new database of that name; gone again where it does not answer as it should."""
    _refuse_foreign(cluster, file)
    _drop(cluster, database)
    cluster.run("psql", "-qXc", f"CREATE DATABASE {database} OWNER {OWNER}", database="postgres")
    try:
        cluster.run("pg_restore", "--exit-on-error", str(file.resolve()), database=database)
        _answers_as_ours(cluster, database)
        for table, promised in (rows or {}).items():
            came = cluster.run(
                "psql", "-XAtc", f'SELECT count(*) FROM "{table}"', database=database
            )
            if int(came) != promised:
                words = f"{table} came back with {came.strip()} rows, {promised} were backed up."
                raise PhaseFailed(f"{words} The database is as it was.")
    except PhaseFailed:
        _drop(cluster, database)
        raise


def _drop(cluster: Cluster, name: str) -> None:
    sql = f"DROP DATABASE IF EXISTS {name} WITH (FORCE)"
    cluster.run("psql", "-qXc", sql, database="postgres")


def _refuse_foreign(cluster: Cluster, file: Path) -> None:
    """Look at the list of what the archive holds before anything is made of it."""
    held = cluster.run("pg_restore", "--list", str(file.resolve()), connect=False)
    missing = [table for table in OURS if f" TABLE public {table} " not in held]
    if missing:
        raise PhaseFailed(
            f"{file} is no backup of Still Reed: it holds no table {missing[0]}. "
            "The database is as it was."
        )


def _answers_as_ours(cluster: Cluster, database: str) -> None:
    """The tables are read, and this release can go on from them."""
    for table in OURS:
        cluster.run("psql", "-XAtc", f"SELECT count(*) FROM {table}", database=database)
    check_tables(cluster, database, "The backup")


def _renamed(cluster: Cluster, names: dict[str, str]) -> None:
    """Databases under other names, all in one transaction."""
    for name in names:
        ended = (
            "SELECT pg_terminate_backend(pid) FROM pg_stat_activity "
            f"WHERE datname = '{name}' AND pid <> pg_backend_pid()"
        )
        cluster.run("psql", "-qXAtc", ended, database="postgres")
    renames = "".join(f"ALTER DATABASE {old} RENAME TO {new};\n" for old, new in names.items())
    sql = f"BEGIN;\n{renames}COMMIT;"
    cluster.run("psql", "-qX", "-v", "ON_ERROR_STOP=1", database="postgres", feed=sql)
