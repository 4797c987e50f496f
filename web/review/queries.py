"""What the Client page reads."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial

from django.utils.safestring import SafeString
from django.utils.translation import gettext as _

from core.dose.tide import Adherence, TideDay, adherence_of
from core.program.program import Program
from core.program.routine import Routine
from core.program.routine_words import routine_name
from web.design.drawings.tide_table import tide_table
from web.practice.models import LevelReset
from web.practice.sessions.levels import conversations, level_references
from web.programs.hold_drawing import program_bed, with_past
from web.programs.models import ProgramVersion
from web.review.caseload.four_weeks import FourWeeks, course_from
from web.review.caseload.row import RowFile
from web.review.deciding.proposals import (
    ProposalShown,
    ToDo,
    shown,
    staying,
    still_to_decide,
    to_do,
)
from web.review.results.sessions import LastSession, changes_of, last_sessions


@dataclass(frozen=True)
class RoutineKept:
    """A routine with what was kept of it in 28 days."""

    routine: Routine
    name: str
    kept: Adherence
    tide: SafeString


@dataclass(frozen=True)
class ClientPage:
    """Everything of the Client page about practice; otherwise: how many numbers of the rules are not as
    shipped."""

    program: Program | None
    version: ProgramVersion | None
    bed: SafeString | None
    routines: list["RoutineKept"]
    kept: object
    proposals: list[ProposalShown]
    staying: list[tuple[str, list[str]]]
    to_do: list[ToDo]
    lasts: list[LastSession]
    otherwise: int
    four_weeks: FourWeeks | None


def client_page(file: RowFile) -> ClientPage:
    """Reed bed with the last home session, tide table, what is proposed and to be done."""
    today, versions, practice = file.today, file.versions, file.practice
    program, proposals = file.program, file.found_on(today)
    lasts = last_sessions(file.client, practice, versions, changes_of(file.history, today))
    days = file.tide(back=28)
    held = [attempt for one in lasts for attempt in one.attempts if not attempt.left_out]
    return ClientPage(
        program=program,
        version=file.version,
        bed=bed_of(program, attempts=held, versions=versions) if program else None,
        routines=[_routine_kept(one, days) for one in program.routines] if program else [],
        kept=adherence_of(days),
        proposals=shown(still_to_decide(proposals, file.decided, file.last_session), program, today)
        if program
        else [],
        staying=staying(proposals, program) if program else [],
        to_do=to_do(file.decided, today),
        lasts=lasts,
        otherwise=len(file.rule_overrides.values()),
        four_weeks=course_from(file.row, today),
    )


def _routine_kept(routine: Routine, days: Sequence[TideDay]) -> RoutineKept:
    own = [day.of(routine.key) for day in days]
    kept = adherence_of(own)
    label = _("%(kept)s of %(prescribed)s home sessions kept in 28 days") % {
        "kept": kept.kept,
        "prescribed": kept.prescribed,
    }
    return RoutineKept(routine, routine_name(routine), kept, tide_table(own, label=label))


@dataclass(frozen=True)
class HomeLevel:
    """One level reference at home, dBFS."""

    device: str
    kind: str
    what: str
    level: float


def home_levels(client_id) -> list[HomeLevel]:
    """The references of every device at home."""
    soft = _("soft holds")
    talk = _("strong work: usual talk")
    return [
        *(HomeLevel(d, LevelReset.SOFT, soft, v) for d, v in level_references(client_id).items()),
        *(
            HomeLevel(d, LevelReset.CONVERSATION, talk, v)
            for d, v in conversations(client_id).items()
        ),
    ]


def bed_of(program: Program, *, attempts=(), versions=()) -> SafeString | None:
    """The reed bed of a program with the attempts of one home session; None where it has no range
    or no held notes."""
    return program_bed(
        program,
        label=_("Range, prescribed holds and the attempts of the last home session"),
        dressed=partial(with_past, attempts=attempts, versions=versions),
    )
