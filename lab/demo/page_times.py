"""What the pages of a clinician cost on the server: time, questions to the database, size."""

import time
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass

import numpy as np
from django.db import connection, transaction
from django.test import Client as Browser

from web.clients.models import Client
from web.clients.signals import record_changed
from web.clinic.models import User
from web.practice.models import HomeSession

MOST_MS, MOST_QUERIES, MOST_KB = 200.0, 15, 150.0


@dataclass(frozen=True, slots=True)
class PageTimes:
    """One kind of page: milliseconds of server time (median, 95th percentile), most questions to the
    database in one answer, largest answer in kB."""

    name: str
    count: int
    median_ms: float
    p95_ms: float
    queries: int
    kb: float

    @property
    def within(self) -> bool:
        return self.p95_ms < MOST_MS and self.queries <= MOST_QUERIES and self.kb < MOST_KB


@contextmanager
def _counted() -> Iterator[list[int]]:
    asked = [0]

    def count(execute, sql, params, many, context):
        asked[0] += 1
        return execute(sql, params, many, context)

    with connection.execute_wrapper(count):
        yield asked


def page_times(name: str, addresses: Sequence[str], *, user: User) -> PageTimes:
    """Ask for every address once, after one that warms up; RuntimeError where one is no page."""
    browser = Browser(SERVER_NAME="localhost")
    browser.force_login(user)
    browser.get(addresses[0])
    took: list[float] = []
    queries, largest = 0, 0
    for address in addresses:
        with _counted() as asked:
            began = time.perf_counter()
            answer = browser.get(address)
            took.append(1000 * (time.perf_counter() - began))
        if answer.status_code != 200:
            raise RuntimeError(f"{address} answered {answer.status_code}")
        queries, largest = max(queries, asked[0]), max(largest, len(answer.content))
    return PageTimes(
        name,
        len(took),
        float(np.median(took)),
        float(np.percentile(took, 95)),
        queries,
        largest / 1000,
    )


def save_ms(client: Client, *, times: int = 15) -> float:
    """Milliseconds (median) in which what is worked out of the record is brought up to date when
    something of a client's latest home session is kept."""
    session = _latest_session(client)
    return _median_ms(
        lambda: record_changed.send(None, client_id=client.pk, session_id=session), times
    )


def _latest_session(client: Client):
    """The id of the latest home session."""
    return HomeSession.objects.filter(client=client).order_by("-started_at").values("pk")[0]["pk"]


def _median_ms(act: Callable[[], object], times: int) -> float:
    took = []
    for _ in range(times):
        with transaction.atomic():
            began = time.perf_counter()
            act()
            took.append(1000 * (time.perf_counter() - began))
    return float(np.median(took))
