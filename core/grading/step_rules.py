"""What the rules propose for the steps that climb together, from their home sessions."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from itertools import pairwise

from core.catalogue.words import Growth
from core.dose.calendar import stage_on
from core.grading.act import Act, Proposal
from core.grading.ease_dimension import dimension_of
from core.grading.history import History, PastSession, StepDone
from core.grading.missing import held_back, missing
from core.grading.rule import Rules, StepRule
from core.grading.rule_match import Own, matched, matched_by_clock
from core.grading.strain import StrainView
from core.program.dosing import Dose
from core.program.routine import Routine
from core.program.step import Grade, Phase, Step
from core.program.targets import Pattern
from core.reason import Reason, says
from core.reference.values import EFFORT_LOW
from core.safety.condition import Condition

_CLIMBED_LATELY = says(
    "climbed_lately", "the last climb was {days} days ago, {needed:g} lie between two"
)
_LITTLE_KEPT = says("little_kept", "under {needed:.0f} % of the practice kept in 7 days")
_MEETS_GOAL = says("meets_goal", "{sessions} of the last {looked} home sessions meet the goal")
_FALLS_SHORT = says("falls_short", "{sessions} of the last {looked} home sessions fall short")
_FIRST_RUNG = says("first_rung", "it stands on the first rung: lighten it by hand")
_PRESSED = says(
    "pressed",
    "louder than the soft reference in {sessions} of the last {looked} home sessions",
)
_EFFORT_TEN = says(
    "effort_ten", "effort was 10 of 10 in {sessions} of the last {looked} home sessions"
)
_EFFORT_LOW = says(
    "effort_low",
    "effort was {effort:g} of 10, under 7: repeat the cue; this does not block an advance",
)
_FLAT = says("flat", "{days} days on this rung")
_TAUGHT = says("taught_before", "it was taught again {days} days ago")
_LAST_RUNG = says("last_rung_held", "the last rung is held")
_TAPERS = says("taper_runs", "its taper runs")
_REVIEW_PITCH = says(
    "review_pitch",
    "{semitones:g} semitones over the first rung: resonance and intonation first",
)
_BY_CLOCK = says("ready_by_clock", "ready by the clock; it climbs once it is heard")
_STRAIN_STEP = says("strain_of_step", "throat strain {strain:g}: call the client")
NO_RULE = says("no_rule", "this step does not change by rule: the clinician decides")
_EVENT_NEAR = says(
    "event_near", "event on {day:day}: nothing advances in the {days:g} days before it"
)
_OWN_EAR = says(
    "own_ear", "with a hearing loss, self-rated counts do not decide: listen in the visit"
)
_TAPER_DONE = says(
    "taper_done",
    "the taper is over and the goal is held: discharge after the goal is held at two visits two weeks apart",
)
_MAINTENANCE = says(
    "maintenance", "the goal is held: continue with 10–15 minutes a day as maintenance"
)

_GENTLE_PHASES = frozenset({Phase.SEMI_OCCLUDED, Phase.RESONANCE})
_MEASURED_AGAIN = (Growth.DECIBELS, Growth.SEMITONES)
"""Ladders that end at what the latest visit showed: holding the last rung asks to measure again."""


@dataclass(frozen=True, slots=True)
class Group:
    """Steps of a routine that climb together; `rules`: the rule of each. Of those with the same rule
    the one with the most notes is judged (a warm-up hold goes up with the notes it prepares); the
    first that is judged leads."""

    routine: Routine
    steps: tuple[Step, ...]
    rules: tuple[StepRule | None, ...]

    @property
    def judged(self) -> tuple[tuple[Step, StepRule], ...]:
        most: dict[str, tuple[Step, StepRule]] = {}
        for step, rule in zip(self.steps, self.rules, strict=True):
            if rule is None:
                continue
            there = most.get(rule.code)
            if there is None or step.target.attempts > there[0].target.attempts:
                most[rule.code] = step, rule
        return tuple(most.values())

    @property
    def lead(self) -> Step:
        return self.judged[0][0] if self.judged else self.steps[0]

    @property
    def grade(self) -> Grade:
        grade = self.lead.grade
        if grade is None:  # pragma: no cover - groups_of takes graded steps only
            raise ValueError(self.lead.step_id)
        return grade

    @property
    def ids(self) -> tuple[str, ...]:
        return tuple(step.step_id for step in self.steps)


def groups_of(history: History, rules: Rules) -> Iterator[Group]:
    """The graded steps of every routine, those of one key together."""
    for routine in history.program.routines:
        keys = dict.fromkeys(step.grade.key for step in routine.steps if step.grade)
        for key in keys:
            own = tuple(s for s in routine.steps if s.grade and s.grade.key == key)
            found = tuple(rules.of(s, history.families.get(s.step_id, "")) for s in own)
            yield Group(routine, own, found)


def own_of(history: History) -> Own:
    """What is usual for this client: the pitch SD where a tremor is known, strain at the baseline."""
    own = {} if history.own_sd is None else {"pitch_sd": history.own_sd}
    return own if history.strain is None else {**own, "strain": history.strain}


def of_group(
    group: Group, history: History, rules: Rules, strain: StrainView, today: date
) -> list[Proposal]:
    """Everything the rules propose for steps that climb together; nothing but to stay where no rule
    judges one of them."""
    if None in group.rules:
        return [Proposal(act=Act.STAY, steps=group.ids, reasons=(NO_RULE(),))]
    judged = [(step, rule, history.at_rung(step, until=today)) for step, rule in group.judged]
    found = [
        *_contacts(judged, history, today),
        *_eased(group, judged, history),
        *_taught(judged, history),
    ]
    climb = _climb(group, judged, history, rules, strain, today)
    found.append(climb)
    if climb.act is Act.STAY and not _goal_is_held(group, judged, history):
        found += _flat(group, judged, history, rules, today)
    return found


def _goal_is_held(group: Group, judged: "Judged", history: History) -> bool:
    """Whether the last rung meets its goal. Then the step is neither re-taught nor swapped."""
    if group.grade.rung + 1 < len(group.grade.rungs):
        return False
    own = own_of(history)
    return all(matched(rule.climb, sessions, own).holds for _step, rule, sessions in judged)


Judged = Sequence[tuple[Step, StepRule, list[tuple[PastSession, StepDone]]]]


def _contacts(judged: Judged, history: History, today: date) -> Iterator[Proposal]:
    """Families whose client is called at less strain than the others."""
    closed = history.last_decided([Act.CONTACT], until=today)
    for step, rule, every in judged:
        sessions = [one for one in every if closed is None or one[0].day > closed]
        if rule.contact_strain is None or not sessions:
            continue
        latest = sessions[-1][1].of_session("strain")
        if latest is not None and latest >= rule.contact_strain:
            why = _STRAIN_STEP(strain=latest)
            yield Proposal(act=Act.CONTACT, steps=(step.step_id,), reasons=(why,))


def _eased(group: Group, judged: Judged, history: History) -> Iterator[Proposal]:
    """One rung down where one of the steps falls short often enough."""
    own = own_of(history)
    for step, rule, sessions in judged:
        if rule.ease is None:
            continue
        found = matched(rule.ease, sessions, own)
        if not found.holds:
            continue
        why = [_FALLS_SHORT(sessions=found.met, looked=found.looked)]
        why += held_back(rule.climb, sessions, own)
        other = dimension_of(step, rule, sessions, own)
        if other is None:
            yield eased(group, why, sessions)
            return
        dimension, to = other
        yield Proposal(
            act=Act.EASE, steps=group.ids, reasons=tuple(why), dimension=dimension, to=to
        )
        return


def eased(
    group: Group, why: Iterable[Reason], sessions: Sequence[tuple[PastSession, StepDone]] = ()
) -> Proposal:
    """A rung down with its reasons; of a pattern below the lowest key that broke. On the first rung it
    is said so."""
    rung = _rung_below(group, sessions)
    against = () if rung < group.grade.rung else (_FIRST_RUNG(),)
    return Proposal(
        act=Act.EASE,
        steps=group.ids,
        rung=rung if rung < group.grade.rung else None,
        reasons=tuple(why),
        against=against,
    )


def _rung_below(group: Group, sessions: Sequence[tuple[PastSession, StepDone]]) -> int:
    grade = group.grade
    one_down = max(grade.rung - 1, 0)
    broken = [
        int(trial.note.split(" ")[0])
        for _sitting, done in sessions[-1:]
        for trial in done.trials
        if trial.figures.get("missing")
    ]
    target = group.lead.target
    if not isinstance(target, Pattern) or not grade.targets:
        return one_down
    keys = [target.keys[place] for place in broken if place < len(target.keys)]
    if not keys:
        return one_down
    lowest = min(keys)
    below = [
        rung
        for rung, asked in enumerate(grade.targets)
        if isinstance(asked, Pattern) and max(asked.keys) < lowest
    ]
    return min(max(below, default=0), one_down)


def _taught(judged: Judged, history: History) -> Iterator[Proposal]:
    for step, rule, sessions in judged:
        found = matched(rule.teach, sessions, own_of(history)) if rule.teach else None
        if found is not None and found.holds:
            said = _EFFORT_TEN if rule.for_.by_effort else _PRESSED
            why = said(sessions=found.met, looked=found.looked)
            yield Proposal(act=Act.TEACH, steps=(step.step_id,), reasons=(why,))


def _climb(
    group: Group,
    judged: Judged,
    history: History,
    rules: Rules,
    strain: StrainView,
    today: date,
) -> Proposal:
    """One rung up, or to stay and what is missing."""
    against = list[Reason]()
    if any(step.voiced for step in group.steps):
        gentle = all(step.phase in _GENTLE_PHASES for step in group.steps)
        against += strain.against_gentle if gentle else strain.against
    against += _event(history, rules, today)
    self_rated = any(step.kind == "counted" for step in group.steps)
    if history.hearing_loss and self_rated:
        against.append(_OWN_EAR())
    last = max(
        (day for step in group.steps if (day := history.last_climb(step.step_id, until=today))),
        default=None,
    )
    between = rules.common.days_between_climbs
    if last is not None and (today - last).days < between:
        against.append(_CLIMBED_LATELY(days=(today - last).days, needed=between))
    kept = history.kept_share(group.routine.key, days=7, today=today)
    if kept is None or kept < rules.common.kept_to_climb:
        against.append(_LITTLE_KEPT(needed=100 * rules.common.kept_to_climb))
    own, reasons = own_of(history), list[Reason]()
    by_clock = False
    for step, rule, sessions in judged:
        found = matched(rule.climb, sessions, own)
        ready = matched_by_clock(rule.climb, sessions, own)
        by_clock = by_clock or ready
        lacking = missing(step, rule.climb, found, sessions)
        if lacking and not found.holds:
            lacking += held_back(rule.climb, sessions, own)
        against += lacking
        if ready and not found.holds:
            against.append(_BY_CLOCK())
        if not lacking:
            reasons.append(_MEETS_GOAL(sessions=found.met, looked=found.looked))
    cue = tuple(_low_effort(judged))
    if against:
        return Proposal(
            act=Act.STAY,
            steps=group.ids,
            reasons=cue,
            against=tuple(dict.fromkeys(against)),
            by_clock=by_clock,
        )
    return _up(group, history, [*reasons, *cue], today)


def _low_effort(judged: Judged) -> Iterator[Reason]:
    """Effort under 7 in strong voice by effort prompts the cue."""
    for _step, rule, sessions in judged:
        effort = sessions[-1][1].of_session("effort") if rule.for_.by_effort and sessions else None
        if effort is not None and effort < EFFORT_LOW.number:
            yield _EFFORT_LOW(effort=effort)


def _event(history: History, rules: Rules, today: date) -> Iterator[Reason]:
    """Nothing advances in the days before an event; fewer days if events come more often than every two weeks."""
    common = rules.common
    ahead = sorted(day for day in set(history.events) if day >= today)
    days = sorted(set(history.events))
    if not ahead:
        return
    apart = [(after - before).days for before, after in pairwise(days)]
    often = bool(apart) and min(apart) < common.event_often_days
    limit = common.event_days_often if often else common.event_days
    if (ahead[0] - today).days <= limit:
        yield _EVENT_NEAR(day=ahead[0].isoformat(), days=limit)


def _up(group: Group, history: History, reasons: Sequence[Reason], today: date) -> Proposal:
    """The next rung; at the last one what follows instead: to measure again where the ladder ends at
    what a visit showed, else the taper, which a progressive condition never has, or a review."""
    grade, dose = group.grade, group.routine.dose
    if grade.rung + 1 < len(grade.rungs):
        up = grade.rung + 1
        return Proposal(act=Act.CLIMB, steps=group.ids, rung=up, reasons=tuple(reasons))
    why = (_LAST_RUNG(), *reasons)
    if grade.growth in _MEASURED_AGAIN:
        return Proposal(act=Act.REMEASURE, steps=group.ids, reasons=why)
    if Condition.PROGRESSIVE in history.conditions:
        return Proposal(act=Act.REVIEW, steps=group.ids, reasons=(_MAINTENANCE(), *why))
    start = dose.starts_on or history.active_since
    if dose.taper and today >= _taper_ends(dose, start):
        return Proposal(act=Act.STAY, steps=group.ids, reasons=(_TAPER_DONE(), *why))
    if dose.taper and stage_on(dose, start, today) is not None:
        return Proposal(act=Act.STAY, steps=group.ids, reasons=(_TAPERS(), *why))
    return Proposal(act=Act.TAPER, steps=group.ids, reasons=why)


def _taper_ends(dose: Dose, start: date) -> date:
    return start + timedelta(weeks=dose.weeks + sum(one.weeks for one in dose.taper))


def _flat(
    group: Group, judged: Judged, history: History, rules: Rules, today: date
) -> Iterator[Proposal]:
    """No climb for three weeks of practice: teach again; after that, swap."""
    common, step = rules.common, group.lead
    dose, sessions = group.routine.dose, judged[0][2]
    if dose.taper and stage_on(dose, dose.starts_on or history.active_since, today) is not None:
        return
    since = history.last_climb(step.step_id, until=today) or history.active_since
    taught = history.last_decided([Act.TEACH], step.step_id, until=today)
    swapped = history.last_decided([Act.SWAP], step.step_id, until=today)
    start = max(day for day in (since, taught, swapped, history.active_since) if day)
    days = (today - start).days
    practiced = [one for one, _done in sessions if one.day > today - timedelta(days=days)]
    if days < common.flat_days or len(practiced) < common.flat_sessions:
        return
    why = [_FLAT(days=(today - since).days)]
    why += held_back(judged[0][1].climb, sessions, own_of(history))
    if taught is not None and taught >= since:
        why.append(_TAUGHT(days=(today - taught).days))
        yield Proposal(act=Act.SWAP, steps=group.ids, reasons=tuple(why))
    else:
        yield Proposal(act=Act.TEACH, steps=group.ids, reasons=tuple(why))


def pitch_review(group: Group, history: History, rules: Rules, today: date) -> Proposal | None:
    """After so many semitones of a target pitch a review comes before more."""
    grade = group.grade
    if grade.key != "target pitch" or grade.growth is not Growth.SEMITONES:
        return None
    risen = abs(grade.value - grade.rungs[0])
    last = history.last_decided([Act.REVIEW], group.lead.step_id, until=today)
    climbed = history.last_climb(group.lead.step_id, until=today)
    reviewed = last is not None and (climbed is None or last >= climbed)
    each = rules.common.pitch_review_semitones
    if not risen or risen % each or reviewed:
        return None
    why = _REVIEW_PITCH(semitones=risen)
    return Proposal(act=Act.REVIEW, steps=group.ids, reasons=(why,))
