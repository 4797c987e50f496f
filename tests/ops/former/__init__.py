"""What former versions left behind, each from three clients of the demo at 2026-06-15:
`program_format_2.backup` was written by the version before routines, `program_format_3.backup` by the
version in which rungs and reasons were words, with two tasks that its clinic had adapted."""
