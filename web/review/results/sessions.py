"""Home sessions with their attempts and what each step came to."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from statistics import mean
from typing import Any

from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy, ngettext

from core.grading.course import Course, course_of
from core.grading.history import History
from core.program.program import Program
from core.program.routine_words import routine_name
from core.program.step import Step
from web.clients.models import Client
from web.design.speaking import in_their_words
from web.figures.words import number_of, slope_of
from web.measuring.measurement_page import in_short
from web.practice.models import USUAL_TALK, Attempt, Entry, HomeSession
from web.practice.sessions.levels import conversations, level_references, resets_of
from web.practice.sessions.queries import RecentPractice, attempts_in
from web.programs.models import ProgramVersion
from web.review.results.step_figures import References, StepCame, steps_came


@dataclass(frozen=True)
class LastSession:
    """A home session of a routine with its attempts, its mean throat strain, 0–10, what each step came to,
    and what the client said of the day and of pain."""

    session: HomeSession
    name: str
    attempts: list[Attempt]
    strain: float | None
    came: list[StepCame]
    told: list[str] = field(default_factory=list)


def last_sessions(
    client: Client,
    practice: RecentPractice,
    versions: Sequence[ProgramVersion],
    changes: Mapping[str, str],
) -> list[LastSession]:
    """The newest home session of each routine, newest first."""
    references = References(soft=practice.references, talk=practice.talk)
    by_id = {version.pk: version.program for version in versions}
    newest: dict[str, HomeSession] = {}
    for session in practice.sessions:
        newest.setdefault(session.routine, session)
    found = []
    for session in newest.values():
        program = by_id[session.version_id]
        attempts = [a for a in practice.attempts if a.home_session_id == session.pk]
        came = _came(client, program, attempts, references, changes)
        name = routine_name(program.routine(session.routine)) if len(newest) > 1 else ""
        found.append(LastSession(session, name, attempts, practice.strain.get(session.pk), came))
    return found


def one_session(client: Client, session: HomeSession) -> LastSession:
    """Any home session of a client."""
    program = session.version.program
    attempts = attempts_in(HomeSession.objects.filter(pk=session.pk))
    resets = resets_of(client.pk)
    references = References(
        soft=level_references(client.pk, resets=resets), talk=conversations(client.pk, resets)
    )
    said = Entry.objects.filter(home_session=session, kind="strain").values_list("value", flat=True)
    strain = mean(float(value) for value in said) if said else None
    came = _came(client, program, attempts, references, {})
    name = routine_name(program.routine(session.routine))
    return LastSession(session, name, attempts, strain, came, answers_in(session))


def answers_in(session: HomeSession) -> list[str]:
    """What the client said of the day before it and of pain in it, in words; nothing that was not asked."""
    lines: list[str] = []
    names = step_names(session.version.program)
    for entry in session.entries.filter(kind__in=["before", "pain"]).order_by("at", "pk"):
        if entry.kind == "pain":
            values = {"step": names.get(str(entry.step_id), ""), "pain": entry.value}
            lines.append(_("%(step)s: pain %(pain)s of 10") % values)
        else:
            lines += [words % said for key, words in _BEFORE.items() if (said := _said(entry, key))]
    return lines


_BEFORE = {
    "pain": gettext_lazy("before it: pain %(value)s of 10"),
    "tired": gettext_lazy("tired %(value)s of 10"),
    "medication_min": gettext_lazy("%(value)s minutes since the last medication"),
    "gasped": gettext_lazy("gasped for air the last time"),
    "hoarser": gettext_lazy("hoarser than usual that morning"),
    "soft_high_lost": gettext_lazy("soft high notes gone for over a day"),
}


def _said(entry: Entry, key: str) -> dict[str, Any] | None:
    """The answer as values for its words; None where it was not asked, not answered or no."""
    value = entry.value.get(key)
    return None if value is None or value is False else {"value": value}


def _came(
    client: Client,
    program: Program,
    attempts: list[Attempt],
    references: References,
    changes: Mapping[str, str],
) -> list[StepCame]:
    names, steps = step_names(program), {one.step_id: one for one in program.all_steps}
    for attempt in attempts:
        attempt.step_name = names.get(str(attempt.step_id), "")
        attempt.number = _number(attempt, steps.get(str(attempt.step_id)))
        attempt.in_short = in_short(attempt.measurement, a4_hz=client.clinic.a4_hz)
    return steps_came(program.all_steps, attempts, references, names, changes)


def _number(attempt: Attempt, step: Step | None) -> str:
    """Which attempt of its step it is: the repetition; of breaths, keys and pieces without a note
    of their own the place, after the repetition where there are several."""
    if step is None or step.target.attempts == 1 or attempt.note:
        return str(attempt.repetition)
    place = str(attempt.place + 1)
    return place if step.repetitions == 1 else f"{attempt.repetition}.{place}"


def step_names(program: Program) -> dict[str, str]:
    """The name of each step by its id, the one for bad days and usual talk among them."""
    own = {step.step_id: in_their_words(step.name) for step in program.all_steps}
    return {str(USUAL_TALK): _("Usual talk"), **own}


def changes_of(history: History | None, today: date) -> dict[str, str]:
    """Whether what each step is followed by changes, in words, by the id of the step."""
    if history is None:
        return {}
    return {
        step.step_id: _change_words(course_of(step, history, until=today))
        for step in history.program.steps
    }


def _change_words(course: Course) -> str:
    code = course.code
    if not course.bests:
        return ""
    trend, shift = course.trend, course.shift
    if trend.slope is None or trend.low is None or trend.high is None:
        return ngettext(
            "Whether it changes is told after %(count)s more home session.",
            "Whether it changes is told after %(count)s more home sessions.",
            course.missing,
        ) % {"count": course.missing}
    values = {
        "by": slope_of(code, trend.slope),
        "low": slope_of(code, trend.low, unit=False),
        "high": slope_of(code, trend.high),
        "latest": number_of(code, shift.now) if shift.now is not None else "",
    }
    if trend.real:
        return (
            _("%(by)s a week (%(low)s to %(high)s): more than the usual day-to-day spread.")
            % values
        )
    if shift.real and shift.by is not None:
        values["by"] = slope_of(code, shift.by)
        return (
            _(
                "%(by)s against the five home sessions before: more than the usual day-to-day spread."
            )
            % values
        )
    return _("%(by)s a week (%(low)s to %(high)s): within the usual day-to-day spread.") % values
