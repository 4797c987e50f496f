"""Whether home sessions meet a part of a rule; what is not known is neither yes nor no."""

import math
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from core.grading.history import PastSession, StepDone, Trial
from core.grading.rule import Bound, RulePart

Own = Mapping[str, float]
"""The client's own usual value of a figure, where a tremor is known."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Matched:
    """How many of the home sessions (or days) looked at meet a part of a rule.

    met, unknown: how many; looked: of how many, days: on how many days these lie; holds: whether the
    part holds.
    """

    met: int
    unknown: int
    looked: int
    days: int
    holds: bool


def matched(part: RulePart, sessions: Sequence[tuple[PastSession, StepDone]], own: Own) -> Matched:
    """The last home sessions of these (oldest first) against a part of a rule."""
    looked = _looked_at(part, sessions)
    return _counted(part, [(sitting.day, meets(part, done, own)) for sitting, done in looked])


def matched_by_clock(
    part: RulePart, sessions: Sequence[tuple[PastSession, StepDone]], own: Own
) -> bool:
    """Whether the part would hold if the home sessions that were not heard counted by what a
    stopwatch tells: then a step is ready by the clock, and climbs once it is heard."""
    told = tuple(bound for bound in part.when if bound.figure == "share")
    if not told or all(done.heard for _sitting, done in sessions[-part.of :]):
        return False
    by_clock = part.model_copy(update={"when": told, "besides": ()})
    found = [
        (sitting.day, meets(part if done.heard else by_clock, done, own))
        for sitting, done in _looked_at(part, sessions)
    ]
    return _counted(part, found).holds


def _looked_at(
    part: RulePart, sessions: Sequence[tuple[PastSession, StepDone]]
) -> Sequence[tuple[PastSession, StepDone]]:
    """The last home sessions, or those of the last days, that a part looks at."""
    if part.by == "session":
        return sessions[-part.of :]
    days = sorted({sitting.day for sitting, _done in sessions})[-part.of :]
    return [(sitting, done) for sitting, done in sessions if sitting.day in days]


def _counted(part: RulePart, found: list[tuple[date, bool | None]]) -> Matched:
    looked = _by_day(found) if part.by == "day" else found
    hits = [day for day, met in looked if met]
    days = len({day for day, _met in looked})
    enough = len(hits) >= part.need and len(set(hits)) >= part.on_days
    return Matched(
        met=len(hits),
        unknown=sum(met is None for _day, met in looked),
        looked=len(looked),
        days=days,
        holds=enough and days >= part.days,
    )


def _by_day(found: Iterable[tuple[date, bool | None]]) -> list[tuple[date, bool | None]]:
    """A day meets where every home session of it does."""
    days: dict[date, list[bool | None]] = {}
    for day, met in found:
        days.setdefault(day, []).append(met)
    return [(day, every(own)) for day, own in days.items()]


def meets(part: RulePart, done: StepDone, own: Own) -> bool | None:
    """Whether one home session of a step meets a part; None = not known."""
    if part.each == "session":
        return every(
            [*(holds(b, done.of_session, own, done) for b in part.when), _besides(part, done, own)]
        )
    if part.each == "note":
        found = list(_by_note(part, done, own).values())
        asked = done.notes
    else:
        found = [every(holds(b, t.figures.get, own, done) for b in part.when) for t in done.trials]
        asked = max(done.asked, len(found))
    return every([_as_many(part, found, asked), _besides(part, done, own)])


def _by_note(part: RulePart, done: StepDone, own: Own) -> dict[str, bool | None]:
    """Each note: met by one attempt that meets everything, or, where the part says so, by all."""
    notes: dict[str, list[bool | None]] = {}
    for trial in done.trials:
        met = every(holds(bound, trial.figures.get, own, done) for bound in part.when)
        notes.setdefault(trial.note, []).append(met)
    take = every if part.every else some
    return {note: take(found) for note, found in notes.items()}


def _as_many(part: RulePart, found: Sequence[bool | None], asked: int) -> bool | None:
    met, unknown = found.count(True), found.count(None)
    if part.under_share is not None:
        known = [one for one in found if one is not None]
        if not found:
            return None
        # Over all attempts made: what is not known could be either.
        most = 100.0 * (known.count(True) + unknown) / len(found)
        least = 100.0 * known.count(True) / len(found)
        if most < part.under_share:
            return True
        return None if least < part.under_share else False
    needed = part.count or math.ceil(round((part.share or 100.0) * asked / 100.0, 6))
    if met >= needed:
        return True
    return None if met + unknown >= needed else False


def _besides(part: RulePart, done: StepDone, own: Own) -> bool | None:
    return every(holds(bound, done.of_session, own, done) for bound in part.besides)


def holds(
    bound: Bound, figure: Callable[[str], float | None], own: Own, done: StepDone
) -> bool | None:
    """Whether a figure lies within its bound; None = it is not known."""
    value = figure(bound.figure)
    if value is None:
        return True if bound.only_where and bound.figure not in done.figures else None
    if bound.least is not None:
        return value >= bound.least
    if bound.most is not None:
        return value <= most_allowed(bound, own)
    return value < bound.under if bound.under is not None else value > (bound.over or 0.0)


def most_allowed(bound: Bound, own: Own) -> float:
    """The upper bound; the larger of it and the client's own by the rule's share (with a tremor), or of it
    and so much over the baseline's, where the rule says so."""
    usual, most = own.get(bound.figure), bound.most or 0.0
    if usual is None:
        return most
    if bound.own is not None:
        most = max(most, bound.own * usual)
    if bound.over_baseline is not None:
        most = max(most, usual + bound.over_baseline)
    return most


def every(found: Iterable[bool | None]) -> bool | None:
    """False where one is, else None where one is not known, else True."""
    known = list(found)
    if False in known:
        return False
    return None if None in known else True


def some(found: Iterable[bool | None]) -> bool | None:
    """True where one is, else None where one is not known, else False."""
    known = list(found)
    if True in known:
        return True
    return None if None in known else False


def failing(part: RulePart, done: StepDone, own: Own) -> list[str]:
    """The figures of a part that keep attempts (or the session) from meeting it, most frequent first."""
    often: dict[str, int] = {}
    whole: Trial | StepDone = done
    looked: Sequence[Trial | StepDone] = done.trials if part.each != "session" else [whole]
    for one in looked:
        figure = one.of_session if isinstance(one, StepDone) else one.figures.get
        for bound in part.when:
            if holds(bound, figure, own, done) is False:
                often[bound.figure] = often.get(bound.figure, 0) + 1
    for bound in part.besides:
        if holds(bound, done.of_session, own, done) is False:
            often[bound.figure] = often.get(bound.figure, 0) + 1
    return sorted(often, key=lambda figure: -often[figure])
