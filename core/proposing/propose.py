"""A whole program from what is known of a client, every choice with its reason."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

from core.catalogue.tasks import Task, shipped_tasks
from core.dose.load import Load, load_notices, load_of
from core.errors import PlanError
from core.fitting.fit_counted import warm_up_minutes
from core.fitting.known import Fitting, KnownBaseline, Limits, flags_shown
from core.fitting.schools import School, school_of
from core.fitting.why_words import why_of
from core.program.program import Chosen, Program
from core.program.step import Step
from core.proposing.advice import advice_for
from core.proposing.aims import Want
from core.proposing.choose import Chooser, LeftOut, step_of
from core.proposing.doses import dose_of
from core.proposing.fit_minutes import within_minutes, within_school
from core.proposing.request import PlanRequest, conditions_of, screening_of
from core.proposing.routines import (
    KeptSchool,
    PlannedRoutine,
    PlannedSitting,
    Rhythm,
    rhythm_of,
    routines_of,
    sittings_of,
)
from core.proposing.safeguards import (
    dose_within,
    most_minutes,
    with_fewer_voiced,
    with_semi_occluded,
)
from core.proposing.trim import Weighed
from core.proposing.which_schools import as_chosen, chosen_for
from core.reason import Reason, joined, says
from core.reference.values import (
    MINUTES_A_SESSION,
    STRAIN_TO_THINK_ABOUT,
    WARM_UP_LONGEST,
)
from core.safety.circumstances import lines_for_clinician
from core.safety.condition import IN_SPASM, Condition
from core.safety.gate import Gate
from core.safety.inferred import inferred_reasons
from core.safety.program_gate import doings_of, program_gate

_LEFT_OUT = says("left_out", "{task}: {why}")
_STRAINED = says(
    "strained_at_baseline",
    "Throat strain {strain} of 10 at the baseline: decide whether length, strength and range should wait.",
)
_STOP_TIRED = says(
    "stop_when_tired", "With this condition nothing advances, and the client stops when tired."
)
_BANK_VOICE = says(
    "offer_voice_recording", "Offer to record the voice for later, while it is clear."
)
_MEASURE_TREMOR = says(
    "measure_own_tremor", "Measure the pitch SD of a soft hold: the client's own tremor."
)
_ALL_IN_IT = says("all_in_it", "everything is in the program already")
_NOTHING_CHOSEN = says("nothing_chosen", "no school was chosen, no aim named and no task tried")
_PURPOSES = says("purposes_named", "its tasks have the purposes named")
_CHOSEN = says("school_chosen", "{school} is chosen: {why}.")

WARM_UP = "warm_up"


@dataclass(frozen=True, slots=True, kw_only=True)
class ProposedProgram:
    """A program in draft: what was left out and why, the gate it has to pass, its load."""

    program: Program
    left_out: tuple[LeftOut, ...]
    gate: Gate
    load: Load
    notices: tuple[Reason, ...]


def propose(
    request: PlanRequest,
    *,
    new_step_id: Callable[[], str],
    tasks: Mapping[str, Task] | None = None,
) -> ProposedProgram:
    """Fit the schools of a request to its client.

    tasks: the catalogue of the clinic, the shipped one if None; new_step_id: gives a UUID text.
    Schools that share a dose are one routine, in the order release → breath → semi-occluded →
    sustained and loudness → range → resonance → articulation → carry-over → cool-down, no task
    twice; every other school is a routine of its own. A school whose essential task cannot be done
    is left out with the reason; if none remains, or there is no free day,
    PlanError("nothing_fits"), ("no_free_day"), ("day_too_full") and those of the options.
    """
    screening, conditions = screening_of(request), conditions_of(request)
    chooser = Chooser(request, tasks if tasks is not None else shipped_tasks(), conditions)
    shared = chooser.fitting()
    if conditions & IN_SPASM and request.baseline.pitch_sd_semitones is None:
        shared.ask(_MEASURE_TREMOR())
    kept, left_out = _fit_schools(request, chooser, shared, new_step_id)
    sittings, without_place = sittings_of(kept, request.limits.sessions_a_day, shared)
    planned, too_long = _within(
        [_planned(one, request, chooser, shared, new_step_id) for one in sittings],
        request,
        conditions,
        shared,
    )
    done = [one for sitting in planned for one in sitting.sitting.kept]
    all_left_out = (*left_out, *without_place, *too_long)
    program = Program(
        schools=tuple(Chosen(school=one.school.key, options=one.options) for one in done),
        comfort=request.baseline.comfort,
        a4_hz=request.a4_hz,
        margin_semitones=shared.margin_semitones,
        routines=routines_of(planned),
        shown_s=request.baseline.shown_voice_s,
        shown_air_s=request.baseline.best_s_s,
        advice=advice_for(chooser, [one.school for one in done]),
        reasons=tuple(shared.reasons),
        left_out=tuple(_LEFT_OUT(task=out.task, why=out.why) for out in all_left_out),
        assumed=tuple(shared.assumed),
        asked=tuple(shared.asked),
    )
    load = load_of(program)
    return ProposedProgram(
        program=program,
        left_out=all_left_out,
        gate=program_gate(screening, doings_of(program, chooser.tasks), request.today),
        load=load,
        notices=(
            *program.problems(),
            *program.notices(),
            *load_notices(load, request.limits),
            *(inferred_reasons(screening, request.today) if screening else ()),
            *_of_baseline(request.baseline, request.limits, conditions),
            *lines_for_clinician(
                request.living,
                today=request.today,
                steps=max(sum(s.voiced for s in one.steps) for one in program.routines),
                ill=Condition.ACUTE_LARYNGITIS in conditions,
                tone_unheard=screening is not None and screening.tone_heard is False,
                louder=bool({Want.LOUDER, Want.CARRIES, Want.CLEARER} & set(request.wants)),
            ),
            *_of_conditions(conditions),
        ),
    )


def _planned(
    sitting: PlannedSitting,
    request: PlanRequest,
    chooser: Chooser,
    shared: Fitting,
    new_step_id: Callable[[], str],
) -> PlannedRoutine:
    steps = with_fewer_voiced(sitting.ordered, chooser.conditions, request.living, shared)
    dose = dose_within(
        sitting.dose,
        steps,
        chooser.conditions,
        shared,
        refresher=request.refresher,
        most_a_day=request.limits.sessions_a_day,
    )
    most_min = request.limits.minutes_a_session or _usual_minutes(sitting, chooser)
    return PlannedRoutine(
        sitting=sitting,
        steps=tuple(steps),
        dose=dose_of(dose, request, chooser.conditions, shared),
        most_min=min(most_min, most_minutes(dose, chooser.conditions)),
        short_day=_short_day(sitting, chooser, shared, new_step_id),
    )


def _within(
    planned: list[PlannedRoutine],
    request: PlanRequest,
    conditions: frozenset[Condition],
    shared: Fitting,
) -> tuple[list[PlannedRoutine], list[LeftOut]]:
    """The sittings within all limits of minutes; where they do not fit the lightest is left out."""
    left, left_out, said = planned, list[LeftOut](), tuple(shared.reasons)
    while True:
        try:
            found = within_minutes(
                left, conditions=conditions, limits=request.limits, shared=shared
            )
        except PlanError as error:
            if error.code != "minutes_too_few" or len(left) == 1:
                raise
            *left, lightest = left
            shared.reasons[:] = said
            left_out += [
                LeftOut(one.school.key, one.school.name, why_of(error), False)
                for one in lightest.sitting.kept
            ]
        else:
            return found, left_out


def _of_conditions(conditions: frozenset[Condition]) -> tuple[Reason, ...]:
    """What to bear in mind with a condition, whatever the program is."""
    if conditions & {Condition.MOTOR_NEURONE, Condition.MYASTHENIA}:
        return (_STOP_TIRED(), _BANK_VOICE())
    return ()


def _of_baseline(
    known: KnownBaseline, limits: Limits, conditions: frozenset[Condition]
) -> tuple[Reason, ...]:
    """What of the baseline should be thought about before it is activated."""
    found = []
    if known.throat_strain is not None and known.throat_strain >= STRAIN_TO_THINK_ABOUT.number:
        found.append(_STRAINED(strain=known.throat_strain))
    found += [
        flag
        for flag in flags_shown(known, limits, in_spasm=bool(conditions & IN_SPASM))
        if flag.code != "sz_short"
    ]
    return tuple(found)


def _fit_schools(
    request: PlanRequest,
    chooser: Chooser,
    shared: Fitting,
    new_step_id: Callable[[], str],
) -> tuple[list[KeptSchool], list[LeftOut]]:
    chosen, left_out = _chosen(request, chooser, shared)
    chosen = with_semi_occluded(chosen, chooser.conditions, shared)
    kept: list[KeptSchool] = []
    taken: dict[Rhythm, frozenset[str]] = {}
    for one in chosen:
        school = school_of(one.school)
        options = school.chosen(one.options)
        if (other := _rival_of(school, kept)) is not None:
            why = why_of(PlanError("rival_school", other=other.name))
            left_out.append(LeftOut(school.key, school.name, why, False))
            continue
        own = chooser.fitting(options)
        rhythm = rhythm_of(school.dose(options), request.limits.sessions_a_day)
        have = taken.get(rhythm, frozenset())
        steps, missing = _fit_steps(school, options, chooser, own, have, new_step_id)
        left_out += missing
        for reason in own.asked:
            shared.ask(reason)
        if any(out.essential for out in missing) or not steps:
            continue
        for reason in own.assumed:
            shared.assume(reason)
        for reason in own.reasons:
            shared.reason(reason)
        shared.margin_semitones = max(shared.margin_semitones, own.margin_semitones)
        taken[rhythm] = have | {weighed.step.task for weighed in steps}
        fitting, said = within_school(steps, _own_minutes(school, own))
        for reason in said:
            shared.reason(reason)
        kept.append(KeptSchool(school=school, options=options, steps=tuple(fitting)))
    if not kept:
        raise PlanError("nothing_fits", why=_everything_missing(left_out), asked=shared.asked)
    return kept, left_out


def _everything_missing(left_out: Sequence[LeftOut]) -> Reason:
    """Why nothing fits: every reason, each once with the tasks it is about."""
    tasks: dict[Reason, list[str]] = {}
    for out in left_out:
        if out.essential:
            tasks.setdefault(out.why, []).append(out.task)
    every = [
        _LEFT_OUT(task=", ".join(dict.fromkeys(names)), why=why) for why, names in tasks.items()
    ]
    return joined(*every) if every else _ALL_IN_IT()


def _chosen(
    request: PlanRequest, chooser: Chooser, shared: Fitting
) -> tuple[tuple[Chosen, ...], list[LeftOut]]:
    """The schools asked for, or those that come by themselves, with why and what was left out."""
    if request.schools:
        return request.schools, []
    found, left_out = chosen_for(request, chooser.conditions)
    if not found:
        whys = dict.fromkeys(one.why for one in left_out)
        raise PlanError("nothing_fits", why=joined(*whys) if whys else _NOTHING_CHOSEN())
    for one in found:
        because = joined(*one.because) if one.because else _PURPOSES()
        shared.reason(_CHOSEN(school=one.school.name, why=because))
    return as_chosen(found, request.direction), left_out


def _rival_of(school: School, kept: Sequence[KeptSchool]) -> School | None:
    others = (one.school for one in kept)
    return next((o for o in others if school.rival and o.rival is school.rival), None)


def _own_minutes(school: School, own: Fitting) -> tuple[float, float] | None:
    """The least and most minutes of a school's steps; a warm-up fills those there are."""
    if school.key != WARM_UP:
        return school.minutes
    most = min(warm_up_minutes(own), own.limits.minutes_a_session or WARM_UP_LONGEST.number)
    return max(most - 1, 0.5 * most), most


def _fit_steps(
    school: School,
    options: Mapping[str, str],
    chooser: Chooser,
    fitting: Fitting,
    taken: frozenset[str],
    new_step_id: Callable[[], str],
) -> tuple[list[Weighed], list[LeftOut]]:
    steps: list[Weighed] = []
    missing: list[LeftOut] = []
    for spec in school.specs(options):
        turned_on = spec.params.get("when_on")
        if turned_on and not getattr(fitting.limits, turned_on):
            continue
        have = taken | {one.step.task for one in steps}
        found = chooser.fitted(spec, fitting, have)
        if isinstance(found, Reason):
            task = chooser.tasks.get(spec.task)
            name = task.name if task else spec.task
            stands = chooser.stands_for(spec, have)
            waits = spec.params.get("waits") and chooser.cannot_do(spec.task) is None
            if not stands:
                essential = spec.essential and not waits
                missing.append(LeftOut(school.key, name, found, essential))
            continue
        task, fitted, because = found
        step = step_of(task, fitted, spec, step_id=new_step_id(), because=because)
        steps.append(Weighed(step, spec.essential or bool(spec.params.get("cut_last"))))
    return steps, missing


def _usual_minutes(sitting: PlannedSitting, chooser: Chooser) -> float:
    warm_ups = [
        warm_up_minutes(chooser.fitting(one.options))
        for one in sitting.kept
        if one.school.key == WARM_UP
    ]
    if warm_ups and len(sitting.kept) == 1:
        return warm_ups[0]
    return max([MINUTES_A_SESSION.number, *warm_ups])


def _short_day(
    sitting: PlannedSitting, chooser: Chooser, shared: Fitting, new_step_id: Callable[[], str]
) -> Step | None:
    for one in sitting.kept:
        spec = one.school.short_day
        if spec is None:
            continue
        fitting = replace(shared, options=one.options)
        seconds = 60.0 * one.dose.get("short_day_min", 3)
        found = chooser.fitted(replace(spec, params={"seconds": seconds}), fitting, frozenset())
        if not isinstance(found, Reason):
            task, fitted, because = found
            return step_of(task, fitted, spec, step_id=new_step_id(), because=because)
    return None
