"""Rows of archives that former releases wrote, as today's tables hold them."""

from collections.abc import Mapping
from typing import Any

READ = ("still-reed/record/2", "still-reed/record/3")
"""Formats of a record that are read; the last is the one that is written."""

_TABLES_OF_THREE = frozenset({"voice_reports"})

_DAYS_OF_TWO = (
    *("clear_since", "usual_voice_since", "cuff_safe_on", "valve_tolerated_on"),
    *("upper_airway_seen_on", "surgeons_date", "botulinum_on", "paralysis_since"),
    *("throat_operated_on", "movement_examined_on", "voice_changing", "tone_heard"),
)


def has_table(format_name: str, table: str) -> bool:
    """Whether a record of that format has the table."""
    return format_name == READ[-1] or table not in _TABLES_OF_THREE


def as_today(format_name: str, table: str, row: Any) -> Any:
    """A row of that table and format with the columns it has today.

    In format 2 a red flag that is not named was asked about and absent, and a surgeon's release had no
    limits; the state of the voice and the airway were not asked. What is no row is returned as it came.
    """
    if format_name == READ[-1] or not isinstance(row, Mapping):
        return row
    if table == "client":
        return {**row, "telephone": "", "pitch_hidden": False}
    if table == "visit_note_being_written":
        return {**row, "entries": []}
    if table == "decisions_done":
        return {**row, "day": None, "said": "", "then": ""}
    if table == "screenings":
        release = "full" if row.get("released_on") else ""
        new = {"unasked": [], "voice": "", "airway": "", "release": release}
        return {**row, **new, **dict.fromkeys(_DAYS_OF_TWO)}
    return row
