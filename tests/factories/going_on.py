"""What `tests/web/test_going_on.py` and others make and look at."""

import json
import uuid

from django.urls import reverse

from web.measuring.tickets import Ticket


def opened(browser, access, **said):
    body = {"session_id": str(uuid.uuid4()), "routine": "ladder", **said}
    address = reverse("practice:open_session", args=[access.pk])
    return browser.post(address, json.dumps(body), content_type="application/json").json()


def ticket_of(bundle):
    return Ticket.read(bundle["ticket"])


def say(browser, ticket, kind, value, step_id=None):
    body = json.dumps({"kind": kind, "value": value, "step_id": step_id})
    return browser.put(
        f"/entries/{uuid.uuid4()}/",
        body,
        content_type="application/json",
        headers={"X-Ticket": ticket.signed()},
    )
