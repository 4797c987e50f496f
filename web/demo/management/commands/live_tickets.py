"""Home sessions for the load test: tickets and steps as a practice page would get them."""

import itertools
import json
import uuid

from django.core.management.base import BaseCommand

from web.clients.models import ClientAccess
from web.clinic import clock
from web.clinic.usecases import UsecaseRefused
from web.practice.usecases.open_session import open_session


class Command(BaseCommand):
    help = "Open COUNT home sessions of demo clients; prints one JSON list of starts."

    def add_arguments(self, parser):
        parser.add_argument("count", type=int)

    def handle(self, *, count: int, **options):
        links = ClientAccess.objects.filter(revoked_at=None).select_related("client__clinic")
        starts: list[dict[str, str]] = []
        for access in itertools.cycle([link for link in links if self._open(link)]):
            if len(starts) == count:
                break
            starts.append(self._open(access))
        self.stdout.write(json.dumps(starts))

    def _open(self, access: ClientAccess) -> dict[str, str]:
        try:
            session, ticket = open_session(access, session_id=uuid.uuid4(), now=clock.now())
        except UsecaseRefused:
            return {}
        step = next(s for s in session.version.program.steps if s.holds)
        return {"ticket": ticket.signed(), "step_id": step.step_id}
