"""A fresh cluster, migrated by the command itself, with the whole demo."""

import os
import subprocess

import pytest

from ops.phases import RUN
from ops.postgres import FAST_AND_LOOSE, Cluster, free_port
from ops.site import Site


@pytest.fixture
def site():
    cluster = Cluster(RUN / f"pg-demo-{os.getpid()}", FAST_AND_LOOSE)
    cluster.start()
    yield Site(cluster=cluster, port=free_port(), today="2026-06-15")
    cluster.stop()
    subprocess.run(["rm", "-rf", str(cluster.folder)], check=True)


def test_the_whole_demo_is_loaded_once(site):
    site.migrate()
    first = site.load_demo()
    second = site.load_demo()
    assert first == second
    assert "performed anew" not in first, "the demo changed: run ./reed takes"
    assert "una@harrow-quay.example" in first
    ask = site.cluster.ask
    assert ask("SELECT count(*) FROM clients_client") == "24"
    assert ask("SELECT count(DISTINCT clinician_id) FROM clients_client") == "2"
    assert int(ask("SELECT count(*) FROM practice_attempt")) > 5_000
    assert int(ask("SELECT count(*) FROM review_caseloadrow WHERE stop_sign <> ''")) == 1
    ahead = "SELECT count(*) FROM practice_homesession WHERE practice_day > '2026-06-15'"
    assert ask(ahead) == "0"
