"""What a sheet says of one home session: its tries, strain, the short version, hoarse this morning, a stop sign."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

from core.program.asked import asked_of
from core.reason import Reason, says
from core.safety.stop import StopSign
from core.sheets.cells import read_cell
from core.sheets.rows import SheetColumn, SheetRow, Wants

_STRAIN = says("sheet_strain", "“{came}”: throat strain is a whole number from 0 to 10")
_SIGN = says("sheet_sign", "“{came}” is no stop sign: {known:list}")
KEPT_BY_DEVICE = says(
    "sheet_kept_by_device",
    "the client's device kept {count} of that day already: is this the same one?",
)
_NOTHING_DONE = says("sheet_only_strain", "strain is said, but nothing was done")


@dataclass(frozen=True, slots=True, kw_only=True)
class PaperTry:
    """One try of a step as it was written down; repetition from 1. Neither seconds nor a count: done. timed: by the
    stopwatch of the page, with the client beside it."""

    step_id: str
    place: int
    repetition: int
    seconds: float | None = None
    count: int | None = None
    timed: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class PaperSession:
    """One home session as it was written down; strain 0–10, None = nothing was said."""

    column: SheetColumn
    tries: tuple[PaperTry, ...] = ()
    strain: int | None = None
    short: bool = False
    hoarser: bool | None = None
    sign: StopSign | None = None

    @property
    def empty(self) -> bool:
        """Whether nothing at all was written into its column."""
        said = (self.strain, self.hoarser, self.sign)
        return not (self.tries or self.short or any(one is not None for one in said))


@dataclass(frozen=True, slots=True)
class Query:
    """A cell that is asked about: its name, why; wrong: it cannot be kept as it is."""

    cell: str
    why: Reason
    wrong: bool


@dataclass(frozen=True, slots=True)
class ReadSheet:
    """What a typed sheet says: sittings with all that fits, and the cells that are asked about."""

    sittings: tuple[PaperSession, ...]
    queries: tuple[Query, ...] = field(default=())


def cell_name(row: SheetRow, column: SheetColumn) -> str:
    """The name of a cell in a form."""
    return f"cell|{row.key}|{column.key}"


def read_sheet(
    rows: Sequence[SheetRow], columns: Sequence[SheetColumn], typed: Mapping[str, str]
) -> ReadSheet:
    """A whole sheet by the names of its cells; a cell that cannot be kept is left out and asked about."""
    sittings, queries = [], []
    for column in columns:
        sitting, asked = _column(rows, column, typed)
        queries += asked
        if not sitting.empty:
            sittings.append(sitting)
    return ReadSheet(tuple(sittings), tuple(queries))


def _column(
    rows: Sequence[SheetRow], column: SheetColumn, typed: Mapping[str, str]
) -> tuple[PaperSession, list[Query]]:
    tries: list[PaperTry] = []
    queries = []
    for row in rows:
        name = cell_name(row, column)
        cell = read_cell(typed.get(name, ""), row)
        timed = bool(typed.get(f"timed{name.removeprefix('cell')}"))
        tries += [replace(one, timed=timed) for one in tries_of(row, cell.values)]
        if why := cell.wrong or cell.odd:
            queries.append(Query(name, why, cell.wrong is not None))
    strain, why = read_strain(typed.get(f"strain|{column.key}", ""))
    if why is not None:
        queries.append(Query(f"strain|{column.key}", why, True))
    sign, why = read_sign(typed.get(f"sign|{column.key}", ""))
    if why is not None:
        queries.append(Query(f"sign|{column.key}", why, True))
    sitting = PaperSession(
        column=column,
        tries=tuple(tries),
        strain=strain,
        short=bool(typed.get(f"short|{column.key}")),
        hoarser=True if typed.get(f"hoarser|{column.key}") else None,
        sign=sign,
    )
    if strain is not None and not tries and not sitting.short and sign is None:
        queries.append(Query(f"strain|{column.key}", _NOTHING_DONE(), False))
    return sitting, queries


def tries_of(row: SheetRow, values: Sequence[float | None]) -> list[PaperTry]:
    """The tries that the numbers of a cell stand for."""
    step = row.step
    if row.wants is Wants.TIMES:
        done = int(values[0] or 0) if values else 0
        places = step.target.attempts
        return [
            PaperTry(
                step_id=step.step_id,
                place=number % places,
                repetition=number // places + 1,
                seconds=asked_of(step, number % places).seconds if step.target.by_clock else None,
            )
            for number in range(done)
        ]
    counted = row.wants is Wants.COUNT
    return [
        PaperTry(
            step_id=step.step_id,
            place=row.place or 0,
            repetition=number,
            seconds=None if counted else value,
            count=int(value) if counted else None,
        )
        for number, value in enumerate(values, start=1)
        if value is not None
    ]


def read_strain(text: str) -> tuple[int | None, Reason | None]:
    """Throat strain as it was typed, and why it cannot be kept."""
    said = text.strip()
    if not said:
        return None, None
    if said.isdecimal() and len(said) <= 2 and int(said) <= 10:
        return int(said), None
    return None, _STRAIN(came=said[:20])


def read_sign(text: str) -> tuple[StopSign | None, Reason | None]:
    """A stop sign by its code, and why it is none."""
    said = text.strip()
    if not said:
        return None, None
    if said in set(StopSign):
        return StopSign(said), None
    return None, _SIGN(came=said[:20], known=tuple(StopSign))
