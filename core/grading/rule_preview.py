"""What other numbers of the rules would have proposed in the past weeks."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta

from core.grading.act import Act, Proposal
from core.grading.decide import decisions
from core.grading.history import History
from core.grading.rule import Rules
from core.program.program import Program

DAYS = 56
"""So far back it is looked, eight weeks."""
Programs = Sequence[tuple[date, Program]]
"""Every program of a client with the day it came into force, oldest first."""


@dataclass(frozen=True, slots=True, kw_only=True)
class ProposalDifference:
    """A proposal that the other numbers would have made on more days, or on fewer.

    about: names of its steps; more: whether it would have been made on these days, else it would not;
    days: on how many days, from the first to the last of them.
    """

    act: Act
    about: tuple[str, ...]
    more: bool
    days: int
    first: date
    last: date


def as_of(history: History, programs: Programs, day: date) -> History | None:
    """The history as it stood on a day: what was in force, climbed, decided and held until then; None
    before the first program. Stop signs that were open then are those with which a session ended."""
    in_force = [(since, program) for since, program in programs if since <= day]
    if not in_force:
        return None
    return replace(
        history,
        program=in_force[-1][1],
        changed_on=in_force[-1][0] if len(in_force) > 1 else None,
        open_signs=(),
        climbs=tuple(one for one in history.climbs if one.day <= day),
        decided=tuple(one for one in history.decided if one.day <= day),
        visits=tuple(one for one in history.visits if one.day <= day),
    )


def differences(
    history: History, programs: Programs, now: Rules, other: Rules, *, until: date, days: int = DAYS
) -> list[ProposalDifference]:
    """What the other numbers would have proposed otherwise on each of the days up to `until`."""
    found: dict[tuple[Act, tuple[str, ...], bool], list[date]] = {}
    for back in range(days - 1, -1, -1):
        day = until - timedelta(days=back)
        then = as_of(history, programs, day)
        if then is None:
            continue
        before = set(_named(then, decisions(then, day, now)))
        after = set(_named(then, decisions(then, day, other)))
        for more, ones in ((True, after - before), (False, before - after)):
            for act, about in ones:
                found.setdefault((act, about, more), []).append(day)
    return [
        ProposalDifference(act=act, about=about, more=more, days=len(on), first=on[0], last=on[-1])
        for (act, about, more), on in sorted(found.items(), key=lambda item: item[1][0])
    ]


def _named(
    history: History, proposals: Sequence[Proposal]
) -> Iterator[tuple[Act, tuple[str, ...]]]:
    names = {step.step_id: step.name for step in history.program.all_steps}
    for one in proposals:
        if one.act is not Act.STAY:
            yield one.act, tuple(names[step] for step in one.steps if step in names)
