"""Template words of papers."""
