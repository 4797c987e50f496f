"""Keeps a proposal within the minutes of conditions, client and clinic, and fills those there are."""

from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import partial

from core.dose.load import sessions_a_week
from core.dose.minutes import length_of
from core.errors import PlanError
from core.plans.dosing import Dose
from core.plans.known import Fitting, Limits
from core.plans.step import Step
from core.proposing.doses import on_fewer_days
from core.proposing.trim import Weighed, minutes_that_count, shortened, trimmed
from core.safety.condition import Condition, in_plain_words
from core.safety.conditions import Rule, limits_of
from core.safety.program_gate import touches_of

_MOST_REPETITIONS = 10
_FEWEST_DAYS = 3
_SESSIONS_UNDER_A_DAILY_LIMIT = 2


def filled(
    own: list[Weighed], least_min: float, most_min: float, *, most_repetitions: int
) -> list[Weighed]:
    """More repetitions of what has fewest, until the steps take at least so many minutes and never
    more than the most; what is done by the clock last."""
    left = list(own)
    while _minutes(left) < least_min:
        ordered = sorted(
            (i for i, one in enumerate(left) if one.step.repetitions < most_repetitions),
            key=lambda i: (left[i].step.target.by_clock, left[i].step.repetitions),
        )
        for place in ordered:
            step = left[place].step
            more = replace(left[place], step=replace(step, repetitions=step.repetitions + 1))
            tried = [*left[:place], more, *left[place + 1 :]]
            if _minutes(tried) <= most_min:
                left = tried
                break
        else:
            return left
    return left


def within_school(own: list[Weighed], minutes: tuple[float, float] | None) -> list[Weighed]:
    """The steps of a school within its own minutes a home session."""
    if minutes is None:
        return own
    least, most = minutes
    fitting, _said = trimmed(own, most)
    return filled(fitting, least, most, most_repetitions=_MOST_REPETITIONS)


def within_minutes(
    ordered: list[Weighed],
    dose: Dose,
    *,
    conditions: frozenset[Condition],
    limits: Limits,
    most_min: float,
    shared: Fitting,
) -> tuple[list[Weighed], Dose]:
    """Steps and dose that keep to the minutes of conditions, a home session and a week.

    most_min: of a home session. What was cut stands in `shared.reasons`. PlanError
    ("minutes_too_few") where not even the shortest that makes sense fits.
    """
    for rule in limits_of(conditions):
        most = rule.number or 0.0
        if rule.a_day:
            sessions = min(dose.sessions_a_day, _SESSIONS_UNDER_A_DAILY_LIMIT)
            if sessions < dose.sessions_a_day and any(_counts(rule, o.step) for o in ordered):
                shared.reason(f"{sessions} home sessions a day, not {dose.sessions_a_day}.")
                dose = replace(dose, sessions_a_day=sessions)
            most /= dose.sessions_a_day
        names = in_plain_words(sorted(rule.conditions & conditions)[0])
        why = f"{names}: {rule.reason}."
        ordered = _kept_to(ordered, most, why, shared, counts=partial(_counts, rule))
    why = f"A home session takes at most {most_min:g} min."
    ordered = _kept_to(ordered, most_min, why, shared)
    if limits.minutes_a_week is None:
        return ordered, dose
    return _within_week(ordered, dose, limits.minutes_a_week, shared)


def _within_week(
    ordered: list[Weighed], dose: Dose, most_week: float, shared: Fitting
) -> tuple[list[Weighed], Dose]:
    asked = dose
    while _minutes(ordered) * sessions_a_week(dose) > most_week:
        if dose.sessions_a_day > 1:
            dose = replace(dose, sessions_a_day=dose.sessions_a_day - 1)
        elif dose.days_a_week > _FEWEST_DAYS:
            dose = on_fewer_days(dose, dose.days_a_week - 1)
        else:
            break
    why = f"A week takes at most {most_week:g} min."
    if dose != asked:
        shared.reason(
            f"{why} {dose.sessions_a_day} a day on {dose.days_a_week} days, not "
            f"{asked.sessions_a_day} on {asked.days_a_week}."
        )
    return _kept_to(ordered, most_week / sessions_a_week(dose), why, shared), dose


def _kept_to(
    ordered: list[Weighed],
    most_min: float,
    why: str,
    shared: Fitting,
    *,
    counts: Callable[[Step], bool] = lambda _step: True,
) -> list[Weighed]:
    left, said = trimmed(ordered, most_min, counts=counts)
    if minutes_that_count(left, counts) > most_min:
        left, more = shortened(left, most_min, counts=counts)
        said += more
    if (least := minutes_that_count(left, counts)) > most_min + 1e-9:
        raise PlanError("minutes_too_few", most=most_min, least=least, asked=shared.asked)
    for words in (why, *said) if said else ():
        shared.reason(words)
    return left


def _minutes(weighed: Sequence[Weighed]) -> float:
    return length_of([one.step for one in weighed]).minutes


def _counts(rule: Rule, step: Step) -> bool:
    return not rule.touches or rule.meets(touches_of(step))
