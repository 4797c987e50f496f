"""What the Sheet log shows: the rows and columns of a version's routine, what is kept of them, what is asked about."""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import cached_property

from django.utils.translation import gettext as _

from core.program.routine import Routine
from core.sheets.rows import SheetColumn, SheetRow, Wants, columns_of, rows_of
from core.sheets.sitting import KEPT_BY_DEVICE, PaperSession, Query, cell_name
from web.clients.models import Client
from web.design.dates import short_day
from web.design.numbers import number_text
from web.design.speaking import in_their_words
from web.practice.models import Attempt, Entry, HomeSession, Outcome
from web.practice.usecases.save_paper_session import FROM_PAPER, session_id_of
from web.programs.models import ProgramVersion
from web.programs.queries import prescribed_stretches

DAYS = 14


@dataclass(frozen=True)
class CellShown:
    """One cell as it is drawn: name, what stands in it, whether it is kept already, why it is asked about."""

    name: str
    value: str
    kept: bool
    query: Query | None
    column: SheetColumn
    label: str


@dataclass(frozen=True)
class PaperLogLine:
    """A line of the grid: its label, whether a new step begins, its cells."""

    label: str
    wants: str
    begins: str
    cells: list[CellShown]


@dataclass(frozen=True)
class Day:
    """A day of the head: its columns, and how many home sessions the client's device kept."""

    day: date
    columns: list[SheetColumn]
    by_device: int


@dataclass(frozen=True)
class Week:
    days: list[Day]
    lines: list[PaperLogLine]
    boxes: list[PaperLogLine]


class SheetPage:
    """A sheet of one version and routine from a day on, with what was typed and what is kept."""

    def __init__(
        self,
        client: Client,
        versions: Sequence[ProgramVersion],
        version: ProgramVersion,
        routine: Routine,
        *,
        first: date,
        more: int = 0,
    ) -> None:
        self.client, self.version, self.routine, self.first = client, version, routine, first
        self.more = more
        self.typed: Mapping[str, str] = {}
        self.queries: Sequence[Query] = ()
        self.rows = rows_of(routine)
        stretches = prescribed_stretches(versions)
        self.columns = columns_of(routine.key, stretches, first=first, days=DAYS, more=more)
        self.superseded_from = next(
            (one.active_from for one in versions if one.number > version.number), None
        )

    @cached_property
    def asked_about(self) -> list[CellShown]:
        """The cells that are asked about, in the order of the sheet."""
        lines = [line for week in self.weeks for line in (*week.lines, *week.boxes)]
        return [cell for line in lines for cell in line.cells if cell.query]

    @property
    def last(self) -> date:
        return self.first + timedelta(days=DAYS - 1)

    @cached_property
    def weeks(self) -> list[Week]:
        kept, by_device = self._kept(), saved_by_device(self.client, self.columns)
        starts = (self.first, self.first + timedelta(days=7))
        return [self._week(start, kept, by_device) for start in starts]

    def _week(
        self, start: date, kept: Mapping[str, str], by_device: Counter[tuple[date, str]]
    ) -> Week:
        days = [start + timedelta(days=offset) for offset in range(7)]
        columns = [one for one in self.columns if one.day in days]
        heads = [
            Day(d, [c for c in columns if c.day == d], by_device[d, self.routine.key]) for d in days
        ]
        lines, before = [], ""
        for row in self.rows:
            begins = in_their_words(row.step.name) if row.step.step_id != before else ""
            before = row.step.step_id
            label = _label(row)
            cells = [
                self._cell(
                    cell_name(row, c), c, kept, f"{begins or in_their_words(row.step.name)} {label}"
                )
                for c in columns
            ]
            lines.append(PaperLogLine(label, _wants(row), begins, cells))
        boxes = [
            PaperLogLine(
                words, "", "", [self._cell(f"{name}|{c.key}", c, kept, words) for c in columns]
            )
            for name, words in (
                ("strain", _("Throat strain 0–10")),
                ("hoarser", _("Hoarser this morning")),
                ("short", _("Short version")),
                ("sign", _("Stop sign")),
            )
        ]
        return Week(heads, lines, boxes)

    def _cell(
        self, name: str, column: SheetColumn, kept: Mapping[str, str], label: str
    ) -> CellShown:
        there = name in kept
        value = self.typed.get(name, kept.get(name, ""))
        where = f"{label}, {short_day(column.day)}, {column.turn}"
        return CellShown(name, value, there, self._by_cell.get(name), column, where)

    @cached_property
    def _by_cell(self) -> dict[str, Query]:
        """Of two at one cell the one that cannot be kept."""
        return {one.cell: one for one in sorted(self.queries, key=lambda one: one.wrong)}

    def _kept(self) -> dict[str, str]:
        """What is kept from paper already, by the names of the cells."""
        sessions = {session_id_of(self.client.pk, c.key): c for c in self.columns}
        found: dict[str, str] = {}
        rows = Attempt.objects.filter(home_session__in=list(sessions)).order_by("repetition")
        tries: dict[str, list[Attempt]] = {}
        by_place = {
            (row.step.step_id, row.place): row for row in self.rows if row.place is not None
        }
        whole = {row.step.step_id: row for row in self.rows if row.place is None}
        for attempt in rows:
            step_id, column = str(attempt.step_id), sessions[attempt.home_session_id]
            row = by_place.get((step_id, attempt.place)) or whole.get(step_id)
            if row is not None:
                tries.setdefault(cell_name(row, column), []).append(attempt)
        for name, own in tries.items():
            numbers = [one.seconds if one.count is None else one.count for one in own]
            is_times = name.split("|")[1].endswith(".all")
            found[name] = (
                str(len(own)) if is_times else " ".join(f"{n:g}" for n in numbers if n is not None)
            )
        tried = {one.home_session_id for own in tries.values() for one in own}
        for session in HomeSession.objects.filter(pk__in=list(sessions)):
            key = sessions[session.pk].key
            # with tries, how much was done says by itself whether it was short
            short = session.outcome == Outcome.SHORT and session.pk not in tried
            boxes = {
                "hoarser": session.hoarser,
                "short": short,
                "sign": session.stop_sign,
            }
            found |= {f"{box}|{key}": str(value) for box, value in boxes.items() if value}
        strains = Entry.objects.filter(home_session__in=list(sessions), kind="strain")
        found |= {f"strain|{sessions[one.home_session_id].key}": str(one.value) for one in strains}
        return found

    def doubtful(self, sittings: Sequence[PaperSession]) -> list[Query]:
        """Home sessions the device may have kept already, asked about at their strain."""
        asked = Counter((one.day, one.routine) for one in self.columns if one.asked)
        found = maybe_saved(self.client, sittings, asked)
        return [
            Query(f"strain|{key}", KEPT_BY_DEVICE(count=count), False)
            for key, count in found.items()
        ]


def saved_by_device(client: Client, columns: Sequence[SheetColumn]) -> Counter[tuple[date, str]]:
    """Home sessions the client's own device kept on the days of these columns, by day and routine."""
    days = [one.day for one in columns]
    rows = HomeSession.objects.filter(client=client, practice_day__in=days)
    rows = rows.exclude(clock=FROM_PAPER).exclude(outcome=Outcome.OPEN)
    return Counter(rows.values_list("practice_day", "routine"))


def maybe_saved(
    client: Client, sittings: Sequence[PaperSession], asked: Mapping[tuple[date, str], int]
) -> dict[str, int]:
    """Home sessions that may be the same as one the device kept: more than were asked for that day together with those;
    by the name of the column, how many it kept. What is kept from paper already is not asked about again."""
    columns = [one.column for one in sittings]
    by_device = saved_by_device(client, columns)
    ids = {one.key: session_id_of(client.pk, one.key) for one in columns}
    kept = set(HomeSession.objects.filter(pk__in=ids.values()).values_list("pk", flat=True))
    found = {}
    for one in columns:
        day = (one.day, one.routine)
        over = by_device[day] + one.turn > max(asked.get(day, 0), 1)
        if by_device[day] and over and ids[one.key] not in kept:
            found[one.key] = by_device[day]
    return found


def _label(row: SheetRow) -> str:
    if row.note is not None:
        return f"{row.note.name} · {number_text(row.target_s)} s"
    if row.wants is Wants.SECONDS:
        return f"{number_text(row.target_s)} s"
    return _("done") if row.wants is Wants.TIMES else _("count of %(most)s") % {"most": row.count}


def _wants(row: SheetRow) -> str:
    """What a cell takes, in short: "s ×2"."""
    if row.wants is Wants.SECONDS:
        return f"s ×{row.tries}" if row.tries > 1 else "s"
    return f"0–{row.tries}" if row.wants is Wants.TIMES else f"0–{row.count} ×{row.tries}"
