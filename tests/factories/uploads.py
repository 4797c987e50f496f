"""What `tests/web/test_uploads.py` and others make and look at."""

import json
import uuid
from urllib.parse import quote

import pytest

from lab.simulate.voice import Voice, sing


@pytest.fixture
def sung():
    return sing(Voice(f0_hz=233.08, seconds=3.0))


def power(version):
    return version.content["routines"][0]["steps"][3]["step_id"]


def offer(version, **changes):
    base = {"step_id": power(version), "place": 0, "repetition": 1, "elapsed_ms": 60_000}
    return base | changes


def put_sound(client, ticket, said, body, attempt_id=None):
    attempt_id = attempt_id or uuid.uuid4()
    answer = client.put(
        f"/attempts/{attempt_id}/",
        body,
        content_type="audio/wav",
        headers={
            "X-Ticket": ticket.signed(),
            "X-Attempt": quote(json.dumps(said | {"attempt_id": str(attempt_id)})),
        },
    )
    return attempt_id, answer


def put_json(client, ticket, said, attempt_id=None):
    attempt_id = attempt_id or uuid.uuid4()
    body = json.dumps(said | {"attempt_id": str(attempt_id)})
    answer = client.put(
        f"/attempts/{attempt_id}/",
        body,
        content_type="application/json",
        headers={"X-Ticket": ticket.signed()},
    )
    return attempt_id, answer


def say(client, ticket, kind, value, step_id=None, entry_id=None):
    return client.put(
        f"/entries/{entry_id or uuid.uuid4()}/",
        json.dumps({"kind": kind, "value": value, "step_id": step_id}),
        content_type="application/json",
        headers={"X-Ticket": ticket.signed()},
    )
