"""What a former version left behind: `program_format_2.backup` was written by the version before
routines, from three clients of the demo at 2026-06-15."""
