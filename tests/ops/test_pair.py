"""A primary and its synchronous standby, two clusters on loopback: what was confirmed is there whoever fails."""

import os
import shutil
import signal
import subprocess
import threading

import pytest

from ops.pair import Pair, Watch, all_confirmed_stand_in_both
from ops.phases import RUN, PhaseFailed
from ops.postgres import FOLLOWS, SENDS, Cluster

PAUSE = threading.Event()


def kill(cluster):
    os.kill(cluster.postmaster, signal.SIGKILL)
    while cluster.running():
        PAUSE.wait(0.05)


def until(true, within_s=120.0):
    for _ in range(int(within_s / 0.1)):
        if true():
            return
        PAUSE.wait(0.1)
    raise AssertionError("it did not come to that")


class Watched:
    """A pair with its watch; `said`: what it told whoever runs the site."""

    def __init__(self, pair, state):
        self.pair, self.said = pair, []
        self.state = state
        self.watch = Watch(pair.primary, self.said.append, state)

    def until(self, how):
        until(lambda: self.watch.look() == how)


@pytest.fixture
def watched(tmp_path):
    folders = [RUN / f"pg-pair-{os.getpid()}-{name}" for name in ("a", "b")]
    pair = Pair(*(Cluster(folder, f"{SENDS} {FOLLOWS}") for folder in folders))
    pair.primary.start()
    pair.make_standby()
    pair.primary.ask("CREATE TABLE kept (number int PRIMARY KEY)")
    both = Watched(pair, tmp_path / "state.json")
    both.until("together")
    yield both
    for folder in folders:
        cluster = Cluster(folder)
        if cluster.data.exists():
            cluster.stop()
        shutil.rmtree(folder, ignore_errors=True)


def writing(cluster, confirmed, ended):
    """Writes numbers one after the other; those that were confirmed stand in `confirmed`."""
    for number in range(100_000):
        if ended.is_set():
            return
        try:
            cluster.ask(f"INSERT INTO kept VALUES ({number})")
        except PhaseFailed:
            return
        confirmed.append(number)


def test_the_primary_is_killed_and_what_it_confirmed_stands_in_the_promoted_standby(watched):
    pair, confirmed, ended = watched.pair, [], threading.Event()
    writer = threading.Thread(target=writing, args=(pair.primary, confirmed, ended))
    writer.start()
    until(lambda: len(confirmed) > 15)
    kill(pair.primary)
    writer.join(20)
    assert all_confirmed_stand_in_both(watched.state)
    after = pair.promote()
    there = set(after.primary.ask("SELECT number FROM kept").split())
    assert {str(number) for number in confirmed} <= there
    assert len(there) <= len(confirmed) + 1
    after.primary.ask("INSERT INTO kept VALUES (-1)")

    # who comes back alone confirms nothing: nobody takes it for the one that goes on
    pair.primary.start_as_it_is()
    hung = subprocess.Popen(
        ["psql", "-Xqc", "INSERT INTO kept VALUES (-2)", pair.primary.url("reed_owner")]
    )
    with pytest.raises(subprocess.TimeoutExpired):
        hung.wait(2.0)
    hung.kill()
    hung.wait()
    pair.primary.stop()

    # and it follows the new one when it is made its standby
    after.make_standby()
    new = Watched(after, watched.state)
    new.until("together")
    after.primary.ask("INSERT INTO kept VALUES (-3)")
    until(lambda: "-3" in after.standby.ask("SELECT number FROM kept").split())
    assert "-2" not in after.standby.ask("SELECT number FROM kept").split()


@pytest.mark.parametrize("lost", ["killed", "frozen"])
def test_a_lost_standby_is_told_and_the_primary_goes_on_alone_until_it_has_caught_up(watched, lost):
    pair = watched.pair
    if lost == "killed":
        kill(pair.standby)
    else:
        pair.standby.freeze()
    try:
        hung = threading.Thread(target=pair.primary.ask, args=("INSERT INTO kept VALUES (1)",))
        hung.start()
        watched.until("alone")
        hung.join(10)
        assert not hung.is_alive()
        assert watched.said[-1] == "The database goes on without a standby."
        assert not all_confirmed_stand_in_both(watched.state)
        pair.primary.ask("INSERT INTO kept VALUES (2)")
    finally:
        if lost == "frozen":
            pair.standby.thaw()
    pair.standby.start()
    watched.until("together")
    assert watched.said[-1] == "The standby follows: what is confirmed stands in both."
    pair.primary.ask("INSERT INTO kept VALUES (3)")
    until(lambda: pair.standby.ask("SELECT count(*) FROM kept") == "3")


def test_a_database_that_was_started_again_may_confirm_alone_and_nothing_says_otherwise(watched):
    pair = watched.pair
    pair.primary.state.write_text(watched.state.read_text())
    assert all_confirmed_stand_in_both(pair.primary.state)
    kill(pair.primary)
    pair.primary.start()
    assert pair.primary.ask("SHOW synchronous_standby_names") == ""
    assert not all_confirmed_stand_in_both(pair.primary.state)
    watched.until("together")


def test_a_standby_is_not_promoted_while_its_primary_runs(watched):
    with pytest.raises(PhaseFailed, match="still runs"):
        watched.pair.promote()
    assert watched.pair.standby.follows
