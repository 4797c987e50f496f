"""A number of the rules is set for a client or the clinic, or taken back."""

from django.db import transaction
from django.utils.translation import gettext as _

from core.grading.rule import numbers, rules
from web.clients.models import Client
from web.clients.signals import record_changed
from web.clinic.models import Clinic, User
from web.clinic.refusal import UsecaseRefused
from web.review.deciding.rule_numbers import RuleOverrides, _by_client, rule_overrides, rules_with
from web.review.models import RuleNumber

LONGEST_REASON = 300


@transaction.atomic
def set_number(
    clinic: Clinic,
    client: Client | None,
    *,
    path: str,
    value: float | None,
    reason: str,
    by: User,
    now,
) -> RuleNumber:
    """Set a number for a client or the whole clinic (None), or take it back (value None).

    UsecaseRefused for an unknown path, a value that contradicts another, or no reason; then nothing
    changes. Of a client Rounds follows at once, of the clinic by `bring_up_to_date`.
    """
    Clinic.objects.select_for_update().get(pk=clinic.pk)
    reason = " ".join(reason.split())[:LONGEST_REASON]
    if not reason:
        raise UsecaseRefused(_("Say why; nothing was changed."))
    if path not in numbers(rules()):
        raise UsecaseRefused(_("No rule has this number; nothing was changed."))
    rules_with(rule_overrides(clinic, client).with_number(path, value, own=client is not None))
    if client is None:
        _fits_clients(clinic, path, value)
    row = RuleNumber.objects.create(
        clinic=clinic, client=client, path=path, value=value, reason=reason, by=by, at=now
    )
    if client is not None:
        record_changed.send(RuleNumber, client_id=client.pk)
    return row


def _fits_clients(clinic: Clinic, path: str, value: float | None) -> None:
    """UsecaseRefused, naming the first client whose own numbers a number of the clinic contradicts: their
    rules could not be read any more."""
    rows = RuleNumber.objects.filter(clinic=clinic).select_related("client").order_by("at")
    by_client = _by_client(rows)
    ours = by_client.pop(None, {})
    for own in by_client.values():
        if not own:
            continue
        try:
            rules_with(RuleOverrides(ours, own).with_number(path, value, own=False))
        except UsecaseRefused as refused:
            client = next(iter(own.values())).client
            words = _("It contradicts an own number of %(name)s: %(why)s")
            name = client.name if client else ""
            raise UsecaseRefused(words % {"name": name, "why": refused.words}) from refused
