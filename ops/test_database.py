"""The database the tests start from: migrated once, then copied for every process of a test run."""

import os

from ops.environment import PYTHON
from ops.phases import call, phase
from ops.postgres import OWNER, Cluster
from ops.site import digest_of_tables

_MADE = "tests_start_from_"
_COPIES = "tests_of_"


def template_of(cluster: Cluster, env: dict[str, str]) -> str:
    """Name of a database with every table and nothing in it; made anew where a migration, a grant or a
    package changed since. Copies that an interrupted run left behind are dropped."""
    name = f"{_MADE}{digest_of_tables()[:12]}"
    there = cluster.ask("SELECT datname FROM pg_database", database="postgres").split()
    for old in there:
        if old.startswith((_MADE, _COPIES)) and old != name:
            cluster.ask(f'DROP DATABASE "{old}" WITH (FORCE)', database="postgres")
    if name not in there:
        with phase("tables of the tests"):
            _make(cluster, name, env)
    return name


def copy_name(worker: str) -> str:
    """Name of the copy that one process of a test run works on."""
    return f"{_COPIES}{worker}"


def _make(cluster: Cluster, name: str, env: dict[str, str]) -> None:
    half = f"{name}_half"
    cluster.ask(f'DROP DATABASE IF EXISTS "{half}"', database="postgres")
    cluster.ask(f'CREATE DATABASE "{half}" OWNER {OWNER}', database="postgres")
    call(
        [str(PYTHON), "-m", "django", "migrate", "--verbosity=0"],
        todo="The lines above say what is wrong.",
        env={**os.environ, **env, "REED_DATABASE_URL": cluster.url(OWNER, half)},
    )
    cluster.ask(f'ALTER DATABASE "{half}" RENAME TO "{name}"', database="postgres")
