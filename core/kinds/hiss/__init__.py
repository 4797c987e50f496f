"""A hiss."""
