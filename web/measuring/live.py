"""The live socket: one attempt from `start` to `stop`, measured as it happens.

A bare ASGI handler: text frames control, binary frames carry a uint32 little-endian sequence
number and signed 16-bit little-endian mono sound.
"""

import asyncio
import hashlib
import json
import logging
import struct
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from asgiref.sync import sync_to_async
from django.db import DatabaseError, close_old_connections
from django.utils import translation
from django.utils.translation import gettext as _

from core.errors import SoundError
from core.formats.json_input import NotPlain, read_object
from core.kinds.live import LiveMeasurement
from core.kinds.strength import band_of
from core.sound.recording import Recording
from web.clinic import clock
from web.clinic.records import Unreadable
from web.design.speaking import spoken
from web.measuring.batch_analyser import of_this_loop
from web.measuring.models import Taken
from web.measuring.offers import read_offer
from web.measuring.sinks import AttemptOffer, AttemptSink, AttemptTaken, Permit, Refused, SaveAnswer
from web.measuring.tickets import Ticket, TicketRefused
from web.measuring.usecases.open_attempts import StreamPlace, idling, this_process
from web.measuring.words import attempt_words, sound_words

log = logging.getLogger(__name__)

LARGEST_FRAME_BYTES = 4 + 2 * 96_000
LARGEST_TEXT = 16_000
IDLE_S = 10.0
"""A socket that has not begun an attempt, or has ended one, is closed after so long."""


@dataclass(slots=True)
class _Attempt:
    ticket: Ticket
    offer: AttemptOffer
    permit: Permit
    end: AttemptSink
    measurement: LiveMeasurement
    rate_hz: int
    next_number: int = 0
    complete: bool = True
    digest: Any = field(default_factory=hashlib.sha256)
    heard: bytearray = field(default_factory=bytearray)

    @property
    def place(self) -> StreamPlace:
        return StreamPlace(self.ticket.sitting, self.offer.step_id)

    def must_be_newest(self) -> None:
        this_process.still_mine(self.place, self.offer.attempt_id)

    def release(self) -> None:
        this_process.release(self.place, self.offer.attempt_id)

    def keep(self, caught: AttemptTaken) -> SaveAnswer:
        """Keep it unless it was taken over, by whichever process, and give the step back."""
        this_process.confirm(self.place, self.offer.attempt_id)
        kept = self.end.keep(self.ticket, self.offer, self.permit, caught, clock.now())
        self.release()
        return kept

    @property
    def sound(self) -> Recording | None:
        return Recording(bytes(self.heard), self.rate_hz) if self.permit.heard else None


class LiveSocket:
    """ASGI application for one connection; `ends` maps a ticket's purpose to where it ends."""

    def __init__(self, ends: Mapping[str, AttemptSink]) -> None:
        self._ends = ends

    async def __call__(self, scope, receive, send) -> None:
        await _Connection(self._ends, receive, send).run()


class _Connection:
    def __init__(self, ends: Mapping[str, AttemptSink], receive, send) -> None:
        self._ends, self._receive, self._send = ends, receive, send
        self._attempt: _Attempt | None = None

    async def run(self) -> None:
        self._together = of_this_loop()
        await self._receive()
        await self._send({"type": "websocket.accept"})
        try:
            while (event := await self._next())["type"] == "websocket.receive":
                await self._take(event)
        except TimeoutError:
            await self._close(4408, "")
        except Refused as refused:
            await self._close(refused.close, refused.words)
        except SoundError as error:
            await self._close(4413, sound_words(error))
        except DatabaseError:
            log.exception("live socket lost the database")
            await self._close(4503, "")
        except Unreadable as bad:
            log.error("live socket: %s", bad)
            await self._close(4503, "")
        finally:
            await self._leave()

    async def _next(self) -> dict[str, Any]:
        """The next event; TimeoutError where nobody says for 10 s what is to be measured."""
        if self._attempt is not None:
            return await self._receive()
        with idling(self):
            async with asyncio.timeout(IDLE_S):
                return await self._receive()

    async def _take(self, event: dict[str, Any]) -> None:
        if event.get("bytes") is not None:
            await self._sound(event["bytes"])
            return
        text = event.get("text") or ""
        try:
            data = read_object(text[: LARGEST_TEXT + 1])
        except NotPlain as error:
            raise Refused(4400, 400, "frame_unreadable", "") from error
        kind = data.get("type")
        if kind == "start":
            await self._start(data)
        elif kind == "stop" and self._attempt is not None:
            await self._stop(self._attempt, data)
        else:
            raise Refused(4400, 400, "frame_unknown", "")

    async def _start(self, data: dict[str, Any]) -> None:
        await self._leave()
        try:
            ticket = Ticket.read(str(data.get("ticket", "")))
            end = self._ends[ticket.purpose]
        except (TicketRefused, KeyError) as error:
            raise Refused(4401, 401, "ticket_stale", "") from error
        translation.activate(spoken(ticket.language))
        offer = read_offer(data)
        rate_hz = data.get("rate_hz")
        if not isinstance(rate_hz, int):
            raise Refused(4400, 400, "offer_unreadable", "")
        self._attempt = attempt = await _in_database(_begun, end, ticket, offer, rate_hz)
        self._together.join(attempt.measurement)
        band = band_of(attempt.permit.level)
        started = {"type": "started", "attempt_id": offer.attempt_id}
        await self._say({**started, "band": band.as_data() if band else None})

    async def _sound(self, data: bytes) -> None:
        attempt = self._attempt
        if attempt is None:
            return
        if not 4 < len(data) <= LARGEST_FRAME_BYTES or len(data) % 2:
            raise Refused(4400, 400, "frame_size", "")
        attempt.must_be_newest()
        (number,) = struct.unpack_from("<I", data)
        if number != attempt.next_number:
            attempt.complete = False
            return
        attempt.next_number += 1
        attempt.digest.update(data[4:])
        if attempt.permit.heard:
            attempt.heard += data[4:]
        samples = np.frombuffer(data, dtype="<i2", offset=4).astype(np.float32) / 32768
        state = await self._together.feed(attempt.measurement, samples)
        await self._say({"type": "state", **state.as_data()})

    async def _stop(self, attempt: _Attempt, data: dict[str, Any]) -> None:
        attempt.must_be_newest()
        if not attempt.complete or data.get("samples") != attempt.measurement.received:
            await self._leave()
            await self._say({"type": "send_wav", "attempt_id": attempt.offer.attempt_id})
            return
        found = await self._together.stop(attempt.measurement)
        caught = AttemptTaken(
            taken=Taken.LIVE,
            sha256=attempt.digest.hexdigest(),
            figures=found,
            sound=attempt.sound,
        )
        kept = await _in_database(attempt.keep, caught)
        self._end_watching()
        answer = {"type": "kept", "status": kept.status, "attempt_id": kept.attempt_id}
        words = attempt_words(found, attempt.permit)
        await self._say({**answer, "words": words, "figures": found.as_data(contour=False)})

    def _end_watching(self) -> _Attempt | None:
        """Nothing more is measured here; the attempt that was, if there was one."""
        attempt, self._attempt = self._attempt, None
        if attempt is not None:
            self._together.leave(attempt.measurement)
        return attempt

    async def _leave(self) -> None:
        """Break off what is measured; where the database is away, the pulse gives the step back."""
        attempt = self._end_watching()
        if attempt is not None:
            try:
                await _in_database(attempt.release)
            except DatabaseError:
                log.warning("attempt %s is given back later", attempt.offer.attempt_id)

    async def _say(self, data: dict[str, Any]) -> None:
        await self._send({"type": "websocket.send", "text": json.dumps(data)})

    async def _close(self, code: int, words: str) -> None:
        reason = words.encode()[:120].decode(errors="ignore")
        await self._send({"type": "websocket.close", "code": code, "reason": reason})


def _begun(end: AttemptSink, ticket: Ticket, offer: AttemptOffer, rate_hz: int) -> _Attempt:
    """An attempt that may be taken, with its step claimed; Refused otherwise."""
    permit = end.permit(ticket, offer)
    if permit.set_aside:
        raise Refused(4401, 401, permit.set_aside, "")
    if permit.rests:
        raise Refused(4423, 423, "rests", permit.rests)
    if permit.task is None:
        words = _("This step is done by the clock; no sound is taken.")
        raise Refused(4403, 403, "step_not_measured", words)
    measurement = LiveMeasurement(rate_hz, permit.task, target=permit.target, a4_hz=permit.a4_hz)
    attempt = _Attempt(ticket, offer, permit, end, measurement, rate_hz)
    this_process.claim(attempt.place, offer.attempt_id)
    return attempt


async def _in_database(work, *arguments):
    def run():
        close_old_connections()
        try:
            return work(*arguments)
        finally:
            close_old_connections()

    return await sync_to_async(run, thread_sensitive=True)()
