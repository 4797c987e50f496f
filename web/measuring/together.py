"""Analyses the pieces of all streams of this process in one go, since numpy's cost is in the call."""

import asyncio
import sys
import weakref
from concurrent.futures import ThreadPoolExecutor

import numpy as np

from core.sound.figures import Figures
from core.sound.kernel import analyse
from core.sound.live import LiveMeasurement, LiveState

TICK_S = 0.015
FEW_STREAMS = 4


class Together:
    """Pieces wait at most one tick for those of other streams; few streams do not wait.

    One for each event loop (`of_this_loop`).
    """

    def __init__(self) -> None:
        self._waiting: list[tuple[LiveMeasurement, np.ndarray, asyncio.Future[LiveState]]] = []
        self._streams: set[LiveMeasurement] = set()

    def join(self, live: LiveMeasurement) -> None:
        """Count a stream; `leave` when it ends."""
        self._streams.add(live)

    def leave(self, live: LiveMeasurement) -> None:
        self._streams.discard(live)

    async def feed(self, live: LiveMeasurement, samples: np.ndarray) -> LiveState:
        """The state after float samples in −1…1, shape (n,); raises SoundError as `live.feed`."""
        loop = asyncio.get_running_loop()
        answer: asyncio.Future[LiveState] = loop.create_future()
        spans = live.take(samples)
        if not self._waiting:
            loop.call_later(TICK_S if len(self._streams) > FEW_STREAMS else 0, self._tick)
        self._waiting.append((live, spans, answer))
        return await answer

    async def stop(self, live: LiveMeasurement) -> Figures:
        """The figures, worked out beside the loop: one at a time, so that no stream waits long."""
        return await asyncio.get_running_loop().run_in_executor(_figures, live.stop)

    def _tick(self) -> None:
        waiting, self._waiting = self._waiting, []
        try:
            frames = analyse(np.concatenate([spans for _, spans, _ in waiting]))
            done = 0
            for live, spans, answer in waiting:
                state = live.give(frames.part(done, done + len(spans)))
                done += len(spans)
                if not answer.done():
                    answer.set_result(state)
        except Exception as error:  # noqa: BLE001  (handed to every stream that waits)
            for _, _, answer in waiting:
                if not answer.done():
                    answer.set_exception(error)


# The loop must not wait 5 ms, Python's usual turn, for a thread that works out figures.
sys.setswitchinterval(0.0005)
_figures = ThreadPoolExecutor(max_workers=1, thread_name_prefix="figures")
_of_loops: weakref.WeakKeyDictionary[asyncio.AbstractEventLoop, Together] = (
    weakref.WeakKeyDictionary()
)


def of_this_loop() -> Together:
    """The one of the running event loop."""
    return _of_loops.setdefault(asyncio.get_running_loop(), Together())
