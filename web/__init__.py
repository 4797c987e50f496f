"""Shows and keeps; calls the core, never the other way."""
