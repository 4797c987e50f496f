"""Looks at every page of a restored database and practices once; prints what it saw as JSON."""

import json
import uuid

import django

django.setup()

from django.conf import settings  # noqa: E402
from django.test import Client as Browser  # noqa: E402
from django.urls import reverse  # noqa: E402

from core.formats.program_file import data_of  # noqa: E402
from web.clients.models import Client, ClientAccess  # noqa: E402
from web.clinic import clock  # noqa: E402
from web.clinic.models import User  # noqa: E402
from web.measuring.sinks import AttemptOffer, AttemptTaken  # noqa: E402
from web.practice.models import Attempt, HomeSession  # noqa: E402
from web.practice.usecases.open_session import open_session  # noqa: E402
from web.practice.usecases.save_attempt import PracticeSink  # noqa: E402
from web.programs.queries import active_version  # noqa: E402

settings.ALLOWED_HOSTS = ["testserver"]


def kept(access: ClientAccess) -> dict:
    """An attempt of a page that was opened before the update: it names no routine."""
    session, ticket = open_session(access, session_id=uuid.uuid4(), now=clock.now())
    step = session.version.program.steps[0]
    offer = AttemptOffer(attempt_id=str(uuid.uuid4()), step_id=step.step_id, input="stopwatch")
    end = PracticeSink()
    permit = end.permit(ticket, offer)
    caught = AttemptTaken(taken="stopwatch", sha256="a" * 64, seconds=5.0)
    answer = end.keep(ticket, offer, permit, caught, clock.now())
    return {"routine": session.routine, "status": answer.status}


browser = Browser()
browser.force_login(User.objects.get(email="una@harrow-quay.example"))
seen = {}
attempts, sessions = Attempt.objects.count(), HomeSession.objects.count()
for client in Client.objects.order_by("name"):
    pages = ["review:client", "programs:bench", "clients:baseline"]
    status = [browser.get(reverse(page, args=[client.pk])).status_code for page in pages]
    version = active_version(client.pk)
    access = ClientAccess.objects.get(client=client, revoked_at=None)
    seen[client.name] = {
        "pages": status,
        "stored": version.content["format"],
        "written": data_of(version.program)["format"],
        "kept": kept(access),
    }
print(
    json.dumps(
        {
            "clients": seen,
            "rounds": browser.get(reverse("review:rounds")).status_code,
            "attempts": attempts,
            "sessions": sessions,
            "library": browser.get(reverse("library:library")).status_code,
        }
    )
)
