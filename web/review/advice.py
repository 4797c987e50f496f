"""The climb in draft for the active program: the record as rule D and the rules of strain see it."""

from datetime import date, timedelta

from core.catalogue.words import Growth
from core.dose.tide import Done, kept_of, tide_days
from core.grading.climb import CALL, ClimbAdvice, climb_advice
from core.grading.strain import StrainView, strain_view
from core.plans.program import Program
from core.plans.step import Grade
from core.reason import says
from core.safety.condition import Condition
from core.safety.conditions import known_conditions
from core.safety.screening import Screening
from web.clients.models import Client
from web.clients.queries import BaselineView
from web.practice.queries import Practice, graded_sessions, strains_said
from web.programs.models import ProgramVersion
from web.programs.queries import last_climb, prescribed_stretches

_NO_PROGRAM = says("no_program", "no program is active")
_NO_RULE = says("no_rule", "no rule judges these steps yet: the clinician decides")
_AT_GOAL = says("at_goal", "the goal is the current rung")


def advice_for(
    client: Client,
    practice: Practice,
    versions: list[ProgramVersion],
    recent: list[Done],
    today: date,
    *,
    screening: Screening | None,
    baseline: BaselineView | None,
    stop_open: bool,
) -> ClimbAdvice:
    """What rule D says of the sustained-note ladder, and what strain says of every program."""
    if not versions:
        return ClimbAdvice(False, (_NO_PROGRAM(),))
    program = versions[-1].program
    usual = baseline.baseline.throat_strain if baseline else None
    strain = _strain(client, practice, versions, today, usual)
    grade = program.soft_holds.grade if program.soft_holds else None
    why = None
    if grade is None:
        why = _NO_RULE()
    elif grade.rung + 1 >= len(grade.rungs):
        why = _AT_GOAL()
    if why is not None:
        contact = (CALL(),) if strain.contact else ()
        return ClimbAdvice(False, (*contact, *strain.against, why), strain.eased, strain.contact)
    first, last = today - timedelta(days=7), today - timedelta(days=1)
    own = program.routine_of(program.soft_holds.step_id).key if program.soft_holds else ""
    stretches = prescribed_stretches(versions)
    week = [
        day.of(own) for day in tide_days(stretches, recent, first=first, last=last, today=today)
    ]
    tremor = _usual_with_tremor(screening, baseline, today)
    return climb_advice(
        graded_sessions(practice, program, usual_with_tremor=tremor),
        today=today,
        last_climb=last_climb(versions),
        kept_share_7_days=kept_of(week).share,
        stop_sign_open=stop_open,
        strain=strain,
    )


def eased_names(program: Program | None, advice: ClimbAdvice) -> list[str]:
    """The names of the steps that strain asks to ease."""
    if program is None:
        return []
    return [step.name for step in program.all_steps if step.step_id in advice.ease]


def _strain(
    client: Client,
    practice: Practice,
    versions: list[ProgramVersion],
    today: date,
    baseline: int | None,
) -> StrainView:
    answered_on = versions[-1].active_from if len(versions) > 1 else None
    sessions = [
        practice.strain.get(session.pk)
        for session in reversed(practice.sessions)
        if answered_on is None or session.practice_day >= answered_on
    ]
    return strain_view(
        strains_said(client, practice, versions),
        today=today,
        baseline=None if baseline is None else float(baseline),
        answered_on=answered_on,
        sessions_since=sessions,
    )


def _usual_with_tremor(
    screening: Screening | None, view: BaselineView | None, today: date
) -> float | None:
    """The client's own pitch SD on the soft-hold probes, where a tremor is known."""
    if screening is None or view is None:
        return None
    if Condition.TREMOR not in known_conditions(screening, today):
        return None
    return view.probe_sd_semitones


def hold_grade(program: Program) -> Grade | None:
    """The grade of the held notes: what Rounds shows and the climb of rule D is about."""
    step = program.main_step
    return step.grade if step and step.grade and step.grade.growth is Growth.SECONDS else None
