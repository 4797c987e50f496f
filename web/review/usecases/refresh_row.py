"""Keeps the caseload row of a client; runs inside the transaction of what changed."""

import logging
import pkgutil
import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from importlib import import_module
from typing import Any

from django.db import connection, transaction
from django.db.migrations.recorder import MigrationRecorder
from django.dispatch import receiver

from web.clients.models import Client
from web.clients.signals import practice_goes_on, record_changed
from web.clinic import clock
from web.clinic.records import Unreadable
from web.practice.models import LevelReset
from web.review.caseload.facts import FACTS
from web.review.course_file import CourseFile
from web.review.models import CaseloadRow, ComingNeed
from web.review.usecases.save_coming_needs import save_coming_needs
from web.review.usecases.session_results import save_results

log = logging.getLogger(__name__)
_put_off: ContextVar[set[uuid.UUID] | None] = ContextVar("put off", default=None)


@contextmanager
def rows_worked_out_once() -> Iterator[None]:
    """Work each client's row out once, at the end of the block, instead of after every change in it.

    For whatever writes a whole history at a time; inside the block Rounds is behind.
    """
    changed: set[uuid.UUID] = set()
    token = _put_off.set(changed)
    try:
        yield
    finally:
        _put_off.reset(token)
    for client in Client.objects.select_related("clinic").filter(pk__in=changed):
        with transaction.atomic():
            _work_out(client, every=True)


@receiver(record_changed)
@transaction.atomic
def refresh_row(sender, client_id, session_id=None, sessions=(), **kwargs) -> None:
    """Compute the row anew from the record, and what came of the home session (or sessions) that changed; where
    a level is taken anew, of every one."""
    if (put_off := _put_off.get()) is not None:
        put_off.add(client_id)
        return
    client = Client.objects.select_related("clinic").get(pk=client_id)
    # the row first, as what works beside the server does: in another order two of them wait for each other
    CaseloadRow.objects.select_for_update().filter(client_id=client_id).first()
    changed = [session_id] if session_id else list(sessions)
    _work_out(client, sessions=changed, every=sender is LevelReset)


@transaction.atomic
def rebuild_row(client: Client) -> None:
    """Work out anew everything that is derived from a client's record."""
    _work_out(client, every=True)


@receiver(practice_goes_on)
def note_stale(sender, client_id, **kwargs) -> None:
    """Only say that the row is to be worked out soon."""
    rows = CaseloadRow.objects.filter(client_id=client_id, stale_since=None)
    rows.update(stale_since=clock.now())


def work_out_stale(most: int = 3) -> int:
    """Work out some of the rows that wait, the longest waiting first; how many. Beside the server, a few
    at a time: every row takes the processor for a moment. One that cannot be worked out goes last and
    keeps none of the others waiting."""
    waiting = CaseloadRow.objects.filter(stale_since__isnull=False).order_by("stale_since")
    done = 0
    for client_id in list(waiting.values_list("client_id", flat=True)[:most]):
        try:
            done += _worked_out(client_id)
        except Exception:
            log.exception("the row of client %s was not worked out", client_id)
            CaseloadRow.objects.filter(client_id=client_id).update(stale_since=clock.now())
    return done


@transaction.atomic
def _worked_out(client_id: uuid.UUID) -> bool:
    """Unless another process has it in hand or was first."""
    rows = CaseloadRow.objects.select_for_update(skip_locked=True)
    if not rows.filter(client_id=client_id, stale_since__isnull=False).exists():
        return False
    _work_out(Client.objects.select_related("clinic").get(pk=client_id))
    return True


def _work_out(client: Client, **results: Any) -> None:
    """What came of the home sessions, then the row. What of the record cannot be read is left as it was and said:
    all else goes on, a stop sign above all."""
    unreadable = ""
    try:
        with transaction.atomic():
            save_results(client, **results)
    except Unreadable as bad:
        unreadable = bad.words
    rebuilt(client, unreadable=unreadable)


def rebuilt(client: Client, *, unreadable: str = "") -> CaseloadRow:
    """The row of a client and what is needed in the coming days, everything worked out anew but what cannot be
    read; unreadable: what is known to be so already."""
    file = CourseFile.now(client)
    facts: dict[str, Any] = {"stale_since": None}
    for name, fact in FACTS.items():
        try:
            facts[name] = fact(file)
        except Unreadable as bad:
            unreadable = unreadable or bad.words
    if unreadable:
        log.error("client %s: %s", client.pk, unreadable)
    facts["unreadable"] = unreadable[:300]
    row, _made = CaseloadRow.objects.update_or_create(client=client, defaults=facts)
    row.client = client
    save_coming_needs(file, row)
    return row


def work_out_missing(sender, **kwargs) -> None:
    """After a migration to this version: whose needs were never worked out would be missing from
    Rounds. Of a migration to an older one nothing is asked."""
    applied = MigrationRecorder(connection).applied_migrations()
    if not all(("review", name) in applied for name in _migrations()):
        return
    known = ComingNeed.objects.values("client")
    for client in Client.objects.exclude(pk__in=known).select_related("clinic"):
        _work_out(client)


def _migrations() -> list[str]:
    folder = import_module("web.review.migrations").__path__
    return [one.name for one in pkgutil.iter_modules(folder)]
