"""Two servers behind the balancer: one is killed, and nobody notices but for one resend."""

import asyncio
import json
import os
import signal
import struct
import subprocess
import threading
import urllib.error
import urllib.request
import uuid

import numpy as np
import pytest
from websockets.asyncio.client import connect
from websockets.exceptions import ConnectionClosed
from websockets.typing import Origin

from lab.load.live import send_whole
from lab.simulate.voice import Voice, sing
from ops import debian
from ops.phases import ROOT, RUN
from ops.postgres import APPLICATION, FAST_AND_LOOSE, Cluster, free_port
from ops.running import running
from ops.servers import Servers
from ops.site import Site

PIECE = 1_600
TODAY = "2026-06-15"


@pytest.fixture(scope="module")
def served(with_tables):
    """The demo's first client, served by two processes behind haproxy."""
    debian.install_missing(debian.BALANCER)
    cluster = Cluster(RUN / f"pg-servers-{os.getpid()}", FAST_AND_LOOSE)
    cluster.start()
    servers = Servers(Site(cluster=cluster, port=free_port(), today=TODAY), processes=2)
    try:
        with_tables(cluster)
        servers.site.load_demo(only=["Maren Tidewell"])
        servers.start()
        yield servers
    finally:
        servers.stop()
        cluster.stop()
        subprocess.run(["rm", "-rf", str(cluster.folder)], check=True)


def get(address):
    try:
        with urllib.request.urlopen(address, timeout=20) as answer:
            return answer.status, answer.read().decode()
    except urllib.error.HTTPError as error:
        return error.code, error.read().decode()


def begun(served):
    """A home session's ticket with a step of held notes, and an attempt in it."""
    (start,) = json.loads(served.site.manage("live_tickets", "1", role=APPLICATION))
    return {**start, "attempt_id": str(uuid.uuid4())}


def sung():
    sound = np.round(sing(Voice(f0_hz=196.0, seconds=1.5)).samples * 32767).astype("<i2")
    return [sound[at : at + PIECE].tobytes() for at in range(0, len(sound) - PIECE + 1, PIECE)]


def kept(served, attempt_id):
    sql = f"SELECT taken FROM practice_attempt WHERE id = '{attempt_id}'"
    return served.site.cluster.ask(sql).split()


def holder(served, attempt_id):
    """The number of the server process that holds an attempt."""
    sql = (
        "SELECT p.name FROM measuring_openattempt a JOIN measuring_serverprocess p ON p.id = a.process_id"
        f" WHERE a.attempt_id = '{attempt_id}'"
    )
    return served.ids.index(int(served.site.cluster.ask(sql).split()[-1]))


async def held(served, offer, pieces, meanwhile):
    """An attempt over the live wire; after its first pieces `meanwhile` happens. The kept answer, or None
    where the wire broke."""
    address = served.site.address
    try:
        async with connect(
            address.replace("http", "ws", 1) + "/live/", origin=Origin(address)
        ) as wire:
            await wire.send(json.dumps({**offer, "type": "start", "rate_hz": 16_000}))
            assert json.loads(await wire.recv())["type"] == "started"
            for number, piece in enumerate(pieces):
                await wire.send(struct.pack("<I", number) + piece)
                await wire.recv()
                if number == 3:
                    await asyncio.to_thread(meanwhile)
            await wire.send(json.dumps({"type": "stop", "samples": len(pieces) * PIECE}))
            return json.loads(await wire.recv())
    except ConnectionClosed:
        return None


def test_an_attempt_whose_server_is_killed_is_kept_by_the_other_once(served):
    offer, pieces = begun(served), sung()

    def kill_its_server():
        served.kill(holder(served, offer["attempt_id"]))

    assert asyncio.run(held(served, offer, pieces, kill_its_server)) is None
    assert kept(served, offer["attempt_id"]) == []
    assert send_whole(served.site.address, offer, pieces) == 201
    assert send_whole(served.site.address, offer, pieces) == 200
    assert kept(served, offer["attempt_id"]) == ["wav"]
    # who only reads does not notice at all
    assert [get(f"{served.site.address}/readyz")[0] for _ in range(8)] == [200] * 8
    served.restart_ended()
    newer = begun(served)
    assert asyncio.run(held(served, newer, pieces, lambda: None))["status"] == "kept"
    assert kept(served, newer["attempt_id"]) == ["live"]


def test_an_attempt_goes_on_while_the_other_server_is_killed(served):
    offer = begun(served)

    def kill_the_other():
        served.kill(1 - holder(served, offer["attempt_id"]))

    assert asyncio.run(held(served, offer, sung(), kill_the_other))["status"] == "kept"
    served.restart_ended()


def test_with_all_servers_gone_the_balancer_says_so_in_words(served):
    for number in (0, 1):
        served.kill(number)
    try:
        status, page = get(f"{served.site.address}/rounds/")
        assert status == 503
        assert "What is on a page is kept there" in page
        assert "call your clinic, or the emergency number" in page
        assert "does not replace, care by a licensed clinician" in page
    finally:
        served.restart_ended()
    pause = threading.Event()
    for _ in range(100):
        if get(f"{served.site.address}/readyz")[0] == 200:
            break
        pause.wait(0.1)
    assert get(f"{served.site.address}/readyz")[0] == 200


def test_a_server_that_ends_while_the_database_is_away_is_started_anew_all_the_same(served):
    served.site.cluster.stop()
    try:
        served.kill(0)
        served.restart_ended()
        assert get(f"{served.site.address}/healthz")[0] == 200
        assert get(f"{served.site.address}/readyz")[0] == 503
    finally:
        served.site.cluster.start()
    assert get(f"{served.site.address}/readyz")[0] == 200


def test_a_made_up_address_does_not_give_more_guesses_of_a_pin(served):
    link = served.site.cluster.ask("SELECT id FROM clients_clientaccess WHERE revoked_at IS NULL")
    page = f"{served.site.address}/c/{link}/"
    for number in range(3):
        opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor())
        with opener.open(page, timeout=20) as answer:
            token = (
                answer.read().decode().split('name="csrfmiddlewaretoken" value="')[1].split('"')[0]
            )
        guess = urllib.request.Request(
            page,
            data=f"pin=000000&csrfmiddlewaretoken={token}".encode(),
            headers={"X-Forwarded-For": f"10.0.0.{number}", "Referer": page},
        )
        with pytest.raises(urllib.error.HTTPError) as refused:
            opener.open(guess, timeout=20)
        assert refused.value.code == 403
    tries = served.site.cluster.ask(
        "SELECT count(*), sum(wrong) FROM clients_linktry WHERE wrong > 0"
    )
    assert tries == "1|3"


def test_ids_that_are_not_ours_are_left_alone(tmp_path, monkeypatch):
    from ops import running as noted

    other = subprocess.Popen(["sleep", "60"], cwd=ROOT)
    try:
        monkeypatch.setattr(noted, "_IDS", tmp_path / "ids")
        noted.remember([other.pid, 999_999_999])
        assert running() == []
        assert noted.end_leftover() is False
        assert other.poll() is None
    finally:
        other.send_signal(signal.SIGKILL)
        other.wait()
