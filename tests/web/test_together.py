"""Many streams of one process: the same figures as alone, and nobody waits for one that is gone."""

import asyncio
import multiprocessing

import numpy as np
import pytest

from core.errors import SoundError
from core.kinds.live import LiveMeasurement
from core.sound.reading import Sound
from lab.simulate.voice import Voice, sing
from web.measuring.batch_analyser import FEW_STREAMS, of_this_loop
from web.measuring.figuring import figured, measured

PIECE = 1_600


async def follow(sung, live):
    together = of_this_loop()
    together.join(live)
    states = [
        await together.feed(live, sung.samples[at : at + PIECE])
        for at in range(0, len(sung.samples), PIECE)
    ]
    together.leave(live)
    return states, await together.stop(live)


def test_many_streams_at_once_are_each_measured_as_alone():
    voices = [
        sing(Voice(f0_hz=110.0 * 1.17**k, seconds=1.0 + 0.1 * k, seed=k))
        for k in range(FEW_STREAMS + 4)
    ]

    async def all_of_them():
        return await asyncio.gather(
            *(follow(sung, LiveMeasurement(16_000, "hold")) for sung in voices)
        )

    for sung, (states, found) in zip(voices, asyncio.run(all_of_them()), strict=True):
        alone = LiveMeasurement(16_000, "hold")
        own = [
            alone.feed(sung.samples[at : at + PIECE]) for at in range(0, len(sung.samples), PIECE)
        ]
        assert [s.hold_s for s in states] == [s.hold_s for s in own]
        assert found.hold_s == pytest.approx(alone.stop().hold_s, abs=0.003)


def test_a_stream_that_is_too_long_fails_alone():
    async def two():
        short = LiveMeasurement(16_000, "hold", max_seconds=0.15)
        long = LiveMeasurement(16_000, "hold")
        together = of_this_loop()
        piece = np.zeros(PIECE)
        await asyncio.gather(together.feed(short, piece), together.feed(long, piece))
        return await asyncio.gather(
            together.feed(short, piece), together.feed(long, piece), return_exceptions=True
        )

    refused, state = asyncio.run(two())
    assert isinstance(refused, SoundError)
    assert state.t_s > 0


def test_a_stream_that_went_away_holds_up_nobody():
    async def one_leaves():
        together = of_this_loop()
        gone, stays = (LiveMeasurement(16_000, "hold") for _ in range(2))
        waiting = asyncio.ensure_future(together.feed(gone, np.zeros(PIECE)))
        await asyncio.sleep(0)
        waiting.cancel()
        return await together.feed(stays, np.zeros(PIECE))

    assert asyncio.run(one_leaves()).hold_s == 0.0


def test_an_error_in_one_stream_of_a_round_is_not_the_others_error(monkeypatch):
    lives = [LiveMeasurement(16_000, "hold") for _ in range(FEW_STREAMS + 2)]
    broken = lives[0]

    def give(frames):
        raise ValueError("this stream is broken")

    monkeypatch.setattr(broken, "give", give)

    async def a_round():
        together = of_this_loop()
        for live in lives:
            together.join(live)
        piece = np.zeros(PIECE)
        return await asyncio.gather(
            *(together.feed(live, piece) for live in lives), return_exceptions=True
        )

    first, *others = asyncio.run(a_round())
    assert isinstance(first, ValueError)
    assert all(state.hold_s == 0.0 for state in others)


def kill_workers():
    for worker in multiprocessing.active_children():
        worker.kill()
        worker.join(10)


def test_a_sound_sent_whole_is_measured_away_from_the_streams_and_the_same():
    sung = sing(Voice(f0_hz=196.0, seconds=1.5, seed=3))
    sound = Sound(sung.samples.astype(np.float64), 16_000)

    def whole(streams):
        found = measured(sound, "hold", target=None, a4_hz=440.0, streams=streams)
        return found.as_data()

    kill_workers()
    here = whole(0)
    assert not multiprocessing.active_children()
    assert here["hold_s"] == pytest.approx(sung.hold_s, abs=0.02)
    assert whole(FEW_STREAMS + 1) == here
    assert multiprocessing.active_children()
    kill_workers()
    assert whole(FEW_STREAMS + 1) == here
    assert whole(FEW_STREAMS + 1) == here
    with pytest.raises(SoundError):
        measured(Sound(sound.samples, 3), "hold", target=None, a4_hz=440.0, streams=99)


def test_figures_worked_out_in_a_process_of_their_own_are_the_same_also_after_it_was_killed():
    sung = sing(Voice(f0_hz=196.0, seconds=1.5, seed=3))
    live = LiveMeasurement(16_000, "hold")
    live.feed(sung.samples)
    ended = live.end()
    here = asyncio.run(figured(ended, many=False)).as_data()
    assert here["hold_s"] == pytest.approx(sung.hold_s, abs=0.02)
    assert asyncio.run(figured(ended, many=True)).as_data() == here
    kill_workers()
    assert asyncio.run(figured(ended, many=True)).as_data() == here
    assert asyncio.run(figured(ended, many=True)).as_data() == here
