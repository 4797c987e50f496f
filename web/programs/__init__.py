"""Drafts and versions of programs, the Bench."""
