"""The client's file with the course: home sessions, stop signs, visits and decisions."""

from collections.abc import Sequence
from datetime import date, timedelta
from functools import cached_property
from typing import Any

from django.db.models import Exists, OuterRef, Q

from core.dose.tide import Done
from core.grading.act import Proposal
from core.grading.decide import decisions
from core.grading.history import History, VisitHeld
from core.grading.rule import Rules
from core.reference.values import STRAIN_DAYS
from core.safety.circumstances import Circumstance
from core.safety.condition import Condition
from core.safety.conditions import known_conditions
from core.safety.screening import RedFlag
from core.safety.stop import OpenSign
from web.clients.baseline.view import BaselineView
from web.clients.models import Client
from web.practice.models import Attempt, Entry, HomeSession, Outcome
from web.practice.sessions.before_session import flags_said, stopped
from web.practice.sessions.queries import RecentPractice, done_since, practice_of, strain_said
from web.practice.today.practicable import open_signs
from web.programs.client_file import ClientFile
from web.programs.models import ProgramVersion
from web.programs.queries import prescribed_stretches, rung_changes
from web.review.deciding.proposals import still_to_decide
from web.review.deciding.rule_numbers import RuleOverrides, rule_overrides, rules_with
from web.review.models import Decision, Snooze
from web.review.results import history

KEPT_DAYS = 60
LOOKED_BACK_DAYS = 84
"""The rules look back at most this far; before that only practice days count."""


class CourseFile(ClientFile):
    """The record of one client on one day: intake, program, gate and course.

    since, until: the days whose home sessions are read; None = as far back as the rules look, and the
    day of the file.
    """

    def __init__(
        self, client: Client, today: date, *, since: date | None = None, until: date | None = None
    ) -> None:
        super().__init__(client, today)
        self.since = since
        self.until = until or today

    @cached_property
    def baseline(self) -> BaselineView | None:
        """The latest recorded baseline; the course always reads the first as well."""
        return self.baselines[-1] if self.baselines else None

    @cached_property
    def version(self) -> ProgramVersion | None:
        """The version in force; the course always reads those before it as well."""
        return self.versions[-1] if self.versions else None

    @cached_property
    def stop(self) -> HomeSession | None:
        """The latest home session with an open stop sign."""
        return stopped(self.client).order_by("-started_at").first()

    @cached_property
    def signs(self) -> Sequence[OpenSign]:
        """Open stop signs, oldest first."""
        return open_signs(self.client.pk) if self.stop else ()

    @cached_property
    def flags_said(self) -> Sequence[str]:
        """Red flags reported with the open stop signs."""
        return flags_said(stopped(self.client)) if self.stop else ()

    @cached_property
    def recent(self) -> list[Done]:
        """The home sessions of the last 60 days, as strokes."""
        return done_since(self.client.pk, since=self.today - timedelta(days=KEPT_DAYS))

    @cached_property
    def practice(self) -> RecentPractice:
        """The latest home session of each routine, with attempts and answers."""
        return practice_of(self.client.pk, self.today, self.versions)

    @cached_property
    def strain(self) -> list[Entry]:
        """Every throat strain answer in the days the rules look back over."""
        if "practice" in self.__dict__ and self.since is None:
            since = self.today - timedelta(days=STRAIN_DAYS.number)
            said = [one for one in self.practice.said if one.step_id is not None]
            return [one for one in said if one.home_session.practice_day >= since]
        return strain_said(self.client.pk, self.since or self.today)

    @cached_property
    def last_session(self) -> date | None:
        """The day of the last home session in which anything was done."""
        held = ~Q(outcome=Outcome.OPEN) | Exists(
            Attempt.objects.filter(home_session=OuterRef("pk"))
        )
        rows = HomeSession.objects.filter(held, client=self.client).order_by("-practice_day")
        return rows.values_list("practice_day", flat=True).first()

    @cached_property
    def families(self) -> dict[str, str]:
        """The family (A–K) of every step of every version: a task the clinic adapted is of the family it
        was adapted from."""
        return {
            step.step_id: self.tasks[step.task].family
            for version in self.versions
            for step in version.program.all_steps
            if step.task in self.tasks
        }

    @cached_property
    def visits(self) -> list[list[Any]]:
        """Of each visit, oldest first: day, whether the goal was held, whether the client corrects
        themself, the day of the next, the note."""
        return history.visits_of(self.client)

    @cached_property
    def decided(self) -> list[Decision]:
        """Every decision, oldest first, with what was done about it."""
        rows = Decision.objects.filter(client=self.client).select_related("done")
        return list(rows.order_by("day", "at"))

    @cached_property
    def snoozed(self) -> Snooze | None:
        return Snooze.objects.filter(client=self.client).order_by("-at").first()

    @cached_property
    def rule_overrides(self) -> RuleOverrides:
        """Rule numbers that the clinic changed, or that were changed for this client."""
        return rule_overrides(self.client.clinic, self.client)

    @cached_property
    def rules(self) -> Rules:
        """The rules with the clinic's numbers, and the client's own before those."""
        return rules_with(self.rule_overrides.values())

    @cached_property
    def history(self) -> History | None:
        """The course as input for the grading rules; None without a program."""
        if not self.versions:
            return None
        versions, screening, until = self.versions, self.screening, self.until
        known = known_conditions(screening, until) if screening else frozenset()
        latest = self.measured[-1].view if self.measured else None
        compared = history.phonation_change(self.measured)
        since = self.since or until - timedelta(days=LOOKED_BACK_DAYS)
        sittings = history.sittings_of(self.client, since=since)
        strokes = {(one.day, one.routine) for one in sittings}
        strain = latest.baseline.throat_strain if latest else None
        recorded = latest.baseline.recorded_at if latest else None
        return History(
            program=versions[-1].program,
            active_since=versions[0].active_from,
            sittings=tuple(sittings),
            answers=history.answers(sittings, self.strain),
            stretches=tuple(prescribed_stretches(versions)),
            kept_too=tuple(one for one in self.recent if (one.day, one.routine) not in strokes),
            families=self.families,
            conditions=known,
            open_signs=tuple(self.signs),
            climbs=tuple(rung_changes(versions)),
            decided=tuple(history.decided_of(self.decided)),
            visits=tuple(
                VisitHeld(day=date.fromisoformat(day), goal_held=held, corrects=corrects)
                for day, held, corrects, *_ in self.visits
            ),
            changed_on=versions[-1].active_from if len(versions) > 1 else None,
            strain=None if strain is None else float(strain),
            measured_on=recorded.date() if recorded else None,
            own_sd=latest.probe_sd_semitones if latest and Condition.TREMOR in known else None,
            open_flags=frozenset(RedFlag(flag) for flag in self.flags_said),
            events=tuple(one.on for one in self.living.events),
            injections=(screening.botulinum_on,) if screening and screening.botulinum_on else (),
            hearing_loss=Circumstance.HARD_OF_HEARING in self.living.circumstances,
            well_again_on=history.well_again(screening, versions[0].active_from, until),
            gain_real=compared.real if compared else None,
            fell=bool(compared and compared.real and compared.by < 0),
        )

    def found_on(self, day: date) -> list[Proposal]:
        """Proposals of the rules for a day, assuming no practice until then."""
        return [] if self.history is None else list(decisions(self.history, day, self.rules))

    def to_decide_on(self, day: date) -> list[Proposal]:
        """Those proposals that nobody has decided since the last home session."""
        return still_to_decide(self.found_on(day), self.decided, self.last_session)
