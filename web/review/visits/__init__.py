"""Visits: what is due, tried and taught, the visit note, snoozing and handing over."""
