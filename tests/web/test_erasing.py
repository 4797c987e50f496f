"""A record is erased while its client practices and its clinicians read: nobody is told of an error of ours."""

import json
import threading
import uuid
from urllib.parse import quote

import pytest
from django.db import connection, connections
from django.test import Client as Browser
from django.urls import reverse

from lab.simulate.voice import Voice, sing
from tests.conftest import NOW, PIN
from web.practice.models import Attempt
from web.practice.usecases.open_session import open_session

pytestmark = pytest.mark.django_db(transaction=True)
WAV = sing(Voice(f0_hz=233.08, seconds=1.0)).as_wav()
MOST_ROUNDS = 400


def rows_about(client_id):
    """Tables in which the client's id still stands, with how many rows."""
    found = {}
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT table_name FROM information_schema.columns"
            " WHERE table_schema = 'public' AND column_name = 'client_id'"
        )
        for (table,) in cursor.fetchall():
            cursor.execute(f"SELECT count(*) FROM {table} WHERE client_id = %s", [client_id])
            if count := cursor.fetchone()[0]:
                found[table] = count
    return found


class Crowd:
    """Threads that ask again and again until they are told to end; every answer's status by who asked."""

    def __init__(self):
        self.answers, self.over = [], threading.Event()
        self._threads = []

    def asks(self, name, once):
        def run():
            try:
                for _ in range(MOST_ROUNDS):
                    if self.over.is_set():
                        return
                    self.answers.append((name, once()))
            finally:
                connections.close_all()

        self._threads.append(threading.Thread(target=run))

    def start(self):
        for thread in self._threads:
            thread.start()

    def end(self):
        self.over.set()
        for thread in self._threads:
            thread.join(60)


def browser(**more):
    return Browser(raise_request_exception=False, **more)


def crowd_of(person, clinician, version, access):
    """Those who read and write about one client, each in a thread of its own."""
    crowd = Crowd()
    _session, ticket = open_session(access, session_id=uuid.uuid4(), now=NOW)
    key, step = ticket.signed(), version.content["routines"][0]["steps"][3]["step_id"]

    def reads(address):
        reader = browser()
        reader.force_login(clinician)
        return lambda: reader.get(address).status_code

    def sends():
        offer = {"attempt_id": str(uuid.uuid4()), "step_id": step, "place": 0}
        return (
            browser()
            .put(
                f"/attempts/{offer['attempt_id']}/",
                WAV,
                content_type="audio/wav",
                headers={"X-Ticket": key, "X-Attempt": quote(json.dumps(offer))},
            )
            .status_code
        )

    def says(kind, value, step_id=None):
        said = {"kind": kind, "value": value, "step_id": step_id}

        def once():
            return (
                browser()
                .put(
                    f"/entries/{uuid.uuid4()}/",
                    json.dumps(said),
                    content_type="application/json",
                    headers={"X-Ticket": key},
                )
                .status_code
            )

        return once

    at_home = browser()
    at_home.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})

    def opens():
        body = json.dumps({"session_id": str(uuid.uuid4())})
        address = reverse("practice:open_session", args=[access.pk])
        return at_home.post(address, body, content_type="application/json").status_code

    crowd.asks("client", reads(reverse("review:client", args=[person.pk])))
    crowd.asks("results", reads(reverse("review:results", args=[person.pk])))
    crowd.asks("rounds", reads(reverse("review:rounds")))
    crowd.asks(
        "today", lambda: at_home.get(reverse("practice:today", args=[access.pk])).status_code
    )
    crowd.asks("opens", opens)
    crowd.asks("attempt", sends)
    crowd.asks("strain", says("strain", 2, step))
    crowd.asks("stop", says("stop", "pain"))
    return crowd


def test_erasing_under_load_answers_everybody(client, clinic, clinician, person, version, access):
    from web.clinic.models import Membership

    lead = Membership.objects.get(clinic=clinic, role="lead").user
    client.force_login(lead)
    client.raise_request_exception = False  # it would raise those of other threads too
    crowd = crowd_of(person, clinician, version, access)
    crowd.start()
    pause = threading.Event()
    try:
        while Attempt.objects.filter(client=person).count() < 3:
            pause.wait(0.05)
        answer = client.post(reverse("clients:erase", args=[person.pk]), {"name": person.name})
        before = len(crowd.answers)
        while len(crowd.answers) < before + 24:
            pause.wait(0.05)
    finally:
        crowd.end()
    assert answer.status_code == 302
    assert sorted({answer for answer in crowd.answers if answer[1] == 500}) == []
    # whoever sends by itself may be told to try again; whoever reads is told what happened
    assert {name for name, status in crowd.answers if status == 503} <= {
        "attempt",
        "strain",
        "stop",
    }
    assert rows_about(person.pk) == {}
    asked = {name for name, _status in crowd.answers[before:]}
    assert {"attempt", "strain", "client", "today"} <= asked
