"""What is written into a cell of a practice sheet, as a person writes it: "12,4 11.8", "x", "–"."""

import re
from dataclasses import dataclass

from core.reason import Reason, says
from core.reference.values import HOLD_LONGEST, SHEET_ODD
from core.sheets.rows import MOST_TIMES, SheetRow, Wants

LONGEST_S = 120.0
_SPLIT = re.compile(r"[\s;/]+|,(?=\s)|(?<=\s),")
_NUMBER = re.compile(r"\d{1,4}([.,]\d{1,2})?")
_DONE = {"x", "X", "✓", "✔"}
_NOT_DONE = {"-", "–", "—"}

_NO_NUMBER = says(
    "cell_no_number", "“{came}” is no number: write “12.4 11.8”, “–” for a try that was left out"
)
_TOO_MANY = says("cell_too_many", "{came} numbers, but {tries} tries are asked for")
_SECONDS = says("cell_seconds", "{came:g} s: a try lasts 0.1 to {most_s:g} s")
_COUNT = says("cell_count", "{came:g}: a count is a whole number from 0 to {most}")
_TIMES = says("cell_times", "{came:g} times: a whole number from 0 to {most}")
_ODD_SECONDS = says(
    "cell_odd_seconds", "{came:g} s is more than {times:g} times the {target_s:g} s asked for"
)
_ODD_COUNT = says("cell_odd_count", "{came} counted, {asked} are asked for")
_ODD_TIMES = says("cell_odd_times", "{came} times, {asked} are asked for")


@dataclass(frozen=True, slots=True)
class Cell:
    """What a cell says. values: of each try, None = left out; for times done a single number. wrong: why it
    cannot be kept; odd: why it is asked about before it is kept."""

    values: tuple[float | None, ...] = ()
    wrong: Reason | None = None
    odd: Reason | None = None


def read_cell(text: str, row: SheetRow) -> Cell:
    """A cell as it was typed; no text is nothing done. Decimal commas and points are the same, tries are
    parted by spaces, slashes or semicolons, a dash is a try that was left out."""
    parts = [part for part in _SPLIT.split(text.strip()) if part]
    if not parts:
        return Cell()
    if row.wants is Wants.TIMES:
        return _times(parts, row)
    if len(parts) > row.tries:
        return Cell(wrong=_TOO_MANY(came=len(parts), tries=row.tries))
    values: list[float | None] = []
    for part in parts:
        if part in _NOT_DONE:
            values.append(None)
        elif _NUMBER.fullmatch(part):
            values.append(float(part.replace(",", ".")))
        else:
            return Cell(wrong=_NO_NUMBER(came=part[:20]))
    read = tuple(values)
    given = [value for value in read if value is not None]
    return _seconds(read, given, row) if row.wants is Wants.SECONDS else _counts(read, given, row)


def _seconds(read: tuple[float | None, ...], given: list[float], row: SheetRow) -> Cell:
    for value in given:
        if not 0.1 <= value <= LONGEST_S:
            return Cell(wrong=_SECONDS(came=value, most_s=LONGEST_S))
    longest = max(given, default=0.0)
    most = max(SHEET_ODD.number * row.target_s, 10.0)
    if longest > most or longest > HOLD_LONGEST.number:
        return Cell(
            read, odd=_ODD_SECONDS(came=longest, times=SHEET_ODD.number, target_s=row.target_s)
        )
    return Cell(read)


def _counts(read: tuple[float | None, ...], given: list[float], row: SheetRow) -> Cell:
    for value in given:
        if value != int(value) or not 0 <= value <= MOST_TIMES:
            return Cell(wrong=_COUNT(came=value, most=MOST_TIMES))
    most = max(given, default=0.0)
    if row.count is not None and most > row.count:
        return Cell(read, odd=_ODD_COUNT(came=int(most), asked=row.count))
    return Cell(read)


def _times(parts: list[str], row: SheetRow) -> Cell:
    (part, *more) = parts
    if more:
        return Cell(wrong=_TOO_MANY(came=len(parts), tries=1))
    if part in _NOT_DONE:
        return Cell()
    if part in _DONE:
        return Cell((float(row.tries),))
    if not _NUMBER.fullmatch(part):
        return Cell(wrong=_NO_NUMBER(came=part[:20]))
    value = float(part.replace(",", "."))
    if value != int(value) or value > MOST_TIMES:
        return Cell(wrong=_TIMES(came=value, most=MOST_TIMES))
    if value > row.tries:
        return Cell((float(row.tries),), odd=_ODD_TIMES(came=int(value), asked=row.tries))
    return Cell((value,))
