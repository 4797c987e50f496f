"""What the rules propose for a client on a day, the first that acts before the others."""

from dataclasses import replace
from datetime import date

from core.grading.act import Act, Proposal
from core.grading.course_rules import fallen, of_course, stage_back, strain_of
from core.grading.history import History
from core.grading.rule import Rules, rules
from core.grading.step_rules import NO_RULE, Group, eased, groups_of, of_group, pitch_review
from core.grading.strain import StrainView
from core.reason import says

_FIRST = says("comes_first", "{act} comes first")
_STRAIN_ROSE = says("strain_rose_with", "throat strain rose with {step}")
_WAITS = frozenset({Act.CLIMB, Act.TAPER, Act.DISCHARGE})
"""What waits while anything that is to be looked into stands before it."""
_IN_THE_VISIT = frozenset({Act.TEACH, Act.SWAP, Act.REVIEW, Act.REMEASURE})
_HOLDS_BACK = frozenset(
    {
        Act.EMERGENCY,
        Act.CONTACT,
        Act.EXAMINE,
        Act.PROBE,
        Act.RUNG_DOWN,
        Act.STAGE_BACK,
    }
)


def decisions(history: History, today: date, numbers: Rules | None = None) -> list[Proposal]:
    """Every proposal, the first that acts before the others; to stay stands last, with what is
    missing. Nothing climbs by itself: a proposal is a draft for the clinician.

    The same home sessions give the same proposals in whatever order they came.
    """
    own = numbers or rules()
    strain = strain_of(history, own, today)
    found = of_course(history, own, strain, today)
    for group in groups_of(history, own):
        found += _of_group(group, history, own, strain, today)
    found += _without_a_ladder(history)
    found = _taught_together(_one_each(_held(found)))
    return sorted(found, key=lambda one: one.act.place)


def _without_a_ladder(history: History) -> list[Proposal]:
    """List the steps that no rule can ever move, in one proposal."""
    steps = tuple(one.step_id for one in history.program.steps if one.grade is None)
    return [Proposal(act=Act.STAY, steps=steps, reasons=(NO_RULE(),))] if steps else []


def _of_group(
    group: Group, history: History, own: Rules, strain: StrainView, today: date
) -> list[Proposal]:
    found = of_group(group, history, own, strain, today)
    risen = [step for step in group.steps if step.step_id in strain.eased]
    if risen and not any(one.act is Act.EASE for one in found):
        found.append(eased(group, [_STRAIN_ROSE(step=step.name) for step in risen]))
    found += fallen(group, history, today)
    back = stage_back(group, group.routine, history, own, today)
    review = pitch_review(group, history, own, today)
    found += [one for one in (back, review) if one is not None]
    lower = [one for one in found if one.act in (Act.EASE, Act.STAGE_BACK, Act.SWAP)]
    first = lower[0] if lower else review
    if first is None:
        return found
    return [_waiting(one, first) if one.act in _WAITS else one for one in found]


def _held(found: list[Proposal]) -> list[Proposal]:
    """Drop every proposal to advance, taper or end while something has to be looked into first."""
    blocks = [one for one in found if one.act in _HOLDS_BACK or _asks(one)]
    if not blocks:
        return found
    first = min(blocks, key=lambda one: one.act.place)
    return [_waiting(one, first) if one.act in _WAITS else one for one in found]


def _asks(one: Proposal) -> bool:
    """Propose to stay, with a question, because of something that concerns the whole program (such as hoarseness the
    next morning)."""
    return one.act is Act.STAY and not one.steps


def _waiting(one: Proposal, first: Proposal) -> Proposal:
    why = first.reasons or (_FIRST(act=first.act.value),)
    return replace(
        one, act=Act.STAY, rung=None, reasons=(), against=(*why, *one.against, *one.reasons)
    )


def _one_each(found: list[Proposal]) -> list[Proposal]:
    """Merge proposals of the same act for the same steps."""
    merged: dict[tuple[Act, tuple[str, ...]], Proposal] = {}
    for one in found:
        key = (one.act, one.steps)
        there = merged.get(key)
        if there is None:
            merged[key] = one
            continue
        merged[key] = replace(
            there,
            rung=one.rung if there.rung is None else there.rung,
            reasons=tuple(dict.fromkeys((*there.reasons, *one.reasons))),
            against=tuple(dict.fromkeys((*there.against, *one.against))),
        )
    return list(merged.values())


def _taught_together(found: list[Proposal]) -> list[Proposal]:
    """Ladders that are to be looked at in the visit for the same reasons as one proposal: it is one visit
    and one decision."""
    merged: dict[tuple[object, ...], Proposal] = {}
    for one in found:
        key: tuple[object, ...] = (one.act, one.steps)
        if one.act in _IN_THE_VISIT and one.steps:
            key = (one.act, one.reasons, one.against)
        there = merged.get(key)
        steps = one.steps if there is None else tuple(dict.fromkeys((*there.steps, *one.steps)))
        merged[key] = replace(there or one, steps=steps)
    return list(merged.values())
