"""Clusters of the ops tests get their tables from this process's copy of the template: migrating each anew took most
of their time. `test_demo_loads.py` migrates a fresh one."""

import os

import pytest
from django.db import connection

from ops.phases import RUN
from ops.postgres import Cluster
from ops.site import digest_of_tables


@pytest.fixture(scope="session")
def _tables(django_db_setup, tmp_path_factory):
    file = tmp_path_factory.mktemp("tables") / "empty.dump"
    Cluster(RUN / "pg-test").run(
        "pg_dump",
        "--format=custom",
        f"--file={file}",
        database=connection.settings_dict["NAME"],
    )
    os.chmod(file, 0o644)
    return file


@pytest.fixture(scope="session")
def with_tables(_tables):
    """Put the tables of this release into an empty cluster, as `Site.migrate` would have."""

    def put(cluster):
        cluster.run("pg_restore", "--exit-on-error", str(_tables))
        (cluster.folder / "migrated").write_text(digest_of_tables())

    return put
