"""A backup one can trust: its manifest, the proof that it can be restored, time travel with PostgreSQL's own means."""

import json
import os
import stat
import subprocess
import time

import pytest

from ops.backup import write_backup
from ops.manifest import beside, checked, rows_in
from ops.phases import RUN, PhaseFailed
from ops.postgres import FAST_AND_LOOSE, Cluster, free_port, tool_at
from ops.restore import check_backup, read_backup
from tests.factories.cluster import ask


@pytest.fixture(scope="module")
def cluster(with_tables):
    made = Cluster(RUN / f"pg-backup-{os.getpid()}", FAST_AND_LOOSE)
    made.start()
    with_tables(made)
    ask(made, "CREATE TABLE odd AS SELECT E'a\\n\\\\.\\nb' AS words FROM generate_series(1, 3)")
    yield made
    made.stop()
    subprocess.run(["rm", "-rf", str(made.folder)], check=True)


@pytest.fixture
def archive(cluster, tmp_path):
    file = tmp_path / "all.backup"
    write_backup(cluster, file)
    return file


def test_a_manifest_stands_beside_it_and_counts_what_is_in_the_archive(cluster, archive):
    manifest = json.loads(beside(archive).read_text())
    migrations = int(ask(cluster, "SELECT count(*) FROM django_migrations"))
    assert manifest["rows"]["django_migrations"] == migrations
    # rows whose text looks like the end of a table are rows all the same
    assert manifest["rows"]["odd"] == 3
    assert manifest["rows"]["practice_attempt"] == 0
    assert manifest["bytes"] == archive.stat().st_size
    for path in (archive, beside(archive)):
        assert stat.S_IMODE(path.stat().st_mode) == 0o600


def test_a_good_archive_is_proved_beside_the_database_and_leaves_nothing(cluster, archive):
    assert check_backup(cluster, archive)["odd"] == 3
    names = cluster.run("psql", "-XAtc", "SELECT datname FROM pg_database", database="postgres")
    assert set(names.split()) <= {"postgres", "template0", "template1", "reed"}


def changed(archive):
    data = bytearray(archive.read_bytes())
    data[len(data) // 2] ^= 0xFF
    archive.write_bytes(data)


def cut(archive):
    archive.write_bytes(archive.read_bytes()[:-200])


def without(archive):
    beside(archive).unlink()


def no_json(archive):
    beside(archive).write_text("{")


def of_tomorrow(archive):
    said = json.loads(beside(archive).read_text())
    beside(archive).write_text(json.dumps({**said, "format": "still-reed-backup/9"}))


@pytest.mark.parametrize(
    ("breaks", "words"),
    [
        (changed, "digest differs"),
        (cut, "digest differs"),
        (without, "is not there"),
        (no_json, "cannot be read as a manifest"),
        (of_tomorrow, "still-reed-backup/9"),
    ],
)
def test_what_is_not_what_was_backed_up_is_told_and_nothing_restored(
    cluster, archive, breaks, words
):
    breaks(archive)
    with pytest.raises(PhaseFailed, match=words):
        check_backup(cluster, archive)
    assert ask(cluster, "SELECT count(*) FROM odd") == "3"


def test_rows_that_did_not_come_back_refuse_the_restore(cluster, archive):
    promised = {**checked(archive), "odd": 4}
    with pytest.raises(PhaseFailed, match="odd came back with 3 rows, 4 were backed up"):
        read_backup(cluster, archive, rows=promised)
    assert ask(cluster, "SELECT count(*) FROM odd") == "3"


def test_no_archive_has_no_rows(tmp_path):
    file = tmp_path / "none.backup"
    file.write_bytes(b"no archive")
    with pytest.raises(PhaseFailed, match="cannot be read as an archive"):
        rows_in(file)


def test_a_moment_between_two_backups_comes_back(tmp_path_factory):
    """As docs/running.md says it: archived write-ahead log, a base backup, a recovery target time."""
    folder = RUN / f"pg-moment-{os.getpid()}"
    logs = RUN / f"wal-{os.getpid()}"
    logs.mkdir(parents=True)
    if os.geteuid() == 0:
        subprocess.run(["chown", "postgres", str(logs)], check=True)
    archiving = f'-c archive_mode=on -c "archive_command=test ! -f {logs}/%f && cp %p {logs}/%f"'
    first = Cluster(folder, f"-c wal_level=replica -c fsync=off {archiving}")
    second = Cluster(RUN / f"pg-after-{os.getpid()}", "-c fsync=off")
    try:
        first.start()
        ask(first, "CREATE TABLE kept (words text)")
        taken = first.folder / "base"
        first.run(
            "pg_basebackup", "--pgdata", str(taken), "--wal-method=stream", "--checkpoint=fast"
        )
        ask(first, "INSERT INTO kept VALUES ('before')")
        moment = ask(first, "SELECT clock_timestamp()")
        ask(first, "DELETE FROM kept")
        ask(first, "SELECT pg_switch_wal()")
        until(
            lambda: ask(first, "SELECT last_archived_wal IS NOT NULL FROM pg_stat_archiver") == "t"
        )
        first.stop()
        subprocess.run(["cp", "-a", str(first.folder), str(second.folder)], check=True)
        subprocess.run(["rm", "-rf", str(second.data)], check=True)
        (second.folder / "base").rename(second.data)
        settings = (
            f"restore_command = 'cp {logs}/%f %p'\nrecovery_target_time = '{moment}'\n"
            "recovery_target_action = 'promote'\n"
        )
        with (second.data / "postgresql.auto.conf").open("a") as file:
            file.write(settings)
        (second.data / "recovery.signal").touch()
        if os.geteuid() == 0:
            subprocess.run(["chown", "-R", "postgres:postgres", str(second.data)], check=True)
        (second.folder / "port").write_text(str(free_port()))
        second.start()
        until(lambda: ask(second, "SELECT pg_is_in_recovery()") == "f")
        assert ask(second, "SELECT words FROM kept") == "before"
    finally:
        for one in (first, second):
            one.stop()
            subprocess.run(["rm", "-rf", str(one.folder)], check=True)
        subprocess.run(["rm", "-rf", str(logs)], check=True)


def until(true, *, within_s=120.0):
    end = time.monotonic() + within_s
    while not true():
        assert time.monotonic() < end, f"not within {within_s} s"


def test_the_tools_are_those_of_debian():
    assert tool_at("pg_restore").endswith("pg_restore")
    with pytest.raises(PhaseFailed):
        tool_at("pg_nothing")
