"""Where the figures of an ended attempt are worked out: beside the loop, and where many streams are watched in a
process of its own, so that nobody waits for the arithmetic of another's end."""

import asyncio
import logging
import multiprocessing
import os
import threading
from concurrent.futures import Executor, ProcessPoolExecutor, ThreadPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from functools import cache
from multiprocessing.connection import wait

from core.kinds.live import Ended, figures_of
from core.sound.figures import Figures

log = logging.getLogger(__name__)


async def figured(ended: Ended, *, many: bool) -> Figures:
    """The figures of an attempt; many: whether other streams are watched meanwhile."""
    loop = asyncio.get_running_loop()
    if many:
        try:
            return await loop.run_in_executor(_process(), figures_of, ended)
        except BrokenProcessPool:
            log.warning("the process for figures ended; a new one follows")
            _process.cache_clear()
    return await loop.run_in_executor(_thread(), figures_of, ended)


def begin_figuring() -> None:
    """Begin the process before it is needed: beginning it takes a moment, and its imports seconds."""
    threading.Thread(target=lambda: _process().submit(_nothing), daemon=True).start()


def _nothing() -> None:
    """What a process does that is only to be there."""


@cache
def _thread() -> Executor:
    return ThreadPoolExecutor(max_workers=1, thread_name_prefix="figures")


@cache
def _process() -> Executor:
    """Begun when it is first needed; a fresh interpreter, for this one has threads."""
    fresh = multiprocessing.get_context("spawn")
    return ProcessPoolExecutor(max_workers=1, mp_context=fresh, initializer=_end_with_the_server)


def _end_with_the_server() -> None:
    """A server that was killed leaves nothing behind."""
    parent = multiprocessing.parent_process()
    if parent is not None:
        threading.Thread(target=_watch, args=(parent.sentinel,), daemon=True).start()


def _watch(sentinel: int) -> None:
    wait([sentinel])
    os._exit(0)
