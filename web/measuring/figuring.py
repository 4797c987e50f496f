"""Where the figures of an attempt are worked out: beside the loop, and where many streams are watched in a process
of its own, so that nobody waits for the arithmetic of another's end. What was sent whole has a second such process,
which gives way to the others: nobody looks on."""

import asyncio
import logging
import multiprocessing
import os
import threading
from concurrent.futures import Executor, ProcessPoolExecutor, ThreadPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from functools import cache, partial
from multiprocessing.connection import wait

from core.kinds.aim import AttemptTarget
from core.kinds.live import Ended, figures_of, measure_sound
from core.sound.figures import Figures
from core.sound.reading import Sound

log = logging.getLogger(__name__)
FEW_STREAMS = 4
"""So many do not notice what is worked out beside them."""
_ENDED, _WHOLE = "ended", "whole"
NICE = 5


async def figured(ended: Ended, *, many: bool) -> Figures:
    """The figures of an attempt; many: whether other streams are watched meanwhile."""
    loop = asyncio.get_running_loop()
    if many:
        try:
            return await loop.run_in_executor(_process(_ENDED), figures_of, ended)
        except BrokenProcessPool:
            _begin_anew()
    return await loop.run_in_executor(_thread(), figures_of, ended)


def measured(
    sound: Sound, task: str, *, target: AttemptTarget | None, a4_hz: float, streams: int
) -> Figures:
    """The figures of a sound that was sent whole, while so many streams are watched; SoundError as `measure_sound`."""
    work = partial(measure_sound, sound, task, target=target, a4_hz=a4_hz)
    if streams > FEW_STREAMS:
        try:
            return _process(_WHOLE).submit(work).result()
        except BrokenProcessPool:
            _begin_anew()
    return work()


def _begin_anew() -> None:
    log.warning("a process for figures ended; a new one follows")
    _process.cache_clear()


def begin_figuring() -> None:
    """Begin the process before it is needed: beginning it takes a moment, and its imports seconds."""
    threading.Thread(target=lambda: _process(_ENDED).submit(_nothing), daemon=True).start()


def _nothing() -> None:
    """What a process does that is only to be there."""


@cache
def _thread() -> Executor:
    return ThreadPoolExecutor(max_workers=1, thread_name_prefix="figures")


@cache
def _process(what: str) -> Executor:
    """Begun when it is first needed; a fresh interpreter, for this one has threads."""
    fresh = multiprocessing.get_context("spawn")
    nice = NICE if what == _WHOLE else 0
    return ProcessPoolExecutor(
        max_workers=1, mp_context=fresh, initializer=_end_with_the_server, initargs=(nice,)
    )


def _end_with_the_server(nice: int) -> None:
    """A server that was killed leaves nothing behind."""
    os.nice(nice)
    parent = multiprocessing.parent_process()
    if parent is not None:
        threading.Thread(target=_watch, args=(parent.sentinel,), daemon=True).start()


def _watch(sentinel: int) -> None:
    wait([sentinel])
    os._exit(0)
