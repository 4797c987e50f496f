"""Keeps a proposal within the minutes of conditions, client and clinic, and fills those there are."""

from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import partial

from core.dose.load import sessions_a_week
from core.dose.minutes import length_of
from core.errors import PlanError
from core.fitting.known import Limits
from core.fitting.notes import Notes, because
from core.program.step import Phase, Step
from core.proposing.doses import on_fewer_days
from core.proposing.routines import PlannedRoutine
from core.proposing.trim import (
    Weighed,
    minutes_that_count,
    shortened,
    shortened_phase,
    trimmed,
)
from core.reason import Reason, says
from core.safety.condition import Condition, in_plain_words
from core.safety.conditions import Rule, limits_of
from core.safety.program_gate import touches_of

_LIMITED = says("condition_limits", "{having}: {why}.")
_AT_MOST = says("session_at_most", "A home session takes at most {most:g} min.")
_FEWER = says("fewer_on_a_day", "{a_day} home sessions a day, not {asked}.")
_WEEK_AT_MOST = says("week_at_most", "A week takes at most {most:g} min.")
_LESS_OFTEN = says(
    "less_often", "{why} {a_day} a day on {days} days, not {asked_a_day} on {asked_days}."
)

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


def within_school(
    own: list[Weighed], minutes: tuple[float, float] | None
) -> tuple[list[Weighed], list[Reason]]:
    """The steps of a school within its own minutes a home session, and which were left out for it."""
    if minutes is None:
        return own, []
    least, most = minutes
    fitting, said = trimmed(own, most)
    left_out = [one for one in said if one.code == "cut_step"]
    return filled(fitting, least, most, most_repetitions=_MOST_REPETITIONS), left_out


def within_minutes(
    planned: Sequence[PlannedRoutine],
    *,
    conditions: frozenset[Condition],
    limits: Limits,
) -> tuple[list[PlannedRoutine], Notes]:
    """Sittings that keep to the minutes of conditions, of a home session, of a day and of a week, and what was
    cut for it. PlanError("minutes_too_few") where not even the shortest that makes sense fits.
    """
    left, said = list(planned), list[Reason]()
    for rule in limits_of(conditions):
        most = rule.number or 0.0
        why = _LIMITED(having=in_plain_words(rule.having(conditions)), why=rule.why)
        counts = partial(_counts, rule)
        if rule.a_day:
            left = _within_day(left, most, why, said, counts, fewer=bool(rule.touches))
        else:
            first = _cut_first(rule, conditions)
            left = [_cut_to(one, most, why, said, counts, first=first) for one in left]
    for place, one in enumerate(left):
        why = _AT_MOST(most=one.most_min)
        left[place] = _cut_to(one, one.most_min, why, said)
    if limits.minutes_a_week is not None:
        left = _within_week(left, limits.minutes_a_week, said)
    return left, because(*said)


def _cut_first(rule: Rule, conditions: frozenset[Condition]) -> Phase | None:
    """What is shortened first in a minor's session: the semi-occluded part, with hurt folds or throat
    strain the ladder."""
    if not rule.conditions & {Condition.UNDER_TWELVE, Condition.UNDER_SIXTEEN}:
        return None
    hurt = conditions & {Condition.FOLD_LESIONS, Condition.STRAINED}
    return Phase.VOICE if hurt else Phase.SEMI_OCCLUDED


def _within_day(
    planned: list[PlannedRoutine],
    most: float,
    why: Reason,
    said: list[Reason],
    counts: Callable[[Step], bool],
    *,
    fewer: bool,
) -> list[PlannedRoutine]:
    """Fewer sittings, down to two a day, then shorter ones: the minutes of a day are shared.
    fewer: what is limited rests between, so that it comes at most twice even where it fits."""

    def minutes(left: list[PlannedRoutine]) -> float:
        return sum(minutes_that_count(o.steps, counts) * o.dose.sessions_a_day for o in left)

    def sessions(left: list[PlannedRoutine]) -> int:
        return sum(o.dose.sessions_a_day for o in left if minutes_that_count(o.steps, counts))

    left, asked = list(planned), sessions(planned)
    while (fewer or minutes(left) > most) and sessions(left) > _SESSIONS_UNDER_A_DAILY_LIMIT:
        counted = [i for i, one in enumerate(left) if minutes_that_count(one.steps, counts)]
        often = max(counted, key=lambda i: left[i].dose.sessions_a_day)
        if left[often].dose.sessions_a_day == 1:
            break
        left[often] = _less_often(left[often])
    if sessions(left) < asked:
        said.append(_FEWER(a_day=sessions(left), asked=asked))
    if minutes(left) <= most:
        return left
    share = most / sessions(left)
    return [_cut_to(one, share, why, said, counts) for one in left]


def _less_often(one: PlannedRoutine) -> PlannedRoutine:
    return replace(one, dose=replace(one.dose, sessions_a_day=one.dose.sessions_a_day - 1))


def _within_week(
    planned: list[PlannedRoutine], most_week: float, said: list[Reason]
) -> list[PlannedRoutine]:
    def minutes(one: PlannedRoutine) -> float:
        return _minutes(one.steps) * sessions_a_week(one.dose)

    left = list(planned)
    while sum(map(minutes, left)) > most_week:
        longest = sorted(range(len(left)), key=lambda i: -minutes(left[i]))
        often = [i for i in longest if left[i].dose.sessions_a_day > 1]
        daily = [i for i in longest if left[i].dose.days_a_week > _FEWEST_DAYS]
        if often:
            left[often[0]] = _less_often(left[often[0]])
        elif daily:
            dose = left[daily[0]].dose
            fewer = on_fewer_days(dose, dose.days_a_week - 1)
            left[daily[0]] = replace(left[daily[0]], dose=fewer)
        else:
            break
    why = _WEEK_AT_MOST(most=most_week)
    for before, after in zip(planned, left, strict=True):
        if before.dose != after.dose:
            said.append(
                _LESS_OFTEN(
                    why=why,
                    a_day=after.dose.sessions_a_day,
                    days=after.dose.days_a_week,
                    asked_a_day=before.dose.sessions_a_day,
                    asked_days=before.dose.days_a_week,
                )
            )
    total = sum(map(minutes, left))
    if total <= most_week:
        return left
    return [_cut_to(one, _minutes(one.steps) * most_week / total, why, said) for one in left]


def _cut_to(
    one: PlannedRoutine,
    most_min: float,
    why: Reason,
    said: list[Reason],
    counts: Callable[[Step], bool] = lambda _step: True,
    first: Phase | None = None,
) -> PlannedRoutine:
    steps, cuts = list(one.steps), list[Reason]()
    if first is not None:
        steps, cuts = shortened_phase(steps, most_min, first)
    said += [why, *cuts] if cuts else []
    steps = _kept_to(steps, most_min, why, said, counts=counts)
    return replace(one, steps=tuple(steps))


def _kept_to(
    ordered: list[Weighed],
    most_min: float,
    why: Reason,
    said: list[Reason],
    *,
    counts: Callable[[Step], bool] = lambda _step: True,
) -> list[Weighed]:
    left, cuts = trimmed(ordered, most_min, counts=counts)
    if minutes_that_count(left, counts) > most_min:
        left, more = shortened(left, most_min, counts=counts)
        cuts += more
    if (least := minutes_that_count(left, counts)) > most_min + 1e-9:
        raise PlanError("minutes_too_few", most=most_min, least=least)
    said += [why, *cuts] if cuts else []
    return left


def _minutes(weighed: Sequence[Weighed]) -> float:
    return length_of([one.step for one in weighed]).minutes


def _counts(rule: Rule, step: Step) -> bool:
    return not rule.touches or rule.meets(touches_of(step))
