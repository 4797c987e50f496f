"""Staff, roles, clinic scope, thresholds, outbox, access events."""
