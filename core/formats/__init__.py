"""Open formats in and out. What a program means lives in `core.program`."""
