"""The major scale."""

DEGREES = {1: 0, 2: 2, 3: 4, 4: 5, 5: 7, 6: 9, 7: 11, 8: 12, 9: 14}
"""Semitones of the degrees of the major scale above the start key."""
