"""The live wire against the real handler and the real database."""

import asyncio
import struct
import uuid

import pytest

from lab.simulate.voice import Voice, sing
from tests.conftest import NOW
from tests.factories.live import Wire, sing_into, start_of
from web.clients.usecases.link import revoke_links
from web.practice.models import Attempt

pytestmark = pytest.mark.django_db(transaction=True)


def test_a_hold_is_measured_as_it_happens_and_kept(home, version):
    sung = sing(Voice(f0_hz=233.08, seconds=2.0))
    start = start_of(home, version)

    async def talk():
        async with Wire() as wire:
            await wire.say(**start)
            assert (await wire.hear())["type"] == "started"
            states = await sing_into(wire, sung.samples)
            await wire.say(type="stop", samples=len(sung.samples))
            return states, await wire.hear()

    states, kept = asyncio.run(talk())
    assert (kept["type"], kept["status"]) == ("kept", "kept")
    assert states[-1]["hold_s"] == pytest.approx(sung.hold_s, abs=0.06)
    row = Attempt.objects.get(pk=start["attempt_id"])
    assert row.taken == "live"
    assert row.seconds == pytest.approx(sung.hold_s, abs=0.02)


def test_missing_samples_ask_for_the_whole_and_keep_nothing_yet(home, version):
    sung = sing(Voice(f0_hz=233.08, seconds=1.0))

    async def talk():
        async with Wire() as wire:
            await wire.say(**start_of(home, version))
            await wire.hear()
            await sing_into(wire, sung.samples, lose=10)
            await wire.say(type="stop", samples=len(sung.samples))
            return await wire.hear()

    assert asyncio.run(talk())["type"] == "send_wav"
    assert not Attempt.objects.exists()


def closed_with(*frames):
    async def talk():
        async with Wire() as wire:
            for frame in frames:
                if isinstance(frame, bytes):
                    await wire.frame(bytes=frame)
                elif isinstance(frame, str):
                    await wire.frame(text=frame)
                else:
                    await wire.say(**frame)
            while (heard := await wire.hear())["type"] != "closed":
                pass
            return heard["code"]

    return asyncio.run(talk())


def test_refusals_are_4400_codes(home, version):
    start = start_of(home, version)
    assert closed_with(start | {"ticket": "made up"}) == 4401
    assert closed_with(start | {"step_id": str(uuid.uuid4())}) == 4403
    assert closed_with(start | {"attempt_id": "x"}) == 4400
    assert closed_with(start | {"rate_hz": "fast"}) == 4400
    assert closed_with(start | {"rate_hz": 3_000}) == 4413
    assert closed_with("no json") == 4400
    assert closed_with({"type": "dance"}) == 4400
    assert closed_with(start, struct.pack("<I", 0) + b"\0") == 4400
    assert closed_with(start, struct.pack("<I", 0) + b"\0" * 400_000) == 4400


def test_a_revoked_link_is_told_4401_and_the_hold_can_still_be_sent(home, version, person):
    revoke_links(person, now=NOW)
    assert closed_with(start_of(home, version)) == 4401


def test_the_newest_takes_a_step_over_from_a_connection_that_may_be_dead(home, version):
    sung = sing(Voice(f0_hz=233.08, seconds=1.0))
    newer = start_of(home, version)

    async def talk():
        async with Wire() as old, Wire() as new:
            await old.say(**start_of(home, version))
            await old.hear()
            await new.say(**newer)
            started = await new.hear()
            await old.piece(0, sung.samples[:800])
            closed = await old.hear()
            await sing_into(new, sung.samples)
            await new.say(type="stop", samples=len(sung.samples))
            return started, closed, await new.hear()

    started, closed, kept = asyncio.run(talk())
    assert started["type"] == "started"
    assert closed == {"type": "closed", "code": 4409}
    assert (kept["status"], kept["attempt_id"]) == ("kept", newer["attempt_id"])


def test_a_full_server_says_so(home, version, settings):
    settings.MOST_STREAMS = 0
    assert closed_with(start_of(home, version)) == 4429


def test_a_foreign_origin_is_turned_away(home):
    async def talk():
        return await Wire(origin="http://elsewhere.example").connect()

    assert asyncio.run(talk()) is False
