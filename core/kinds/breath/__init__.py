"""Breathing in and out at a pace."""
