"""What `tests/web/test_visit.py` and others make and look at."""

import io
import json
import uuid
from urllib.parse import quote

import soundfile
from django.test import Client as Browser
from django.urls import reverse

from tests.conftest import NOW
from web.clients.models import BaselineAttempt
from web.measuring.tickets import Ticket

DESK = {"label": "desk microphone", "sampleRate": 48000, "autoGainControl": False}


def ticket_for(baseline, clinician):
    return Ticket(
        purpose="baseline",
        clinic=str(baseline.clinic_id),
        client=str(baseline.client_id),
        holder=str(clinician.pk),
        sitting=str(baseline.pk),
        issued_at=NOW.isoformat(),
    ).signed()


def wav_of(samples):
    file = io.BytesIO()
    soundfile.write(file, samples, 16_000, subtype="PCM_16", format="WAV")
    return file.getvalue()


def send(baseline, clinician, measure, samples, device=None):
    """Upload one attempt as the page does when the socket was not there; the answer."""
    attempt_id = str(uuid.uuid4())
    offer = {
        "attempt_id": attempt_id,
        "step_id": measure,
        "input": "microphone",
        "device": DESK if device is None else device,
    }
    answer = Browser().put(
        reverse("attempt", args=[attempt_id]),
        wav_of(samples),
        content_type="audio/wav",
        headers={
            "X-Ticket": ticket_for(baseline, clinician),
            "X-Attempt": quote(json.dumps(offer)),
        },
    )
    return attempt_id, answer


def kept(baseline, clinician, measure, samples, **changes):
    attempt_id, answer = send(baseline, clinician, measure, samples, **changes)
    assert answer.status_code == 201, answer.content
    return BaselineAttempt.objects.select_related("measurement").get(pk=attempt_id), answer
