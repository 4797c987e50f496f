"""What was held, home session by home session: the rows of the Season drawing and of its table."""

import itertools
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from statistics import fmean
from typing import NamedTuple

from core.catalogue.words import Growth
from core.grading.course import Course, Point, course_between, figure_of
from core.grading.history import History, PastSession, StepDone, Trial
from core.grading.rule import Rules, StepRule
from core.grading.rule_match import every, holds
from core.grading.step_rules import own_of
from core.program.program import Program
from core.program.step import Step
from core.program.targets import Holds


@dataclass(frozen=True, slots=True, kw_only=True)
class SeasonReed:
    """One home session in a row: the sitting's key and day, the value, the rung it was done on and what
    with, what was asked for, and whether it was as it should be beside that (soft and steady, or strong);
    None = not known."""

    sitting: str
    day: date
    value: float
    rung: int = 0
    device: str = ""
    target: float | None = None
    calm: bool | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class SeasonRow:
    """One note of a step, or a step as a whole. of: the note or key, "" = the whole step; code:
    its figure; course: where it leads."""

    step_id: str
    name: str
    of: str
    code: str
    reeds: tuple[SeasonReed, ...]
    course: Course


@dataclass(frozen=True, slots=True, kw_only=True)
class Season:
    """Every row from a day to a day; strain: the mean of each home session that was answered; away:
    stretches of seven days and more without a home session, first and last day."""

    first: date
    last: date
    rows: tuple[SeasonRow, ...]
    sittings: tuple[PastSession, ...]
    strain: tuple[tuple[date, float], ...]
    away: tuple[tuple[date, date], ...]


def season_of(history: History, rules: Rules, *, first: date, last: date) -> Season:
    """The season of a client; rows of what was never done in it are left out."""
    sittings = tuple(one for one in history.in_order(until=last) if one.day >= first)
    rows = [
        row
        for routine in history.program.routines
        for step in routine.steps
        for row in _rows(step, history, rules, sittings)
        if row.reeds
    ]
    return Season(
        first=first,
        last=last,
        rows=tuple(rows),
        sittings=sittings,
        strain=tuple((one.day, mean) for one in sittings if (mean := _strain(one)) is not None),
        away=tuple(_away(history, rules, first, last)),
    )


class StepPoint(NamedTuple):
    """A step in one home session: the mean over its notes, what was asked for, and whether at least half
    of the notes of which it is known were as they should be; None = not known."""

    day: date
    value: float
    target: float | None
    calm: bool | None


@dataclass(frozen=True, slots=True, kw_only=True)
class StepCourse:
    """One step over all its notes: the code of its figure, a point a home session, where it leads."""

    step_id: str
    name: str
    code: str
    points: tuple[StepPoint, ...]
    course: Course


def step_courses(found: Season) -> tuple[StepCourse, ...]:
    """The course of every step that was practiced, in the order of the program."""
    rows: dict[str, list[SeasonRow]] = {}
    for row in found.rows:
        rows.setdefault(row.step_id, []).append(row)
    return tuple(_step_course(own) for own in rows.values())


def _step_course(rows: Sequence[SeasonRow]) -> StepCourse:
    of_sitting: dict[str, list[SeasonReed]] = {}
    for row in rows:
        for reed in row.reeds:
            of_sitting.setdefault(reed.sitting, []).append(reed)
    in_order = sorted(of_sitting.values(), key=lambda reeds: reeds[0].day)
    first = rows[0]
    means = [
        Point(reeds[0].day, fmean(reed.value for reed in reeds), reeds[0].rung, reeds[0].device)
        for reeds in in_order
    ]
    return StepCourse(
        step_id=first.step_id,
        name=first.name,
        code=first.code,
        points=tuple(
            StepPoint(mean.day, mean.value, _asked_for(reeds), _mostly_calm(reeds))
            for mean, reeds in zip(means, in_order, strict=True)
        ),
        course=course_between(first.code, means),
    )


def _asked_for(reeds: Sequence[SeasonReed]) -> float | None:
    return max((reed.target for reed in reeds if reed.target is not None), default=None)


def _mostly_calm(reeds: Sequence[SeasonReed]) -> bool | None:
    known = [reed.calm for reed in reeds if reed.calm is not None]
    return 2 * sum(known) >= len(known) if known else None


def main_course(found: Season, program: Program) -> StepCourse | None:
    """The course of the first ladder that was practiced, of its step with the most notes (a warm-up
    only goes with them); else of the first step that was; None where nothing was."""
    keys = {step.step_id: step.grade.key for step in program.all_steps if step.grade}
    ladder = next((keys[row.step_id] for row in found.rows if row.step_id in keys), None)
    notes = Counter(row.step_id for row in found.rows if keys.get(row.step_id) == ladder)
    if not notes:
        return None
    leading = max(notes, key=lambda step_id: notes[step_id])
    return _step_course([row for row in found.rows if row.step_id == leading])


def _rows(
    step: Step, history: History, rules: Rules, sittings: Sequence[PastSession]
) -> Iterator[SeasonRow]:
    rule = rules.of(step, history.families.get(step.step_id, ""))
    code = figure_of(step)
    notes: list[tuple[str, str]] = [("", "")]
    if isinstance(step.target, Holds):
        notes = [(f"{n} {hold.note.name}", hold.note.name) for n, hold in enumerate(step.holds)]
    for key, name in notes:
        reeds = tuple(_reeds(step, rule, history, sittings, code, key))
        yield SeasonRow(
            step_id=step.step_id,
            name=step.name,
            of=name,
            code=code,
            reeds=reeds,
            course=course_between(code, [Point(r.day, r.value, r.rung, r.device) for r in reeds]),
        )


def _reeds(
    step: Step,
    rule: StepRule | None,
    history: History,
    sittings: Sequence[PastSession],
    code: str,
    note: str,
) -> Iterator[SeasonReed]:
    for sitting in sittings:
        for done in sitting.steps:
            if done.step_id != step.step_id:
                continue
            best = _best(done, code, note)
            if best is None:
                continue
            value, trial = best
            yield SeasonReed(
                sitting=sitting.key,
                day=sitting.day,
                value=value,
                rung=done.rung,
                device=done.device,
                target=_target(step, done.rung, code, rule),
                calm=_calm(rule, done, trial, history),
            )


def _best(done: StepDone, code: str, note: str) -> tuple[float, Trial | None] | None:
    """The best attempt at a note, or the figure of the whole step."""
    if not note:
        whole = done.of_session(code)
        if whole is not None:
            return whole, None
    own = [one for one in done.trials if not note or one.note == note]
    known = [(value, one) for one in own if (value := one.figures.get(code)) is not None]
    return max(known, key=lambda pair: pair[0], default=None)


def _calm(
    rule: StepRule | None, done: StepDone, trial: Trial | None, history: History
) -> bool | None:
    """Whether all but the length is as the rule asks."""
    if rule is None or trial is None:
        return None
    bounds = [bound for bound in rule.climb.when if bound.figure != "share"]
    return every(holds(bound, trial.figures.get, own_of(history), done) for bound in bounds)


def _target(step: Step, rung: int, code: str, rule: StepRule | None) -> float | None:
    """What was asked for on that rung, in the unit of the figure."""
    grade = step.grade
    growth = {"best_s": Growth.SECONDS, "over_db": Growth.DECIBELS}.get(code)
    if grade is not None and grade.growth is growth and rung < len(grade.rungs):
        return grade.rungs[rung]
    if code == "over_db":
        return step.level.over_db if step.level else None
    if rule is None:
        return None
    return next((bound.least for bound in rule.climb.when if bound.figure == code), None)


def _strain(sitting: PastSession) -> float | None:
    said = [done.said["strain"] for done in sitting.steps if "strain" in done.said]
    return sum(said) / len(said) if said else None


def _away(history: History, rules: Rules, first: date, last: date) -> Iterator[tuple[date, date]]:
    days = sorted({one.day for one in history.sittings} | {one.day for one in history.kept_too})
    ends = [*(day for day in days if day <= last), last + timedelta(days=1)]
    for before, after in itertools.pairwise(ends):
        if (after - before).days > rules.common.away_days and after > first:
            yield max(before + timedelta(days=1), first), after - timedelta(days=1)
