"""How a clinician changes a program by hand; every change gives a new program.

What may be set, and within which limits, stands in `core.program`.
"""
