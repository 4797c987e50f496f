"""A practice sheet: what a cell may say, which tries it stands for, and the same as CSV."""

from datetime import date

import pytest

from core.dose.tide import Prescribed
from core.errors import PlanError
from core.program.dosing import Dose
from core.safety.stop import StopSign
from core.sheets.cells import read_cell
from core.sheets.csv_file import CsvRefused, read_csv
from core.sheets.rows import SheetColumn, Wants, columns_of, rows_of
from core.sheets.sample import sample_csv
from core.sheets.sitting import cell_name, read_sheet
from tests.core.fitted import proposed

TODAY = date(2026, 6, 15)
LADDER = "ladder"


@pytest.fixture(scope="module")
def program():
    return proposed("sustained").program


@pytest.fixture(scope="module")
def routine(program):
    return program.routine(LADDER)


@pytest.fixture(scope="module")
def rows(routine):
    return rows_of(routine)


def column(day=TODAY, turn=1):
    return SheetColumn(day=day, routine=LADDER, turn=turn, asked=True)


def test_the_sheet_mirrors_the_program(rows):
    """One line for the warm-up note, one for each glide, one for each of the five notes, two tries each."""
    assert [(r.wants, r.tries, r.note and r.note.name) for r in rows] == [
        (Wants.SECONDS, 2, "E♭4"),
        (Wants.TIMES, 2, None),
        (Wants.TIMES, 2, None),
        (Wants.SECONDS, 2, "B♭3"),
        (Wants.SECONDS, 2, "C4"),
        (Wants.SECONDS, 2, "D4"),
        (Wants.SECONDS, 2, "E♭4"),
        (Wants.SECONDS, 2, "F4"),
    ]


@pytest.mark.parametrize(
    ("text", "values"),
    [
        ("12.4 11.8", (12.4, 11.8)),
        ("12,4 11,8", (12.4, 11.8)),
        ("12,4; 11,8", (12.4, 11.8)),
        ("12, 11", (12.0, 11.0)),
        ("9/8", (9.0, 8.0)),
        ("– 8", (None, 8.0)),
        ("  7  ", (7.0,)),
        ("", ()),
        ("   ", ()),
    ],
)
def test_seconds_as_people_write_them(rows, text, values):
    cell = read_cell(text, rows[3])
    assert cell.values == values
    assert cell.wrong is None
    assert cell.odd is None


@pytest.mark.parametrize("text", ["0", "121", "12 11 10", "abc", "12..4", "-5", "1e9", "12.444"])
def test_seconds_that_cannot_be(rows, text):
    assert read_cell(text, rows[3]).wrong is not None


def test_more_than_twice_what_is_asked_is_asked_about(rows):
    """The rung is 6.5 s: 13 s is still believed, 14 s is asked about, and neither is lost."""
    assert read_cell("13", rows[3]).odd is None
    odd = read_cell("14", rows[3])
    assert odd.odd is not None
    assert odd.values == (14.0,)


def test_what_is_done_is_ticked_as_often_as_it_was(rows, routine):
    read = read_sheet(rows, [column()], {cell_name(rows[1], column()): "x"})
    (sitting,) = read.sittings
    glide = rows[1].step
    assert [(t.step_id, t.place, t.repetition, t.seconds) for t in sitting.tries] == [
        (glide.step_id, 0, 1, None),
        (glide.step_id, 0, 2, None),
    ]


def test_a_cell_that_cannot_be_leaves_the_others(rows):
    typed = {
        cell_name(rows[3], column()): "7 200",
        cell_name(rows[4], column()): "6.5 7",
        f"strain|{column().key}": "11",
    }
    read = read_sheet(rows, [column()], typed)
    assert [t.seconds for t in read.sittings[0].tries] == [6.5, 7.0]
    assert {(q.cell, q.wrong) for q in read.queries} == {
        (cell_name(rows[3], column()), True),
        (f"strain|{column().key}", True),
    }


def test_a_stop_sign_alone_is_a_home_session(rows):
    read = read_sheet(rows, [column()], {f"sign|{column().key}": "light_headed"})
    assert [one.sign for one in read.sittings] == [StopSign.LIGHT_HEADED]


def test_an_untouched_column_is_no_home_session(rows):
    assert read_sheet(rows, [column()], {}).sittings == ()


def test_two_columns_a_day_and_one_where_none_is_asked_for():
    dose = Dose(sessions_a_day=2, days_a_week=5, weekdays=(1, 2, 3, 4, 5), starts_on=TODAY)
    stretch = Prescribed(routine=LADDER, first=TODAY, last=None, dose=dose)
    found = columns_of(LADDER, [stretch], first=TODAY, days=7)
    assert [(c.day.day, c.turn, c.asked) for c in found][:2] == [(15, 1, True), (15, 2, True)]
    assert [(c.day.day, c.asked) for c in found][-2:] == [(20, False), (21, False)]
    assert len(found) == 12


@pytest.mark.parametrize(
    "key", ["", "2026-06-15.ladder", "2026-13-01.ladder.1", "2026-06-15.ladder.9", "a.b.c"]
)
def test_a_column_that_is_none(key):
    with pytest.raises(PlanError):
        SheetColumn.named(key)


def read(text, program, encoding="utf-8"):
    return read_csv(text.encode(encoding), lambda _day: program.routines, today=TODAY)


HEAD = "date,routine,session,step,note,attempt,seconds,count,strain,stop_sign,short,hoarser\n"
ROW = "2026-06-14,ladder,1,4,C4,1,6.5,,2,,,\n"


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "cp1252"])
def test_a_file_in_any_usual_encoding(program, encoding):
    found = read(HEAD + ROW, program, encoding)
    (sitting,) = found.sittings
    assert [(t.seconds, t.repetition) for t in sitting.tries] == [(6.5, 1)]
    assert sitting.strain == 2


@pytest.mark.parametrize("parted", [";", "\t"])
def test_other_separators_and_a_decimal_comma(program, parted):
    text = HEAD.replace(",", parted) + ROW.replace(",", parted).replace("6.5", "6,5")
    assert [t.seconds for t in read(text, program).sittings[0].tries] == [6.5]


@pytest.mark.parametrize(
    ("row", "code"),
    [
        ("2026-06-16,ladder,1,4,C4,1,6.5,,,,,", "csv_ahead"),
        ("2026-02-30,ladder,1,4,C4,1,6.5,,,,,", "csv_date"),
        ("06/07/2026,ladder,1,4,C4,1,6.5,,,,,", "csv_date"),
        ("2025-01-01,ladder,1,4,C4,1,6.5,,,,,", "csv_too_old"),
        ("2025-05-12,ladder,1,4,C4,1,6.5,,,,,", "csv_too_old"),
        ("2026-06-14,ladder,1,4,A4,1,6.5,,,,,", "csv_note"),
        ("2026-06-14,ladder,1,4,H4,1,6.5,,,,,", "csv_note"),
        ("2026-06-14,ladder,1,4,,1,6.5,,,,,", "csv_note_needed"),
        ("2026-06-14,ladder,1,9,C4,1,6.5,,,,,", "csv_step"),
        ("2026-06-14,waltz,1,4,C4,1,6.5,,,,,", "csv_routine"),
        ("2026-06-14,ladder,7,4,C4,1,6.5,,,,,", "csv_session"),
        ("2026-06-14,ladder,1,4,C4,3,6.5,,,,,", "csv_attempt"),
        ("2026-06-14,ladder,1,4,C4,1,650,,,,,", "cell_seconds"),
        ("2026-06-14,ladder,1,4,C4,1,,3,,,,", "csv_value"),
        ("2026-06-14,ladder,1,4,C4,1,6.5,,12,,,", "sheet_strain"),
        ("2026-06-14,ladder,1,4,C4,1,6.5,,,tired,,", "sheet_sign"),
        ("2026-06-14,ladder,1,4,C4,1,6.5,,,,maybe,", "csv_box"),
    ],
)
def test_a_row_that_cannot_be_kept_says_why(program, row, code):
    found = read(HEAD + ROW + row + "\n", program)
    assert [(a.line, a.wrong, a.why and a.why.code) for a in found.answers] == [
        (2, False, None),
        (3, True, code),
    ]
    assert sum(len(one.tries) for one in found.sittings) == 1


def test_the_same_try_twice_names_the_line(program):
    found = read(HEAD + ROW + ROW, program)
    assert found.answers[1].why.code == "csv_twice"
    assert found.answers[1].why.params == {"line": 2}


def test_two_rows_that_say_another_strain(program):
    found = read(HEAD + ROW + ROW.replace(",1,6.5,,2", ",2,6.5,,5"), program)
    assert found.answers[1].why.code == "csv_differs"


def test_a_stop_sign_is_read_though_its_row_is_wrong(program):
    found = read(HEAD + "2026-06-14,ladder,1,4,C4,1,650,,,choking,,\n", program)
    assert [one.sign for one in found.sittings] == [StopSign.CHOKING]


def test_a_stop_sign_nobody_can_place_is_told(program):
    found = read(HEAD + "someday,ladder,1,4,C4,1,6,,,choking,,\n", program)
    assert found.answers[0].lost_sign


@pytest.mark.parametrize(
    ("data", "code"),
    [
        (b"", "csv_no_header"),
        (b"\x89PNG\x00\x00", "csv_no_text"),
        (b"name,age\nx,3\n", "csv_no_header"),
        (HEAD.encode(), "csv_empty"),
        (HEAD.encode() + ROW.encode() * 10_001, "csv_too_large"),
    ],
)
def test_a_file_that_is_refused_whole(program, data, code):
    with pytest.raises(CsvRefused) as refused:
        read_csv(data, lambda _day: program.routines, today=TODAY)
    assert refused.value.why.code == code


def test_the_sample_is_read_once_it_is_filled_in(program, rows):
    """Every row of the sample is a try of the program."""
    lines = sample_csv(program, day=TODAY).splitlines()
    filled = [lines[0]]
    for line in lines[1:]:
        parts = line.split(",")
        if parts[4]:
            parts[6] = "6.5"
        filled.append(",".join(parts))
    found = read("\n".join(filled), program)
    assert not [one for one in found.answers if one.why]
    assert sum(len(one.tries) for one in found.sittings) == sum(row.tries for row in rows)
