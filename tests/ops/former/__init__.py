"""Backups of former releases, each of three clients of the demo at 2026-06-15.

`release_0_6.backup`: the tables the squashed migrations go on from. `program_format_3.backup`: of a
release before it, in which rungs and reasons were words.
"""
