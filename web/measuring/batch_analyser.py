"""Analyses the pieces of all streams of this process in one go, since numpy's cost is in the call.

In the loop itself: a thread beside it would take the interpreter from it and give it back a thousand times a second,
which cost a third more than the arithmetic (docs/measuring.md)."""

import asyncio
import sys
import weakref

import numpy as np

from core.kinds.live import LiveMeasurement, LiveState
from core.sound.figures import Figures
from core.sound.kernel import Frames, analyse
from web.measuring.figuring import FEW_STREAMS, begin_figuring, figured

GATHERED_S = 0.01


Waiting = tuple[np.ndarray, asyncio.Future[Frames]]


class BatchAnalyser:
    """Pieces that come within a moment are analysed in one round; few streams at once. One for each event loop
    (`of_this_loop`)."""

    def __init__(self) -> None:
        self._waiting: list[Waiting] = []
        self._streams: set[LiveMeasurement] = set()
        self._rounds: asyncio.Task[None] | None = None

    def join(self, live: LiveMeasurement) -> None:
        """Count a stream; `leave` when it ends."""
        self._streams.add(live)
        if len(self._streams) == FEW_STREAMS + 1:
            begin_figuring()

    def leave(self, live: LiveMeasurement) -> None:
        self._streams.discard(live)

    async def feed(self, live: LiveMeasurement, samples: np.ndarray) -> LiveState:
        """The state after float samples in −1…1, shape (n,); raises SoundError as `live.feed`."""
        spans = live.take(samples)
        if len(self._streams) <= FEW_STREAMS:
            return live.give(analyse(spans))
        answer: asyncio.Future[Frames] = asyncio.get_running_loop().create_future()
        self._waiting.append((spans, answer))
        if self._rounds is None:
            self._rounds = asyncio.create_task(self._go_round())
        return live.give(await answer)

    async def stop(self, live: LiveMeasurement) -> Figures:
        """The figures, worked out elsewhere: one at a time, so that no stream waits long."""
        return await figured(live.end(), many=len(self._streams) > FEW_STREAMS)

    async def _go_round(self) -> None:
        try:
            while self._waiting:
                await asyncio.sleep(GATHERED_S)
                now, self._waiting = self._waiting, []
                try:
                    _answer(now, analyse(np.concatenate([spans for spans, _ in now])))
                except Exception as error:  # noqa: BLE001  (handed to every stream that waits)
                    _fail(now, error)
        finally:
            self._rounds = None


def _answer(now: list[Waiting], frames: Frames) -> None:
    done = 0
    for spans, answer in now:
        if not answer.done():
            answer.set_result(frames.part(done, done + len(spans)))
        done += len(spans)


def _fail(now: list[Waiting], error: Exception) -> None:
    for _, answer in now:
        if not answer.done():
            answer.set_exception(error)


# The loop must not wait 5 ms, Python's usual turn, for the threads beside it whenever it has read or written.
sys.setswitchinterval(0.0001)
_of_loops: weakref.WeakKeyDictionary[asyncio.AbstractEventLoop, BatchAnalyser] = (
    weakref.WeakKeyDictionary()
)


def of_this_loop() -> BatchAnalyser:
    """The one of the running event loop."""
    return _of_loops.setdefault(asyncio.get_running_loop(), BatchAnalyser())
