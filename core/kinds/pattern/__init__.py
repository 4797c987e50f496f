"""The notes of a scale pattern."""
