"""Sent inside the transaction that changed something Rounds shows; argument: client_id."""

from django.dispatch import Signal

record_changed = Signal()
