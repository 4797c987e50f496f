"""A task listened to while it is tried in the visit: measured as it would be for this client, and not kept."""

from typing import Any

from django.conf import settings
from django.utils.translation import gettext as _

from core.errors import CoreError
from core.kinds.registry import target_of
from core.program.step import Step
from core.proposing.adding import fitted_step
from core.proposing.request import PlanRequest
from web.clients.models import Client
from web.clinic import clock
from web.clinic.models import Membership
from web.library.queries import catalogue_of
from web.measuring.ends import Caught, Kept, Offer, Permit, Refused
from web.measuring.tickets import Ticket
from web.programs.starting import asked_of


def trying_data(request, client: Client, today) -> dict[str, Any]:
    """For the page: a ticket, and of every task that is measured and that this client may try what it asks for."""
    ticket = Ticket(
        purpose="tried",
        clinic=str(request.clinic.pk),
        client=str(client.pk),
        holder=str(request.user.pk),
        sitting=str(client.pk),
        issued_at=clock.now().isoformat(),
    )
    return {
        "ticket": ticket.signed(),
        "simulated_voice": settings.OFFER_SIMULATED_VOICE,
        "tasks": _tasks(client, asked_of(client, today)),
    }


def _tasks(client: Client, wanted: PlanRequest | None) -> dict[str, dict[str, Any]]:
    if wanted is None:
        return {}
    catalogue = catalogue_of(client.clinic)
    found = {}
    for key in catalogue:
        try:
            step = fitted_step(wanted, catalogue, key)
        except CoreError:
            continue
        if step.measured:
            found[key] = _asked(step, client.clinic.a4_hz)
    return found


def _asked(step: Step, a4_hz: float) -> dict[str, Any]:
    asked = step.target.asked(0)
    return {
        "kind": step.measured,
        "aim": asked.aim,
        "hz": round(asked.note.hz(a4_hz), 2) if asked.note else None,
    }


class TriedEnd:
    """Where what is tried ends: nothing is kept of it; the step of an offer is the key of the task."""

    def permit(self, ticket: Ticket, offer: Offer) -> Permit:
        member = Membership.objects.select_related("clinic").filter(
            user_id=ticket.holder, clinic_id=ticket.clinic, active=True
        )
        client = Client.objects.filter(pk=ticket.client, clinic_id=ticket.clinic).first()
        if client is None or not member.exists():
            raise Refused(4401, 403, "not_a_member", _("Sign in again."))
        wanted = asked_of(client, clock.local_date(clock.now(), client.time_zone))
        if wanted is None:
            raise Refused(4403, 403, "no_baseline", _("Record a baseline first."))
        try:
            step = fitted_step(wanted, catalogue_of(client.clinic), offer.step_id)
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

    def keep(self, ticket: Ticket, offer: Offer, permit: Permit, caught: Caught, now) -> Kept:
        """Nothing to keep: what the clinician judges of it is logged by hand."""
        return Kept("kept", offer.attempt_id)
