"""A task listened to while it is tried in the visit: measured as it would be for this client, and not kept."""

from typing import Any

from django.conf import settings
from django.utils.translation import gettext as _

from core.errors import CoreError
from core.kinds.registry import target_of
from core.program.step import Step
from core.proposing.add_task import fitted_step
from web.clients.models import Client
from web.clinic import clock
from web.clinic.models import Membership
from web.measuring.sinks import AttemptOffer, AttemptTaken, Permit, Refused, SaveAnswer
from web.measuring.tickets import Ticket
from web.programs.client_file import ClientFile
from web.programs.plan_request import BaselineMissing, plan_request


def trying_data(request, file: ClientFile) -> dict[str, Any]:
    """For the page: a ticket, and of every task that is measured and that this client may try what it asks for."""
    ticket = Ticket(
        purpose="tried",
        clinic=str(request.clinic.pk),
        client=str(file.client.pk),
        holder=str(request.user.pk),
        sitting=str(file.client.pk),
        issued_at=clock.now().isoformat(),
    )
    return {
        "ticket": ticket.signed(),
        "simulated_voice": settings.OFFER_SIMULATED_VOICE,
        "tasks": _tasks(file) if file.baseline else {},
    }


def _tasks(file: ClientFile) -> dict[str, dict[str, Any]]:
    wanted, found = plan_request(file), {}
    for key in file.tasks:
        try:
            step = fitted_step(wanted, file.tasks, key)
        except CoreError:
            continue
        if step.measured:
            found[key] = _asked(step, file.client.clinic.a4_hz)
    return found


def _asked(step: Step, a4_hz: float) -> dict[str, Any]:
    asked = step.target.asked(0)
    return {
        "kind": step.measured,
        "aim": asked.aim,
        "hz": round(asked.note.hz(a4_hz), 2) if asked.note else None,
    }


class TrialSink:
    """Where what is tried ends: nothing is kept of it; the step of an offer is the key of the task."""

    def permit(self, ticket: Ticket, offer: AttemptOffer) -> Permit:
        member = Membership.objects.select_related("clinic").filter(
            user_id=ticket.holder, clinic_id=ticket.clinic, active=True
        )
        client = Client.objects.filter(pk=ticket.client, clinic_id=ticket.clinic).first()
        if client is None or not member.exists():
            raise Refused(4401, 403, "not_a_member", _("Sign in again."))
        file = ClientFile.now(client)
        try:
            step = fitted_step(plan_request(file), file.tasks, offer.step_id)
        except BaselineMissing as missing:
            raise Refused(4403, 403, "no_baseline", missing.words) from missing
        except CoreError as error:
            words = _("This client cannot do this task, or must not.")
            raise Refused(4403, 403, "contraindicated", words) from error
        if step.measured is None:
            raise Refused(4403, 403, "step_unknown", _("This task is not measured."))
        asked = step.target.asked(0)
        return Permit(
            task=step.measured,
            target=target_of(step.measured, asked.aim),
            target_s=asked.seconds,
            a4_hz=client.clinic.a4_hz,
            for_client=False,
            strong=step.level is not None,
        )

    def keep(
        self, ticket: Ticket, offer: AttemptOffer, permit: Permit, caught: AttemptTaken, now
    ) -> SaveAnswer:
        """Nothing to keep: what the clinician judges of it is logged by hand."""
        return SaveAnswer("kept", offer.attempt_id)
