"""Listening, with consent, and remarks on what was heard."""
