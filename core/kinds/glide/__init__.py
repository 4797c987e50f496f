"""A slide from note to note."""
