"""Template tags of this app."""
