"""Sent inside the transaction that changed something Rounds shows; arguments: client_id, and
session_id where it was something of one home session."""

from django.dispatch import Signal

record_changed = Signal()
