"""A practice log as CSV: a row for each try, an answer for each row."""

import csv
import io
import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date

from core.errors import NoteError
from core.notes.note import Note
from core.program.routine import Routine
from core.reason import Reason, says
from core.sheets.cells import read_cell
from core.sheets.rows import OLDEST_DAYS, SheetColumn, SheetRow, Wants, rows_of
from core.sheets.sitting import PaperSession, PaperTry, read_sign, read_strain, tries_of

HEADER = (
    *("date", "routine", "session", "step", "note", "attempt", "seconds", "count"),
    *("strain", "stop_sign", "short", "hoarser"),
)
NEEDED = ("date", "step")
_OF_ALL = ("strain", "stop_sign", "short", "hoarser")
"""What a row says of its home session as a whole; such a row may have no step."""
MOST_ROWS, MOST_BYTES = 10_000, 4_000_000
_YES, _NO = {"x", "1", "yes", "true"}, {"", "0", "no", "false"}
_GERMAN = re.compile(r"(\d{1,2})\.(\d{1,2})\.(\d{4})")
_DECODERS = ("utf-8-sig", "cp1252")

_DATE = says("csv_date", "“{came}” is no date: write 2026-06-15")
_AHEAD = says("csv_ahead", "{day:day} has not come yet")
_TOO_OLD = says("csv_too_old", "{day:day} is over {most} days ago")
_ROUTINE = says("csv_routine", "“{came}” is no routine of the program: {known:list}")
_STEP = says(
    "csv_step", "“{came}” is no step of the routine: a number from 1 to {steps}, or its name"
)
_NOTE = says("csv_note", "“{came}” is no note of this step: {known:list}")
_NOTE_NEEDED = says("csv_note_needed", "which note? {known:list}")
_TURN = says("csv_session", "“{came}”: the home session of a day is a number from 1 to 6")
_ATTEMPT = says("csv_attempt", "“{came}”: attempts of this step go from 1 to {tries}")
_VALUE = says("csv_value", "this step has {wants}")
_TWICE = says("csv_twice", "the same try stands on line {line} already")
_BOX = says("csv_box", "“{came}”: write x or leave it empty")
_DIFFERS = says("csv_differs", "line {line} says another {what} of this home session")
_WANTS = {
    Wants.SECONDS: "its seconds in “seconds”",
    Wants.COUNT: "its count in “count”",
    Wants.TIMES: "no number: a row is one time that it was done",
}


class CsvRefused(ValueError):
    """A file that is refused whole, with the reason."""

    def __init__(self, why: Reason) -> None:
        self.why = why
        super().__init__(str(why))


_NO_TEXT = says("csv_no_text", "this is no text file: save the table as CSV")
_TOO_LARGE = says("csv_too_large", "a file holds at most {rows} rows")
_NO_HEADER = says(
    "csv_no_header", "the first line has to name the columns; missing: {missing:list}"
)
_EMPTY = says("csv_empty", "there are no rows below the header")


@dataclass(frozen=True, slots=True)
class RowAnswer:
    """What becomes of a line, from 1: why None = it is taken; wrong: it cannot be kept; lost_sign: it says a stop
    sign, and of which home session cannot be told."""

    line: int
    why: Reason | None = None
    wrong: bool = False
    lost_sign: bool = False


@dataclass(frozen=True, slots=True)
class ReadCsv:
    """What a file says: home sessions with all that fits, an answer for each row."""

    sittings: tuple[PaperSession, ...]
    answers: tuple[RowAnswer, ...]


def read_csv(
    data: bytes, routines_on: Callable[[date], Sequence[Routine]], *, today: date
) -> ReadCsv:
    """A file's rows against the program. routines_on: the routines in force on a day; () before the first.

    UTF-8 with or without a byte order mark, UTF-16 with one, else Windows-1252; columns parted by comma,
    semicolon or tab; decimal commas and points. CsvRefused for what is no such table.
    """
    rows = _table(data)
    reading = _Reading(routines_on, today)
    answers = tuple(reading.take(line, row) for line, row in rows)
    return ReadCsv(reading.sittings(), answers)


def _table(data: bytes) -> list[tuple[int, dict[str, str]]]:
    text = _decoded(data)
    first = text.partition("\n")[0]
    parted = max(";,\t", key=first.count)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=parted)
    try:
        lines = [(reader.line_num, row) for row in reader]
    except csv.Error as error:
        raise CsvRefused(_NO_TEXT()) from error
    names = [name.strip().lower() for name in lines[0][1]] if lines else []
    missing = tuple(name for name in NEEDED if name not in names)
    if missing:
        raise CsvRefused(_NO_HEADER(missing=missing))
    found = [
        (line, dict(zip(names, (value.strip() for value in row), strict=False)))
        for line, row in lines[1:]
        if any(value.strip() for value in row)
    ]
    if not found:
        raise CsvRefused(_EMPTY())
    if len(found) > MOST_ROWS:
        raise CsvRefused(_TOO_LARGE(rows=MOST_ROWS))
    return found


def _decoded(data: bytes) -> str:
    if len(data) > MOST_BYTES:
        raise CsvRefused(_TOO_LARGE(rows=MOST_ROWS))
    if data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        try:
            return data.decode("utf-16")
        except UnicodeDecodeError as error:
            raise CsvRefused(_NO_TEXT()) from error
    if b"\x00" in data:
        raise CsvRefused(_NO_TEXT())
    for name in _DECODERS:
        try:
            return data.decode(name)
        except UnicodeDecodeError:
            continue
    raise CsvRefused(_NO_TEXT())


class _Bad(Exception):
    def __init__(self, why: Reason) -> None:
        self.why = why


class _Reading:
    """Collects the rows of a file by home session."""

    def __init__(self, routines_on: Callable[[date], Sequence[Routine]], today: date) -> None:
        self._routines_on, self._today = routines_on, today
        self._sittings: dict[str, PaperSession] = {}
        self._tries: dict[tuple[str, str, int, int], int] = {}
        self._said: dict[tuple[str, str], int] = {}
        self._rows: dict[int, tuple[Routine, tuple[SheetRow, ...]]] = {}

    def sittings(self) -> tuple[PaperSession, ...]:
        return tuple(
            sorted(self._sittings.values(), key=lambda one: (one.column.day, one.column.key))
        )

    def take(self, line: int, row: Mapping[str, str]) -> RowAnswer:
        column = None
        try:
            day = self._day(row.get("date", ""))
            routine = self._routine(day, row.get("routine", ""))
            column = SheetColumn(day=day, routine=routine.key, turn=self._turn(row), asked=True)
            self._with_sign(column, row)
            sitting, found, odd = self._with_said(column, row, line), list[PaperTry](), None
            if row.get("step") or not any(row.get(name) for name in _OF_ALL):
                found, odd = self._tries_in(self._row(routine, row), row, line, column)
        except _Bad as bad:
            lost = column is None and bool(row.get("stop_sign"))
            return RowAnswer(line, bad.why, wrong=True, lost_sign=lost)
        self._sittings[column.key] = replace(sitting, tries=(*sitting.tries, *found))
        for one in found:
            self._tries[(column.key, one.step_id, one.place, one.repetition)] = line
        return RowAnswer(line, odd)

    def _day(self, text: str) -> date:
        parts = _GERMAN.fullmatch(text)
        try:
            day = (
                date(int(parts[3]), int(parts[2]), int(parts[1]))
                if parts
                else date.fromisoformat(text)
            )
        except ValueError as error:
            raise _Bad(_DATE(came=text[:20])) from error
        if day > self._today:
            raise _Bad(_AHEAD(day=day.isoformat()))
        if (self._today - day).days > OLDEST_DAYS:
            raise _Bad(_TOO_OLD(day=day.isoformat(), most=OLDEST_DAYS))
        return day

    def _routine(self, day: date, text: str) -> Routine:
        routines = self._routines_on(day)
        if not text and len(routines) == 1:
            return routines[0]
        for one in routines:
            if one.key == text.lower():
                return one
        raise _Bad(_ROUTINE(came=text[:20], known=tuple(one.key for one in routines)))

    def _turn(self, row: Mapping[str, str]) -> int:
        text = row.get("session", "") or "1"
        if text.isdecimal() and len(text) == 1 and 1 <= int(text) <= 6:
            return int(text)
        raise _Bad(_TURN(came=text[:20]))

    def _row(self, routine: Routine, row: Mapping[str, str]) -> SheetRow:
        _routine, own = self._rows.setdefault(id(routine), (routine, rows_of(routine)))
        text, steps = row.get("step", ""), routine.steps
        step = next((one for one in steps if one.name.casefold() == text.casefold()), None)
        if step is None and text.isdecimal() and len(text) <= 2 and 1 <= int(text) <= len(steps):
            step = steps[int(text) - 1]
        if step is None:
            raise _Bad(_STEP(came=text[:30], steps=len(steps)))
        of_step = [one for one in own if one.step.step_id == step.step_id]
        said = row.get("note", "")
        if len(of_step) == 1 and not said:
            return of_step[0]
        known = tuple(one.note.name if one.note else str((one.place or 0) + 1) for one in of_step)
        if not said:
            raise _Bad(_NOTE_NEEDED(known=known))
        for one in of_step:
            if said == str((one.place or 0) + 1) or (one.note and _note(said) == one.note):
                return one
        raise _Bad(_NOTE(came=said[:20], known=known))

    def _tries_in(
        self, row: SheetRow, said: Mapping[str, str], line: int, column: SheetColumn
    ) -> tuple[list[PaperTry], Reason | None]:
        number = self._number(row, said)
        seconds, count = said.get("seconds", ""), said.get("count", "")
        text = {Wants.SECONDS: seconds, Wants.COUNT: count, Wants.TIMES: ""}[row.wants]
        other = {Wants.SECONDS: count, Wants.COUNT: seconds, Wants.TIMES: count}[row.wants]
        if other or (row.wants is not Wants.TIMES and not text):
            raise _Bad(_VALUE(wants=_WANTS[row.wants]))
        if row.wants is Wants.TIMES:
            made, odd = tries_of(row, (float(number),))[-1:], None
        else:
            cell = read_cell(text, replace(row, tries=1))
            if cell.wrong is not None:
                raise _Bad(cell.wrong)
            made = [replace(one, repetition=number) for one in tries_of(row, cell.values)]
            odd = cell.odd
        for one in made:
            before = self._tries.get((column.key, one.step_id, one.place, one.repetition))
            if before is not None:
                raise _Bad(_TWICE(line=before))
        return made, odd

    def _number(self, row: SheetRow, said: Mapping[str, str]) -> int:
        text = said.get("attempt", "") or "1"
        if text.isdecimal() and len(text) <= 3 and 1 <= int(text) <= row.tries:
            return int(text)
        raise _Bad(_ATTEMPT(came=text[:20], tries=row.tries))

    def _with_sign(self, column: SheetColumn, row: Mapping[str, str]) -> None:
        """A stop sign counts whatever else is wrong in its row."""
        sign, why = read_sign(row.get("stop_sign", ""))
        if why is not None:
            raise _Bad(why)
        if sign is not None:
            sitting = self._sittings.get(column.key) or PaperSession(column=column)
            self._sittings[column.key] = replace(sitting, sign=sitting.sign or sign)

    def _with_said(self, column: SheetColumn, row: Mapping[str, str], line: int) -> PaperSession:
        """The home session with what this row says of it as a whole; what two rows say has to be the same."""
        sitting = self._sittings.get(column.key) or PaperSession(column=column)
        strain, why = read_strain(row.get("strain", ""))
        if why is not None:
            raise _Bad(why)
        said: dict[str, int | bool | None] = {
            "strain": strain,
            "short": _box(row, "short"),
            "hoarser": _box(row, "hoarser"),
        }
        given = {name: value for name, value in said.items() if value is not None}
        for name, value in given.items():
            before = self._said.get((column.key, name))
            if before is not None and getattr(sitting, name) != value:
                raise _Bad(_DIFFERS(line=before, what=name))
        for name in given:
            self._said.setdefault((column.key, name), line)
        return replace(sitting, **given)  # type: ignore[arg-type]


def _box(row: Mapping[str, str], name: str) -> bool | None:
    """True where it is crossed, None where nothing is said."""
    text = row.get(name, "").lower()
    if text in _YES:
        return True
    if text in _NO:
        return None
    raise _Bad(_BOX(came=text[:20]))


def _note(text: str) -> Note | None:
    try:
        return Note.named(text)
    except NoteError:
        return None
