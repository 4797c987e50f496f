"""A CSV file with the rows of a program, to be filled in by hand or by another program."""

import csv
import io
from datetime import date

from core.program.program import Program
from core.sheets.csv_file import HEADER
from core.sheets.rows import Wants, rows_of


def sample_csv(program: Program, *, day: date) -> str:
    """A row for every try of every routine on one day; seconds and counts are left empty. UTF-8 text with the
    header that `read_csv` asks for."""
    out = io.StringIO(newline="")
    writer = csv.DictWriter(out, HEADER, restval="")
    writer.writeheader()
    for routine in program.routines:
        steps = [step.step_id for step in routine.steps]
        for row in rows_of(routine):
            own = {
                "date": day.isoformat(),
                "routine": routine.key,
                "session": 1,
                "step": steps.index(row.step.step_id) + 1,
            }
            note = "" if row.note is None else row.note.name
            if not note and row.place and row.wants is Wants.SECONDS:
                note = str(row.place + 1)
            for attempt in range(1, row.tries + 1):
                writer.writerow({**own, "note": note, "attempt": attempt})
    return out.getvalue()
