"""Which tables this release can go on from: its own, and those of the release whose migrations it replaced."""

import ast
from collections.abc import Iterable
from functools import cache
from pathlib import Path

from ops.phases import ROOT, PhaseFailed
from ops.postgres import Cluster

LAST_BEFORE = "0.6.0"
"""The release whose tables the squashed migrations begin with; older ones are brought up to it first."""

Step = tuple[str, str]
"""A migration by its app and its name."""


def check_tables(cluster: Cluster, database: str, what: str) -> None:
    """Nothing where this release can go on from the tables of a database, or there are none yet.

    what: how the database is called in the message. PhaseFailed for tables of a newer release, and for
    those of a release before LAST_BEFORE.
    """
    there = set(_applied(cluster, database))
    own = {step for step in there if step[0] in {app for app, _name in _shipped()}}
    newer = sorted(own - _shipped() - _replaced())
    if newer:
        raise PhaseFailed(
            f"{what} was written by a newer release: it knows {' '.join(newer[0])}. Update Still Reed first. "
            "The database is as it was."
        )
    if own & _replaced() and not own >= _replaced():
        raise PhaseFailed(
            f"{what} was written by a release before {LAST_BEFORE}. Install release {LAST_BEFORE}, restore or start "
            "it there once, write a new backup, and use that one. The database is as it was."
        )


def _applied(cluster: Cluster, database: str) -> Iterable[Step]:
    if not cluster.ask("SELECT to_regclass('django_migrations')", database=database):
        return
    for row in cluster.ask("SELECT app, name FROM django_migrations", database=database).split():
        app, name = row.split("|")
        yield app, name


@cache
def _shipped() -> frozenset[Step]:
    return frozenset((path.parent.parent.name, path.stem) for path in _files())


@cache
def _replaced() -> frozenset[Step]:
    """What the migrations say they replace, read without running them."""
    found: set[Step] = set()
    for path in _files():
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, ast.Assign) and ast.unparse(node.targets[0]) == "replaces":
                found |= {(app, name) for app, name in ast.literal_eval(node.value)}
    return frozenset(found)


def _files() -> list[Path]:
    return sorted((ROOT / "web").glob("*/migrations/0*.py"))
