"""Speech, counting, reading."""
