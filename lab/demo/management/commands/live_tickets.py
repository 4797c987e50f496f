"""Home sessions for the load test: tickets and steps as a practice page would get them."""

import itertools
import json
import uuid

from django.core.management.base import BaseCommand, CommandError

from web.clients.models import ClientAccess
from web.clinic import clock
from web.clinic.refusal import UsecaseRefused
from web.practice.today.practicable import practicable
from web.practice.usecases.open_session import open_session
from web.programs.client_file import ClientFile


class Command(BaseCommand):
    help = "Open COUNT home sessions of demo clients; prints one JSON list of starts."

    def add_arguments(self, parser):
        parser.add_argument("count", type=int)

    def handle(self, *, count: int, **options):
        links = ClientAccess.objects.filter(revoked_at=None).select_related("client__clinic")
        able = [(link, step_id) for link in links if (step_id := self._held_step(link))]
        if not able:
            raise CommandError(
                "No client of the demo holds notes: nothing to load the sockets with."
            )
        starts: list[dict[str, str]] = []
        for access, step_id in itertools.cycle(able):
            if len(starts) == count:
                break
            _session, ticket = open_session(access, session_id=uuid.uuid4(), now=clock.now())
            starts.append({"ticket": ticket.signed(), "step_id": step_id})
        self.stdout.write(json.dumps(starts))

    def _held_step(self, access: ClientAccess) -> str | None:
        """A step of held notes that this client may practice now, or None."""
        try:
            session, _ticket = open_session(access, session_id=uuid.uuid4(), now=clock.now())
        except UsecaseRefused:
            return None
        can = practicable(ClientFile.now(access.client), session.version.program, but=session)
        steps = can.of(session.routine).steps
        return next((s.step_id for s in steps if s.holds and s.kind == "hold"), None)
