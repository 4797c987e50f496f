"""Drawings: plain numbers in, SVG text out; the same for screen, print and tests."""
