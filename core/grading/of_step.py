"""What the rules propose for the steps that climb together, from their home sessions."""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from core.catalogue.words import Growth
from core.dose.calendar import stage_on
from core.grading.act import Act, Proposal
from core.grading.history import History, Sitting, StepDone
from core.grading.meets import Matched, Own, failing, matched, matched_by_clock
from core.grading.rule import Part, Rules, StepRule
from core.grading.strain import StrainView
from core.plans.routine import Routine
from core.plans.step import Grade, Step
from core.plans.targets import Pattern
from core.reason import Reason, says
from core.safety.condition import Condition

_FEW_SESSIONS = says("few_sessions", "{sessions} of {of} measurable home sessions at this rung")
_FEW_DAYS = says("few_days", "they lie on {days} of {needed} different days")
_CLIMBED_LATELY = says(
    "climbed_lately", "the last climb was {days} days ago, {needed:g} lie between two"
)
_LITTLE_KEPT = says("little_kept", "under {needed:.0f} % of the practice kept in 7 days")
_STRAIN_UNANSWERED = says("strain_unanswered", "strain was not answered in {sessions} of them: ask")
_MEETS_GOAL = says("meets_goal", "{sessions} of the last {looked} home sessions meet the goal")
_TOO_FEW = says(
    "too_few_met",
    "{met} of the last {sessions} home sessions meet the goal, {needed} are needed",
)
_UNKNOWN_IN = says(
    "too_few_known",
    "{met} of the last {sessions} home sessions meet the goal, {needed} are needed; of {unknown} it "
    "is not known",
)
_FALLS_SHORT = says("falls_short", "{sessions} of the last {looked} home sessions fall short")
_FIRST_RUNG = says("first_rung", "it stands on the first rung: lighten it by hand")
_HELD_BACK = says("held_back", "what holds it back: {figures:list}")
_PRESSED = says(
    "pressed",
    "louder than the soft reference in {sessions} of the last {looked} home sessions",
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
_NO_RULE = says("no_rule", "nothing of it is measured, the clinician decides")

_FIGURE_WORDS: Mapping[str, str] = {
    "share": "length",
    "pitch_sd": "steadiness",
    "trail_off": "it fades",
    "over_db": "louder than the soft reference",
    "over_aim": "strength",
    "over_target": "strength",
    "strain": "throat strain",
    "ends": "the ends of the glide",
    "gaps": "the voice cuts out",
    "stops": "the bubbles stop",
    "from_end": "the end of the breath",
    "level_sd": "evenness",
    "joined": "one of the two sounds",
    "gap": "a silence between",
    "in_tune": "notes in tune",
    "broken_keys": "broken keys",
    "off_note": "distance from the note",
    "near": "phrases near the note",
    "done": "how much was right",
}
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
    """What is usual for this client, where a tremor is known."""
    return {} if history.own_sd is None else {"pitch_sd": history.own_sd}


def of_group(
    group: Group, history: History, rules: Rules, strain: StrainView, today: date
) -> list[Proposal]:
    """Everything the rules propose for steps that climb together; nothing but to stay where no rule
    judges one of them."""
    if None in group.rules:
        return [Proposal(act=Act.STAY, steps=group.ids, reasons=(_NO_RULE(),))]
    judged = [(step, rule, history.at_rung(step, until=today)) for step, rule in group.judged]
    found = [
        *_contacts(judged),
        *_eased(group, judged, history),
        *_taught(judged, history),
    ]
    climb = _climb(group, judged, history, rules, strain, today)
    found.append(climb)
    if climb.act is Act.STAY:
        found += _flat(group, judged, history, rules, today)
    return found


Judged = Sequence[tuple[Step, StepRule, list[tuple[Sitting, StepDone]]]]


def _contacts(judged: Judged) -> Iterator[Proposal]:
    """Families whose client is called at less strain than the others."""
    for step, rule, sessions in judged:
        if rule.contact_strain is None or not sessions:
            continue
        latest = sessions[-1][1].of_session("strain")
        if latest is not None and latest >= rule.contact_strain:
            why = _STRAIN_STEP(strain=latest)
            yield Proposal(act=Act.CONTACT, steps=(step.step_id,), reasons=(why,))


def _eased(group: Group, judged: Judged, history: History) -> Iterator[Proposal]:
    """One rung down where one of the steps falls short often enough."""
    own = own_of(history)
    for _step, rule, sessions in judged:
        if rule.ease is None:
            continue
        found = matched(rule.ease, sessions, own)
        if not found.holds:
            continue
        why = [_FALLS_SHORT(sessions=found.met, looked=found.looked)]
        why += _held_back(rule.climb, sessions, own)
        yield eased(group, why, sessions)
        return


def eased(
    group: Group, why: Iterable[Reason], sessions: Sequence[tuple[Sitting, StepDone]] = ()
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


def _rung_below(group: Group, sessions: Sequence[tuple[Sitting, StepDone]]) -> int:
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
            why = _PRESSED(sessions=found.met, looked=found.looked)
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
        against += strain.against
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
        missing = _missing(step, rule.climb, found, sessions)
        if missing and not found.holds:
            missing += _held_back(rule.climb, sessions, own)
        against += missing
        if ready and not found.holds:
            against.append(_BY_CLOCK())
        if not missing:
            reasons.append(_MEETS_GOAL(sessions=found.met, looked=found.looked))
    if against:
        return Proposal(
            act=Act.STAY, steps=group.ids, against=tuple(dict.fromkeys(against)), by_clock=by_clock
        )
    return _up(group, history, reasons, today)


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
    if not dose.taper or Condition.PROGRESSIVE in history.conditions:
        return Proposal(act=Act.REVIEW, steps=group.ids, reasons=why)
    start = dose.starts_on or history.active_since
    if stage_on(dose, start, today) is not None:
        return Proposal(act=Act.STAY, steps=group.ids, reasons=(_TAPERS(), *why))
    return Proposal(act=Act.TAPER, steps=group.ids, reasons=why)


def _missing(
    step: Step, part: Part, found: Matched, sessions: Sequence[tuple[Sitting, StepDone]]
) -> list[Reason]:
    """Why the rule of a step does not say to climb; of too few home sessions only how many."""
    if found.looked < part.of:
        return [_FEW_SESSIONS(sessions=found.looked, of=part.of)]
    why = list[Reason]()
    if found.days < part.days:
        why.append(_FEW_DAYS(days=found.days, needed=part.days))
    if step.voiced:
        looked = sessions[-part.of :]
        unanswered = sum(done.of_session("strain") is None for _sitting, done in looked)
        if unanswered:
            why.append(_STRAIN_UNANSWERED(sessions=unanswered))
    if found.met < part.need:
        values = {"met": found.met, "sessions": found.looked, "needed": part.need}
        if found.unknown:
            why.append(_UNKNOWN_IN(**values, unknown=found.unknown))
        else:
            why.append(_TOO_FEW(**values))
    elif not found.holds and not why:
        why.append(_FEW_DAYS(days=found.days, needed=part.on_days))
    return why


def _held_back(part: Part, sessions: Sequence[tuple[Sitting, StepDone]], own: Own) -> list[Reason]:
    """The figures that most often keep the last home sessions from meeting the goal."""
    often: dict[str, int] = {}
    for _sitting, done in sessions[-part.of :]:
        for figure in failing(part, done, own):
            often[figure] = often.get(figure, 0) + 1
    named = sorted(often, key=lambda figure: -often[figure])[:3]
    if not named:
        return []
    return [_HELD_BACK(figures=tuple(_FIGURE_WORDS.get(figure, figure) for figure in named))]


def _flat(
    group: Group, judged: Judged, history: History, rules: Rules, today: date
) -> Iterator[Proposal]:
    """No climb for three weeks of practice: teach again; after that, swap."""
    common, step = rules.common, group.lead
    sessions = judged[0][2]
    since = history.last_climb(step.step_id, until=today) or history.active_since
    taught = history.last_decided([Act.TEACH], step.step_id, until=today)
    swapped = history.last_decided([Act.SWAP], step.step_id, until=today)
    start = max(day for day in (since, taught, swapped, history.active_since) if day)
    days = (today - start).days
    practised = [one for one, _done in sessions if one.day > today - timedelta(days=days)]
    if days < common.flat_days or len(practised) < common.flat_sessions:
        return
    why = [_FLAT(days=(today - since).days)]
    why += _held_back(judged[0][1].climb, sessions, own_of(history))
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
