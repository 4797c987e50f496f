"""What the rules propose for the program as a whole: signs, strain, days away, the course of weeks."""

from collections.abc import Iterator
from datetime import date, timedelta
from statistics import median

from core.dose.calendar import stage_on
from core.dose.tide import adherence_of
from core.grading.act import Act, Proposal
from core.grading.change import SessionBest, Shift, shift_of
from core.grading.history import History
from core.grading.rule import Rules
from core.grading.step_rules import Group
from core.grading.strain import StrainSaid, StrainView, strain_view
from core.program.routine import Routine, RoutineKind
from core.program.routine_words import routine_label
from core.reason import says
from core.reference.values import EVENING_BEGINS, MORNING_ENDS
from core.safety.condition import Condition, in_plain_words
from core.safety.conditions import reminders
from core.safety.screening import in_words
from core.safety.stop import EMERGENCY_FLAGS, EMERGENCY_SIGNS, SIGNS, StopSign

_STOP_OPEN = says("stop_sign_open", "a stop sign is not cleared: {sign}")
_CALL = says("call_for_strain", "throat strain {strain:g} and more: call the client")
_LIGHT_HEADED = says("light_headed_twice", "light-headed {times} times in {days:g} days")
_HOARSER_ONCE = says("hoarser_once", "hoarser the next morning: ask how the voice is")
_HOARSER_TWICE = says(
    "hoarser_twice", "hoarser the next morning on {times} days of {days:g}: stop and call"
)
_HIGH_LOST = says("soft_high_lost", "soft high notes were lost for over a day")
_AWAY = says("away", "{days} days without a home session, {missed} of them missed")
_AWAY_LONG = says(
    "away_long", "{days} days without a home session: the soft holds are probed first"
)
_FELL = says(
    "fell",
    "the best of the last five home sessions fell by {by:.1f} s, more than the usual "
    "day-to-day spread ({smallest:.1f} s)",
)
_FELL_AT_VISIT = says(
    "fell_at_visit", "the latest baseline fell, more than the spread of its tries"
)
_UNCHANGED = says(
    "unchanged", "no step went up in {days} days, with {kept:.0f} % of the practice kept"
)
_WEEKS_OVER = says("weeks_over", "{routine}: its {weeks} weeks are over")
_STAGE_BACK = says("stage_back", "under {percent:g} % of the goal on {days} days of the taper")
_GOAL_HELD = says("goal_held", "goals held at two visits {days} days apart, and the change is real")
_DISCOMFORT = says(
    "discomfort_up",
    "discomfort is {points:g} and more over the usual in two of the last five home sessions",
)
_FLAG_OPEN = says("red_flag_said", "a red flag reported at home has not been followed up: {flag}")
_FLAG_UNANSWERED = says(
    "red_flag_unanswered",
    "a health question of {day:day} was not answered: ask before anything advances",
)
_NEVER_ADVANCES = says(
    "never_advances", "{condition}: nothing advances; the client stops when tired"
)
_TOO_MUCH = says(
    "practiced_too_much",
    "{done} home sessions in 7 days, {asked} prescribed: ask why; nothing advances",
)
_EVENINGS = says(
    "evening_strain",
    "on {days} of 7 days throat strain after 17:00 was at least {points:g} points above the same morning's: ask "
    "about voice use at work and reduce it before anything advances",
)
_WELL_AGAIN = says(
    "well_again",
    "the usual voice came back on {day:day} after acute laryngitis: restart every step at its first target",
)
_NEVER_CLIMBS = frozenset({Condition.MOTOR_NEURONE, Condition.MYASTHENIA})
_LOOKED_AT = 5


def strain_of(history: History, rules: Rules, today: date) -> StrainView:
    """What throat strain says; answers that nobody gave are unknown."""
    sittings = history.in_order(until=today)
    said = [
        StrainSaid(
            day=one.day,
            value=one.strain,
            step_id=one.step_id,
            family=history.families.get(one.step_id),
        )
        for one in history.said_of_strain(until=today)
    ]
    contacted = history.last_decided([Act.CONTACT], until=today)
    since = max((day for day in (history.changed_on, contacted) if day), default=None)
    means: list[float | None] = []
    for one in sittings:
        if since is None or one.day > since or (one.day == since and contacted is None):
            values = [done.said["strain"] for done in one.steps if "strain" in done.said]
            means.append(sum(values) / len(values) if values else None)
    return strain_view(
        said,
        today=today,
        baseline=history.strain,
        answered_on=since,
        contacted_on=contacted,
        sessions_since=means,
        common=rules.common,
    )


def of_course(history: History, rules: Rules, strain: StrainView, today: date) -> list[Proposal]:
    """Everything that is not about one ladder, in no order."""
    return [
        *_signs(history, rules, today),
        *_flags(history, today),
        *_never(history),
        *_too_much(history, rules, today),
        *_evenings(history, rules, today),
        *_well_again(history, today),
        *_strain(strain, rules),
        *_mornings(history, rules, today),
        *_discomfort(history, rules, today),
        *_away(history, rules, today),
        *_weeks(history, today),
        *_due_again(history, today),
        *_unchanged(history, rules, today),
        *_discharge(history, rules, today),
    ]


def _signs(history: History, rules: Rules, today: date) -> Iterator[Proposal]:
    for one in history.open_signs:
        act = Act.EMERGENCY if one.sign in EMERGENCY_SIGNS else Act.CONTACT
        with_step = (one.step_id,) if one.step_id else ()
        yield Proposal(act=act, steps=with_step, reasons=(_STOP_OPEN(sign=SIGNS[one.sign]),))
    days = rules.common.twice_days
    since = _after_contact(history, today - timedelta(days=days), today)
    lately = [
        one
        for one in history.in_order(until=today)
        if one.sign is StopSign.LIGHT_HEADED and one.day > since
    ]
    if len(lately) >= 2:
        why = _LIGHT_HEADED(times=len(lately), days=days)
        steps = tuple(dict.fromkeys(one.sign_step for one in lately if one.sign_step))
        yield Proposal(act=Act.CONTACT, reasons=(why,))
        yield Proposal(act=Act.SWAP, steps=steps, reasons=(why,))


def _after_contact(history: History, since: date, today: date) -> date:
    """A day, or the day a contact was closed, whichever is later: what came until then is answered."""
    closed = history.last_decided([Act.CONTACT], until=today)
    return max(since, closed) if closed else since


def _flags(history: History, today: date) -> Iterator[Proposal]:
    """Red flags that were said and nobody has answered, and health questions left open."""
    closed = history.last_decided([Act.CONTACT, Act.EXAMINE, Act.EMERGENCY], until=today)
    sittings = history.in_order(until=today)
    said = set(history.open_flags)
    for one in sittings:
        if closed is None or one.day > closed:
            said |= {flag for flag, answer in one.flags.items() if answer}
    for flag in sorted(said):
        act = Act.EMERGENCY if flag in EMERGENCY_FLAGS else Act.CONTACT
        yield Proposal(act=act, reasons=(_FLAG_OPEN(flag=in_words(flag)),))
    if sittings and None in sittings[-1].flags.values():
        day = sittings[-1].day.isoformat()
        yield Proposal(act=Act.STAY, reasons=(_FLAG_UNANSWERED(day=day),))


def _never(history: History) -> Iterator[Proposal]:
    having = sorted(history.conditions & _NEVER_CLIMBS)
    if having:
        name = in_plain_words(having[0])
        yield Proposal(act=Act.STAY, reasons=(_NEVER_ADVANCES(condition=name),))


def _too_much(history: History, rules: Rules, today: date) -> Iterator[Proposal]:
    """Propose a call when far more was practiced than prescribed in the last seven days. Resets do not count."""
    common, done, asked = rules.common, 0, 0
    for routine in history.program.routines:
        if routine.kind is RoutineKind.RESET:
            continue
        first, last = today - timedelta(days=7), today - timedelta(days=1)
        kept = adherence_of(history.days(routine.key, first=first, last=last, today=today))
        done += kept.kept + kept.added
        asked += kept.prescribed
    extra = done - asked
    if asked and done > common.too_much_share * asked and extra >= common.too_much_extra:
        yield Proposal(act=Act.STAY, reasons=(_TOO_MUCH(done=done, asked=asked),))


def _evenings(history: History, rules: Rules, today: date) -> Iterator[Proposal]:
    """Throat strain in the evening well above the same morning's, on several of the last seven days."""
    early: dict[date, float] = {}
    late: dict[date, float] = {}
    for one in history.in_order(until=today):
        values = [done.said["strain"] for done in one.steps if "strain" in done.said]
        if one.begun is None or not values or one.day <= today - timedelta(days=7):
            continue
        if one.begun.hour < MORNING_ENDS.number:
            early[one.day] = max(*values, early.get(one.day, 0.0), 0.0)
        elif one.begun.hour >= EVENING_BEGINS.number:
            late[one.day] = max(*values, late.get(one.day, 0.0), 0.0)
    rise = rules.common.evening_rise
    days = [day for day in early if day in late and late[day] - early[day] >= rise]
    if len(days) >= rules.common.evening_days:
        yield Proposal(act=Act.STAY, reasons=(_EVENINGS(days=len(days), points=rise),))


def _well_again(history: History, today: date) -> Iterator[Proposal]:
    """After an acute laryngitis every step begins at its first rung."""
    day = history.well_again_on
    if day is None or day > today:
        return
    begun = history.last_decided([Act.PROBE, Act.RUNG_DOWN], until=today)
    if begun is not None and begun >= day:
        return
    if any(step.grade and step.grade.rung for step in history.program.all_steps):
        yield Proposal(act=Act.PROBE, reasons=(_WELL_AGAIN(day=day.isoformat()),))


def _strain(strain: StrainView, rules: Rules) -> Iterator[Proposal]:
    if strain.contact:
        why = _CALL(strain=strain.contact_from)
        yield Proposal(act=Act.CONTACT, reasons=(why,))


def _mornings(history: History, rules: Rules, today: date) -> Iterator[Proposal]:
    """Hoarser the next morning: after one such morning steps stay and the client is asked; after two practice stops
    and the client is called."""
    since = _after_contact(history, today - timedelta(days=rules.common.twice_days), today)
    recent = [one for one in history.in_order(until=today) if one.day > since]
    days = {one.day for one in recent if one.hoarser}
    if len(days) >= 2:
        why = _HOARSER_TWICE(times=len(days), days=rules.common.twice_days)
        yield Proposal(act=Act.CONTACT, reasons=(why,))
    elif days:
        yield Proposal(act=Act.STAY, reasons=(_HOARSER_ONCE(),))
    if any(one.soft_high_lost for one in recent):
        yield Proposal(act=Act.EXAMINE, reasons=(_HIGH_LOST(),))


def _discomfort(history: History, rules: Rules, today: date) -> Iterator[Proposal]:
    """Release and posture ease where discomfort rises twice."""
    rated = [one.discomfort for one in history.in_order(until=today) if one.discomfort is not None]
    own = tuple(
        step.step_id for step in history.program.steps if history.families.get(step.step_id) == "A"
    )
    before, latest = rated[:-_LOOKED_AT], rated[-_LOOKED_AT:]
    if not own or not before:
        return
    limit = median(before) + rules.common.discomfort_rise
    if sum(value >= limit for value in latest) >= 2:
        why = _DISCOMFORT(points=rules.common.discomfort_rise)
        yield Proposal(act=Act.EASE, steps=own, reasons=(why,))


def _away(history: History, rules: Rules, today: date) -> Iterator[Proposal]:
    done = [one.day for one in history.sittings if one.day <= today]
    done += [one.day for one in history.kept_too if one.day <= today]
    last = max(done, default=history.active_since - timedelta(days=1))
    days = (today - last).days - 1  # whole days without a session between two
    if days < rules.common.away_days:
        return
    first = last + timedelta(days=1)
    yesterday = today - timedelta(days=1)
    every = history.days("", first=first, last=yesterday, today=today) if first <= yesterday else []
    missed = adherence_of(every)
    if missed.prescribed - missed.kept < rules.common.away_missed:
        return
    if days >= rules.common.probe_days:
        yield Proposal(act=Act.PROBE, reasons=(_AWAY_LONG(days=days),))
    elif any(step.grade and step.grade.rung for step in history.program.all_steps):
        lacking = missed.prescribed - missed.kept
        yield Proposal(act=Act.RUNG_DOWN, reasons=(_AWAY(days=days, missed=lacking),))


def _weeks(history: History, today: date) -> Iterator[Proposal]:
    """The weeks of a dose end in a review."""
    for routine in history.program.routines:
        start = routine.dose.starts_on or history.active_since
        over = start + timedelta(weeks=routine.dose.weeks)
        reviewed = history.last_decided([Act.REVIEW, Act.TAPER, Act.STAY], until=today)
        tapers = routine.dose.taper and Condition.PROGRESSIVE not in history.conditions
        if today < over or tapers or (reviewed is not None and reviewed >= over):
            continue
        why = _WEEKS_OVER(routine=routine_label(routine), weeks=routine.dose.weeks)
        yield Proposal(act=Act.REVIEW, reasons=(why,))


def _due_again(history: History, today: date) -> Iterator[Proposal]:
    due = reminders(history.conditions, measured_on=history.measured_on, today=today)
    for why in due:
        act = (
            Act.REVIEW
            if why.params.get("having") == in_plain_words(Condition.PROGRESSIVE)
            else Act.REMEASURE
        )
        yield Proposal(act=act, reasons=(why,))


def _unchanged(history: History, rules: Rules, today: date) -> Iterator[Proposal]:
    common = rules.common
    across = any(history.active_since <= day <= today for day in history.injections)
    if history.fell and not across:
        yield Proposal(act=Act.EXAMINE, reasons=(_FELL_AT_VISIT(),))
    climbed = [one.day for one in history.climbs if one.rung > one.from_rung and one.day <= today]
    examined = history.last_decided([Act.EXAMINE], until=today)
    since = max([history.active_since, *climbed, *([examined] if examined else [])])
    days = (today - since).days
    if days < common.unchanged_days or not any(step.grade for step in history.program.steps):
        return
    kept = history.kept_share("", days=int(common.unchanged_days), today=today)
    if kept is not None and kept >= common.unchanged_kept and not history.gain_real:
        why = _UNCHANGED(days=days, kept=100 * kept)
        yield Proposal(act=Act.EXAMINE, reasons=(why,))


def _discharge(history: History, rules: Rules, today: date) -> Iterator[Proposal]:
    held = [one.day for one in history.visits if one.goal_held and one.day <= today]
    corrects = any(one.corrects for one in history.visits if one.day <= today)
    if len(held) < 2 or not corrects or not history.gain_real:
        return
    if Condition.PROGRESSIVE in history.conditions:
        return
    apart = (max(held) - min(held)).days
    if apart >= rules.common.visits_apart_days:
        yield Proposal(act=Act.DISCHARGE, reasons=(_GOAL_HELD(days=apart),))


def shift_at_rung(group: Group, history: History, today: date) -> Shift:
    """The last five session bests of the leading step at its present rung against the five before;
    seconds."""
    found = history.at_rung(group.lead, until=today)
    # nothing is compared across an injection, nor with what a contact was closed about
    since = max((day for day in history.injections if day <= today), default=date.min)
    since = _after_contact(history, since, today)
    bests = [
        SessionBest(day=sitting.day, value=best, rung=done.rung)
        for sitting, done in found
        if (best := _best_s(done.trials)) is not None and sitting.day >= since
    ]
    return shift_of(bests)


def _best_s(trials: tuple) -> float | None:
    known = [v for t in trials if (v := t.figures.get("best_s")) is not None]
    return max(known, default=None)


def fallen(group: Group, history: History, today: date) -> Iterator[Proposal]:
    """A fall beyond the day-to-day spread: call and examine, whatever was kept."""
    shift = shift_at_rung(group, history, today)
    if not shift.real or shift.by is None or shift.by >= 0:
        return
    why = _FELL(by=-shift.by, smallest=shift.smallest or 0.0)
    yield Proposal(act=Act.CONTACT, steps=group.ids, reasons=(why,))
    yield Proposal(act=Act.EXAMINE, steps=group.ids, reasons=(why,))


def stage_back(
    group: Group, routine: Routine, history: History, rules: Rules, today: date
) -> Proposal | None:
    """In a taper, the best under so much of the goal on two days goes back one stage."""
    goal, start = group.grade.goal, routine.dose.starts_on
    if goal is None or start is None or stage_on(routine.dose, start, today) is None:
        return None
    days: dict[date, float] = {}
    for sitting, done in history.at_rung(group.lead, until=today):
        best = _best_s(done.trials)
        if best is not None and stage_on(routine.dose, start, sitting.day) is not None:
            days[sitting.day] = max(best, days.get(sitting.day, 0.0))
    latest = [days[day] for day in sorted(days)][-int(rules.common.taper_back_days) :]
    percent = rules.common.taper_back_percent
    if len(latest) < rules.common.taper_back_days:
        return None
    if any(100 * best >= percent * goal for best in latest):
        return None
    why = _STAGE_BACK(percent=percent, days=len(latest))
    return Proposal(act=Act.STAGE_BACK, steps=group.ids, reasons=(why,))
