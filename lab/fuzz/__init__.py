"""Odd input at every door: what it may be told, it is told in words, and nothing is half-saved."""
