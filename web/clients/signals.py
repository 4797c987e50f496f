"""Sent inside the transaction that changed something Rounds shows; arguments: client_id, and
session_id where it was something of one home session, sessions where it was of several."""

from django.dispatch import Signal

record_changed = Signal()

practice_goes_on = Signal()
"""Sent with client_id where something of an open home session was kept: what is worked out of the record
follows soon, not within the answer."""
