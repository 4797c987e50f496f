"""What each client needs on the coming days, kept with every write so that a day alone needs no run."""

from collections.abc import Sequence
from datetime import date, timedelta
from functools import cached_property
from typing import Any

from django.db.models import Q, QuerySet

from core.dose.tide import Adherence, adherence_of
from core.grading.act import Proposal
from core.grading.need import ClientFacts, Need, Needed, need_of
from core.reason import reasons_data
from core.safety.gate import Gate
from web.clinic.records import Unreadable
from web.review.caseload.row import RowFile, days_of
from web.review.course_file import CourseFile
from web.review.deciding.proposals import step_names
from web.review.models import CaseloadRow, ComingNeed, Decision

DAYS_AHEAD = 60
PROPOSED_DAYS = 14
"""After two weeks without practice no rule proposes anything new: the client has lapsed by then."""
_MOST_WORDS, _LONGEST = 3, 400
_ALWAYS = date.min
"""What is needed first holds on days before too: it may be yesterday still where the clinic is."""


class ComingDays:
    """One client on the coming days, if nothing happens meanwhile."""

    def __init__(self, file: CourseFile, row: CaseloadRow) -> None:
        self._file = file
        self._row = row
        self._last = file.today + timedelta(days=PROPOSED_DAYS)

    def needed_on(self, day: date) -> Needed:
        """What is needed on a day; what rests on practice is as on the last day looked at."""
        known = min(day, self._last)
        if known == self._last:
            proposals, kept = self._at_last
        else:
            proposals, kept = self._looked_at(known)
        row = self._row
        facts = ClientFacts(
            stop_sign_open=bool(row.stop_sign),
            set_aside=row.set_aside,
            gate_closed=not self._gate(day).opens(""),
            has_baseline=row.has_baseline,
            active_since=row.active_since,
            last_session=row.last_session,
            kept_14_days=kept.kept,
            prescribed_14_days=kept.prescribed,
            added_14_days=kept.added,
            task_due=self.task.due_on if self.task else None,
        )
        return need_of(facts, proposals, day)

    @cached_property
    def _at_last(self) -> tuple[Sequence[Proposal], Adherence]:
        return self._looked_at(self._last)

    def _looked_at(self, day: date) -> tuple[Sequence[Proposal], Adherence]:
        kept = adherence_of(days_of(self._row, today=day, back=14))
        try:
            return self._file.to_decide_on(day), kept
        except Unreadable:
            return (), kept  # what is urgent stands in the row, which can be read

    def _gate(self, day: date) -> Gate:
        return RowFile(self._row, day).running_gate

    @cached_property
    def task(self) -> Decision | None:
        """The task that is due first of those not done."""
        due = [
            (row.due_on, row) for row in self._file.decided if row.to_do and row.due_on is not None
        ]
        return min(due, key=lambda pair: pair[0])[1] if due else None

    def since(self, needed: Needed) -> date | None:
        """What makes one client come before another of the same need."""
        row = self._row
        return {
            Need.STOP_SIGN: row.stop_sign_on,
            Need.LAPSED: row.last_session or row.active_since,
            Need.TASK_DUE: self.task.due_on if self.task else None,
        }.get(needed.need)

    def stored(self, needed: Needed, first: date, until: date | None) -> ComingNeed:
        """As it is kept, from a day to the day before another."""
        client = self._file.client
        made: dict[str, Any] = {"act": "", "about": "", "words": []}
        if needed.proposal is not None:
            made = self._made_by(needed.proposal)
        elif needed.need is Need.TASK_DUE and self.task is not None:
            about = self.task.evidence.get("about", "")
            made = {"act": self.task.act, "about": about[:_LONGEST], "words": []}
        elif needed.need is Need.EXAMINATION and self._row.active_since is not None:
            blocks = self._gate(max(first, self._file.today)).blocks
            made["words"] = reasons_data(blocks[:_MOST_WORDS])
        return ComingNeed(
            clinic_id=client.clinic_id,
            client=client,
            from_day=first,
            until_day=until,
            need=needed.need,
            since=self.since(needed),
            **made,
        )

    def _made_by(self, proposal: Proposal) -> dict[str, Any]:
        program = self._file.program
        about = step_names(proposal, program) if program else []
        return {
            "act": proposal.act.value,
            "about": ", ".join(about)[:_LONGEST],
            "words": reasons_data(proposal.reasons[:_MOST_WORDS]),
        }


def needs_on(rows: QuerySet[ComingNeed], day: date) -> QuerySet[ComingNeed]:
    """Of each client the one that holds on a day."""
    return rows.filter(Q(until_day=None) | Q(until_day__gt=day), from_day__lte=day)


def in_order(rows: QuerySet[ComingNeed]) -> QuerySet[ComingNeed]:
    """Most urgent first, the longest waiting before the others, then by name."""
    return rows.order_by("need", "since", "client__name", "pk")
