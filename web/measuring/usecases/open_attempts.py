"""Which steps are being held right now and in which process of the server. That stands in the database: one process
takes a step over from another, and a restart finds nothing wrong. What a process holds itself it also knows without
asking, for every piece of sound; its pulse tells it within a second what was taken over elsewhere."""

import os
import socket
import threading
import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta
from typing import NamedTuple

from django.conf import settings
from django.db import transaction
from django.db.models.functions import Now
from django.utils.translation import gettext as _

from web.measuring.models import OpenAttempt, ServerProcess
from web.measuring.sinks import Refused

MOST_IDLE = 200
"""So many sockets may wait in this process without an attempt."""
PULSE_S = 1.0
GONE_AFTER = timedelta(seconds=30)
"""A process that was not seen for so long holds nothing any more."""


class StreamPlace(NamedTuple):
    """Home session or baseline, and step in it; ids as text."""

    sitting: str
    step_id: str


class ThisProcess:
    """What this process holds: steps by their place with the id of the attempt."""

    def __init__(self) -> None:
        self.id = uuid.uuid4()
        self._name = f"{socket.gethostname()} {os.getpid()}"[:120]
        self._held: dict[StreamPlace, str] = {}
        self._changing = threading.Lock()

    @property
    def streams(self) -> int:
        """How many are watched here right now."""
        return len(self._held)

    def claim(self, place: StreamPlace, attempt_id: str) -> None:
        """Take a step for one attempt; Refused 4429 when full. The newest takes over, from whichever process: an
        older one may be a connection that is dead and does not know it."""
        with self._changing:
            self._held[place] = attempt_id
        try:
            self._write(place, attempt_id)
        except BaseException:
            self._forget(place, attempt_id)
            raise

    @transaction.atomic
    def _write(self, place: StreamPlace, attempt_id: str) -> None:
        self._seen()
        mine = OpenAttempt.objects.filter(process_id=self.id)
        others = mine.exclude(sitting=place.sitting, step_id=place.step_id)
        if others.count() >= settings.MOST_STREAMS:
            raise _full()
        self._put([(place, attempt_id)])

    def still_mine(self, place: StreamPlace, attempt_id: str) -> None:
        """Refused 4409 once a newer attempt is known here to have taken the step over."""
        if self._held.get(place) != attempt_id:
            raise _elsewhere()

    def confirm(self, place: StreamPlace, attempt_id: str) -> None:
        """Refused 4409 where the database knows of a newer attempt, whichever process has it."""
        rows = OpenAttempt.objects.filter(sitting=place.sitting, step_id=place.step_id)
        newest = rows.values_list("attempt_id", flat=True).first()
        if newest is not None and str(newest) != attempt_id:
            raise _elsewhere()

    def release(self, place: StreamPlace, attempt_id: str) -> None:
        """Give it back; only its own holder can."""
        self._forget(place, attempt_id)
        OpenAttempt.objects.filter(attempt_id=attempt_id, process_id=self.id).delete()

    def pulse(self) -> None:
        """Say that this process lives, clear away what dead ones held, and learn what was taken over."""
        with self._changing:
            held = dict(self._held)
        if not held:
            return
        with transaction.atomic():
            self._seen()
            ServerProcess.objects.filter(seen_at__lt=Now() - GONE_AFTER).delete()
            rows = OpenAttempt.objects.filter(sitting__in={place.sitting for place in held})
            newest = {StreamPlace(str(r.sitting), r.step_id): str(r.attempt_id) for r in rows}
            self._put([one for one in held.items() if one[0] not in newest])
            mine = OpenAttempt.objects.filter(process_id=self.id)
            mine.exclude(attempt_id__in=self._held.copy().values()).delete()
        for place, attempt_id in held.items():
            if newest.get(place, attempt_id) != attempt_id:
                self._forget(place, attempt_id)

    def _seen(self) -> None:
        row = ServerProcess(id=self.id, name=self._name, seen_at=Now())
        ServerProcess.objects.bulk_create(
            [row], update_conflicts=True, unique_fields=["id"], update_fields=["seen_at"]
        )

    def _put(self, held: list[tuple[StreamPlace, str]]) -> None:
        OpenAttempt.objects.bulk_create(
            (
                OpenAttempt(**place._asdict(), attempt_id=attempt_id, process_id=self.id)
                for place, attempt_id in held
            ),
            update_conflicts=True,
            unique_fields=["sitting", "step_id"],
            update_fields=["attempt_id", "process"],
        )

    def _forget(self, place: StreamPlace, attempt_id: str) -> None:
        with self._changing:
            if self._held.get(place) == attempt_id:
                del self._held[place]


def _full() -> Refused:
    words = _("The server is busy: the hold is measured afterwards.")
    return Refused(4429, 429, "full", words)


def _elsewhere() -> Refused:
    words = _("This step is open in another tab. This hold is kept and measured afterwards.")
    return Refused(4409, 409, "open_elsewhere", words)


this_process = ThisProcess()
_idle: set[object] = set()


@contextmanager
def idling(who: object) -> Iterator[None]:
    """While a socket waits for its attempt; Refused 4429 where too many do in this process, for a socket is
    this process's own."""
    if len(_idle) >= MOST_IDLE:
        raise _full()
    _idle.add(who)
    try:
        yield
    finally:
        _idle.discard(who)
