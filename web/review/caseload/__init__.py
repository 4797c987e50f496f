"""Rounds: what each client needs, ordered; kept in a row for each client with every write."""
