"""Steps that are being held, seen by two processes of the server over one database."""

import asyncio
import uuid
from datetime import timedelta

import pytest
from django.db.models.functions import Now

from lab.simulate.voice import Voice, sing
from tests.factories.live import Wire, sing_into, start_of
from web.measuring.models import OpenAttempt, ServerProcess
from web.measuring.sinks import Refused
from web.measuring.usecases.open_attempts import StreamPlace, ThisProcess, this_process
from web.practice.models import Attempt

HERE = StreamPlace(str(uuid.uuid4()), "humming")


def place():
    return StreamPlace(str(uuid.uuid4()), "humming")


def new_id():
    return str(uuid.uuid4())


@pytest.fixture
def two(db):
    return ThisProcess(), ThisProcess()


def test_the_newest_takes_over_from_another_process_within_a_pulse(two):
    one, other = two
    first, second = new_id(), new_id()
    one.claim(HERE, first)
    other.claim(HERE, second)
    with pytest.raises(Refused) as refused:
        one.confirm(HERE, first)
    assert refused.value.close == 4409
    one.still_mine(HERE, first)
    one.pulse()
    with pytest.raises(Refused):
        one.still_mine(HERE, first)
    other.pulse()
    other.still_mine(HERE, second)
    other.confirm(HERE, second)


def test_who_was_taken_over_from_does_not_give_away_what_is_anothers(two):
    one, other = two
    first, second = new_id(), new_id()
    one.claim(HERE, first)
    other.claim(HERE, second)
    one.release(HERE, first)
    assert str(OpenAttempt.objects.get().attempt_id) == second
    other.release(HERE, second)
    assert not OpenAttempt.objects.exists()


def test_a_process_is_full_by_itself_and_a_step_it_has_can_be_taken_anew(two, settings):
    one, other = two
    settings.MOST_STREAMS = 1
    one.claim(HERE, new_id())
    one.claim(HERE, new_id())
    with pytest.raises(Refused) as refused:
        one.claim(place(), new_id())
    assert refused.value.close == 4429
    assert OpenAttempt.objects.count() == 1
    other.claim(place(), new_id())


def test_who_was_refused_holds_nothing(two, settings):
    one, _other = two
    settings.MOST_STREAMS = 0
    with pytest.raises(Refused):
        one.claim(HERE, "00000000-0000-4000-8000-000000000000")
    with pytest.raises(Refused):
        one.still_mine(HERE, "00000000-0000-4000-8000-000000000000")


def test_what_a_dead_process_held_is_cleared_away_and_does_not_count(two):
    dead, alive = two
    dead.claim(place(), new_id())
    ServerProcess.objects.update(seen_at=Now() - timedelta(seconds=31))
    mine = new_id()
    alive.claim(HERE, mine)
    alive.pulse()
    assert [str(row.attempt_id) for row in OpenAttempt.objects.all()] == [mine]
    assert [row.id for row in ServerProcess.objects.all()] == [alive.id]


def test_what_a_database_forgot_is_put_back_by_the_pulse_and_nothing_else_left(two):
    one, other = two
    mine, given_back = new_id(), new_id()
    one.claim(HERE, mine)
    one.claim(place(), given_back)
    # the database was away when it was given back, and did not keep that the other had begun
    one._held = {HERE: mine}
    OpenAttempt.objects.filter(attempt_id=mine).delete()
    one.pulse()
    assert [str(row.attempt_id) for row in OpenAttempt.objects.all()] == [mine]
    other.pulse()
    one.confirm(HERE, mine)


@pytest.mark.django_db(transaction=True)
def test_a_hold_taken_over_elsewhere_is_closed_at_its_end_and_kept_when_sent_whole(home, version):
    sung = sing(Voice(f0_hz=233.08, seconds=1.0))
    start = start_of(home, version)

    async def talk():
        async with Wire() as wire:
            await wire.say(**start)
            await wire.hear()
            await sing_into(wire, sung.samples)
            await asyncio.to_thread(
                ThisProcess().claim, StreamPlace(start_place(home), start["step_id"]), new_id()
            )
            await wire.say(type="stop", samples=len(sung.samples))
            return await wire.hear()

    assert asyncio.run(talk()) == {"type": "closed", "code": 4409}
    assert not Attempt.objects.exists()


def start_place(home):
    return home[1].sitting


@pytest.mark.django_db(transaction=True)
def test_a_page_that_goes_leaves_no_step_open(home, version):
    async def talk():
        async with Wire() as wire:
            await wire.say(**start_of(home, version))
            await wire.hear()
            assert await asyncio.to_thread(OpenAttempt.objects.count) == 1

    asyncio.run(talk())
    assert not OpenAttempt.objects.exists()
    assert not this_process._held
