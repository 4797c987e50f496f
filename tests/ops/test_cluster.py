"""The private cluster, the demo and the backup, on PostgreSQL of their own."""

import json
import os
import signal
import subprocess
import sys
import threading
import urllib.error
import urllib.request
from pathlib import Path

import pytest

from ops.backup import write_backup
from ops.bench import live_against
from ops.phases import ROOT, RUN, PhaseFailed
from ops.postgres import APPLICATION, FAST_AND_LOOSE, Cluster, free_port
from ops.restore import read_backup
from ops.site import Site, end
from tests.factories.cluster import ask


@pytest.fixture(scope="module")
def cluster(with_tables):
    made = Cluster(RUN / f"pg-ops-{os.getpid()}", FAST_AND_LOOSE)
    made.start()
    with_tables(made)
    yield made
    made.stop()
    subprocess.run(["rm", "-rf", str(made.folder)], check=True)


def postmaster(cluster):
    return int((cluster.data / "postmaster.pid").read_text().split()[0])


def test_after_a_kill_it_starts_again_with_its_data(cluster):
    ask(cluster, "CREATE TABLE kept AS SELECT 41 + 1 AS answer")
    ask(cluster, "CHECKPOINT")
    killed = postmaster(cluster)
    os.kill(killed, signal.SIGKILL)
    gone = threading.Event()
    while os.path.exists(f"/proc/{killed}/cmdline") and cluster.running():
        gone.wait(0.05)
    cluster.start()
    assert ask(cluster, "SELECT answer FROM kept") == "42"
    ask(cluster, "DROP TABLE kept")


def test_a_pid_that_belongs_to_something_else_is_not_the_server(cluster):
    cluster.stop()
    (cluster.data / "postmaster.pid").write_text(f"{os.getpid()}\n")
    assert not cluster.running()
    cluster.start()
    assert cluster.running()
    cluster.start()
    assert ask(cluster, "SELECT 1") == "1"


def test_it_listens_on_loopback_only_and_wants_a_password(cluster):
    assert ask(cluster, "SHOW listen_addresses") == "127.0.0.1"
    wrong = cluster.url(APPLICATION).replace(":", ":x", 2)
    with pytest.raises(PhaseFailed):
        cluster.run("psql", "-XAtc", "SELECT 1", database="no_such_database")
    refused = subprocess.run(
        ["psql", wrong, "-c", "SELECT 1"], capture_output=True, check=False, text=True
    )
    assert refused.returncode != 0


NOT_KEPT = ["--exclude-table=django_session", "--exclude-table=practice_heardsound"]
DUMP = ["--data-only", "--inserts", *NOT_KEPT]
SOUNDS = "SELECT count(*) FROM practice_heardsound"


def dump(cluster):
    lines = cluster.run("pg_dump", *DUMP).splitlines()
    return sorted(line for line in lines if line.startswith("INSERT"))


PEOPLE = ("Maren Tidewell", "Alwin Prewett")


def test_a_backup_brings_everything_back_but_the_sounds(cluster, tmp_path):
    site = Site(cluster=cluster, port=free_port(), today="2026-06-15")
    site.load_demo(only=PEOPLE)
    before = dump(cluster)
    assert int(ask(cluster, SOUNDS)) > 0
    file = tmp_path / "everything.backup"
    write_backup(cluster, file)
    assert oct(file.stat().st_mode & 0o777) == "0o600"
    ask(cluster, "TRUNCATE practice_attempt CASCADE")
    ask(cluster, "UPDATE clients_client SET name = 'changed'")
    assert dump(cluster) != before
    read_backup(cluster, file)
    assert dump(cluster) == before
    # promised to be erased after 30 days: an archive must not keep them
    assert ask(cluster, SOUNDS) == "0"


def test_the_live_benchmark_runs_over_the_demo(cluster, capfd):
    site = Site(cluster=cluster, port=free_port(), today="2026-06-15")
    site.load_demo(only=PEOPLE)
    assert live_against(site, streams=2, seconds=4.0, spread_s=0.5) == 0
    head, _line, row = capfd.readouterr().out.splitlines()[-3:]
    cells = ([cell.strip() for cell in line.split("|")[1:-1]] for line in (head, row))
    told = dict(zip(*cells, strict=True))
    assert (told["processes"], told["streams"], told["refused"]) == ("1", "2", "0")


def get(address):
    try:
        with urllib.request.urlopen(address, timeout=10) as answer:
            return answer.status, answer.read().decode()
    except urllib.error.HTTPError as error:
        return error.code, error.read().decode()


def ticket_for(site):
    """A ticket signed with the served site's own key."""
    script = (
        "import django; django.setup()\n"
        "from web.measuring.tickets import Ticket\n"
        "import uuid\n"
        "ids = [str(uuid.uuid4()) for _ in range(4)]\n"
        "print(Ticket(purpose='practice', clinic=ids[0], client=ids[1], holder=ids[2],"
        " sitting=ids[3], issued_at='2026-06-15T08:00:00+00:00').signed())"
    )
    env = site.environment(APPLICATION)
    command = [sys.executable, "-c", script]
    return subprocess.run(
        command, env=env, capture_output=True, text=True, check=True
    ).stdout.strip()


def test_with_the_database_down_pages_say_503_and_come_back(cluster):
    site = Site(cluster=cluster, port=free_port(), today="2026-06-15")
    site.migrate()
    server = site.serve()
    try:
        link = "6f0c1b52-8f0e-4d3f-9a55-0d4a1f2f7a11"
        assert get(f"{site.address}/c/{link}/")[0] == 200
        cluster.stop()
        assert get(f"{site.address}/healthz")[0] == 200
        assert get(f"{site.address}/readyz")[0] == 503
        entry = urllib.request.Request(
            f"{site.address}/entries/6f0c1b52-8f0e-4d3f-9a55-0d4a1f2f7a11/",
            data=b'{"kind": "stop", "value": "pain"}',
            method="PUT",
            headers={"X-Ticket": ticket_for(site), "Content-Type": "application/json"},
        )
        status, words = get(entry)
        assert status == 503
        assert "What is on this page is kept" in words
        cookie = {"Cookie": "sessionid=abcdefghijklmnopqrstuvwxyz012345"}
        status, page = get(urllib.request.Request(f"{site.address}/rounds/", headers=cookie))
        assert status == 503
        assert "stays there" in page
        cluster.start()
        assert get(f"{site.address}/readyz")[0] == 200
    finally:
        end(server)
        cluster.start()


def refused(cluster, file):
    with pytest.raises(PhaseFailed) as said:
        read_backup(cluster, file)
    assert (cluster.folder / "reed_owner.secret").read_text().strip() not in str(said.value)
    assert ask(cluster, "SELECT here FROM still") == "7"
    names = cluster.run("psql", "-XAtc", "SELECT datname FROM pg_database", database="postgres")
    assert "reed_restoring" not in names
    return str(said.value)


def test_an_archive_that_is_not_ours_leaves_the_database_as_it_was(cluster, tmp_path):
    Site(cluster=cluster, port=free_port(), today="2026-06-15").migrate()
    ask(cluster, "CREATE TABLE still AS SELECT 7 AS here")
    broken = tmp_path / "broken.backup"
    broken.write_bytes(b"PGDMP but no archive")
    refused(cluster, broken)
    cluster.run("psql", "-qXc", "CREATE DATABASE other", database="postgres")
    cluster.run("psql", "-qXc", "CREATE TABLE django_migrations AS SELECT 1", database="other")
    foreign = tmp_path / "foreign.backup"
    cluster.run("pg_dump", "--format=custom", f"--file={foreign}", database="other")
    assert "no backup of Still Reed" in refused(cluster, foreign)
    newer = tmp_path / "newer.backup"
    ask(
        cluster,
        "INSERT INTO django_migrations (app, name, applied)"
        " VALUES ('practice', '0999_of_tomorrow', now())",
    )
    write_backup(cluster, newer)
    ask(cluster, "DELETE FROM django_migrations WHERE name = '0999_of_tomorrow'")
    assert "newer release: it knows practice 0999_of_tomorrow" in refused(cluster, newer)


def test_no_password_is_printed_or_listed_when_a_tool_fails(cluster):
    with pytest.raises(PhaseFailed) as failed:
        cluster.run("psql", "-XAtc", "SELECT 1", database="no_such_database")
    for role in ("reed_owner", "reed_app"):
        assert cluster.secret(role) not in str(failed.value)
    shown = cluster.run("psql", "-qXAt", feed="\\! ps -ww -eo args\n")
    assert "psql" in shown
    assert cluster.secret("reed_owner") not in shown


FORMER = Path(__file__).parent / "former"


def looked_at(cluster, name):
    """What every page and a practice of a restored backup of a former version show."""
    site = Site(cluster=cluster, port=free_port(), today="2026-06-15")
    site.migrate()
    read_backup(cluster, FORMER / name)
    site.migrate()
    command = [sys.executable, str(FORMER / "looked_at.py")]
    env = site.environment(APPLICATION) | {"PYTHONPATH": str(ROOT)}
    done = subprocess.run(command, env=env, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stderr[-2000:]
    return json.loads(done.stdout.splitlines()[-1])


def test_a_backup_of_release_0_6_goes_on_as_it_was(cluster):
    seen = looked_at(cluster, "release_0_6.backup")
    # 103 home sessions and 1,300 attempts were in it when it was written
    assert (seen["sessions"], seen["attempts"], seen["rounds"]) == (103, 1300, 200)
    assert set(seen["clients"]) == {"Maren Tidewell", "Nell Harbottle", "Jory Penhale"}
    for name, one in seen["clients"].items():
        assert one["pages"] == [200, 200, 200], name
        assert (one["stored"], one["written"]) == (4, 4), name
        assert one["kept"]["status"] == "kept", name
    assert seen["library"] == 200


def test_an_older_backup_says_which_release_to_install_first(cluster):
    before = dump(cluster)
    with pytest.raises(PhaseFailed, match=r"release before 0\.6\.0.*Install release 0\.6\.0"):
        read_backup(cluster, FORMER / "program_format_3.backup")
    assert dump(cluster) == before


def test_a_database_of_an_older_release_is_not_migrated(cluster):
    site = Site(cluster=cluster, port=free_port(), today="2026-06-15")
    site.migrate()
    ask(cluster, "DELETE FROM django_migrations WHERE name = '0014_note_entries'")
    (cluster.folder / "migrated").unlink()
    try:
        with pytest.raises(PhaseFailed, match=r"Install release 0\.6\.0"):
            site.migrate()
    finally:
        ask(
            cluster,
            "INSERT INTO django_migrations (app, name, applied) VALUES ('review', '0014_note_entries', now())",
        )
        site.migrate()


def denied(cluster, sql):
    """Whether the application's role may not do that."""
    try:
        cluster.run("psql", "-Xqc", sql, role=APPLICATION)
    except PhaseFailed as refused:
        assert "permission denied" in str(refused), str(refused)
        return True
    return False


def test_the_application_changes_and_takes_away_nothing_that_is_history(cluster):
    tables = cluster.run(
        "psql", "-XAtc", "SELECT tablename FROM pg_tables WHERE schemaname = 'public'"
    ).split()
    records = ("clients_", "measuring_", "programs_", "practice_", "review_decision", "clinic_")
    passing = ("practice_heardsound", "clinic_shared_cache", "clinic_user_")
    passing += ("measuring_openattempt", "measuring_serverprocess")
    for table in tables:
        if table.startswith(records) and not table.startswith(passing):
            assert denied(cluster, f"DELETE FROM {table}"), table
            assert denied(cluster, f"TRUNCATE {table}"), table
    for column in ("practice_day", "started_at", "client_id", "version_id", "routine", "clock"):
        sql = f"UPDATE practice_homesession SET {column} = {column}"
        assert denied(cluster, sql), column
    assert not denied(cluster, "UPDATE practice_homesession SET effort = effort")
    for table in ("practice_attempt", "practice_entry", "measuring_measurement"):
        assert denied(cluster, f"UPDATE {table} SET clinic_id = clinic_id"), table
    assert not denied(cluster, "DELETE FROM practice_heardsound")


@pytest.mark.parametrize("cert", [None, Path("a.pem")])
def test_cookies_are_secure_where_the_site_is(cluster, cert):
    site = Site(cluster=cluster, port=free_port(), cert=cert)
    script = "from django.conf import settings as s; print(s.SESSION_COOKIE_SECURE, s.CSRF_COOKIE_SECURE)"
    env = site.environment(APPLICATION)
    said = subprocess.run(
        [sys.executable, "-c", script],
        env=env,
        cwd=ROOT,
        capture_output=True,
        text=True,
        check=True,
    )
    assert said.stdout.split() == [str(cert is not None)] * 2
