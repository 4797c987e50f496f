"""Proposals of the rules, the clinician's decisions, contacts that are due, and the thresholds of the rules."""
