"""Phrases spoken near a note."""
