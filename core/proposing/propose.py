"""A whole program from what is known of a client, every choice with its reason."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

from core.catalogue.tasks import Task, shipped_tasks
from core.dose.load import Load, load_notices, load_of
from core.errors import PlanError
from core.fitting.fit_counted import warm_up_minutes
from core.fitting.known import FitInputs, KnownBaseline, Limits, flags_shown
from core.fitting.notes import Notes, because, to_ask
from core.fitting.schools import School, school_of
from core.fitting.why_words import why_of
from core.program.program import Chosen, Program
from core.program.step import Step
from core.proposing.advice import advice_for
from core.proposing.aims import Want
from core.proposing.choose import Chooser, FittedTask, LeftOut, NotFitted, step_of
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
    tremor = conditions & IN_SPASM and request.baseline.pitch_sd_semitones is None
    to_measure = to_ask(_MEASURE_TREMOR()) if tremor else Notes()
    kept, left_out, notes = _fit_schools(request, chooser, to_measure, new_step_id)
    sittings, without_place, of_sittings = sittings_of(kept, request.limits.sessions_a_day)
    made = [_planned(one, request, chooser, new_step_id) for one in sittings]
    planned, too_long, of_minutes = _within([one for one, _notes in made], request, conditions)
    for found_out in (of_sittings, *(own for _one, own in made), of_minutes):
        notes += found_out
    done = [one for sitting in planned for one in sitting.sitting.kept]
    all_left_out = (*left_out, *without_place, *too_long)
    program = Program(
        schools=tuple(Chosen(school=one.school.key, options=one.options) for one in done),
        comfort=request.baseline.comfort,
        a4_hz=request.a4_hz,
        margin_semitones=notes.margin_semitones,
        routines=routines_of(planned),
        shown_s=request.baseline.shown_voice_s,
        shown_air_s=request.baseline.best_s_s,
        advice=advice_for(chooser, [one.school for one in done]),
        reasons=notes.reasons,
        left_out=tuple(_LEFT_OUT(task=out.task, why=out.why) for out in all_left_out),
        assumed=notes.assumed,
        asked=notes.asked,
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
    new_step_id: Callable[[], str],
) -> tuple[PlannedRoutine, Notes]:
    steps, cut = with_fewer_voiced(sitting.ordered, chooser.conditions, request.living)
    within, limited = dose_within(
        sitting.dose,
        steps,
        chooser.conditions,
        refresher=request.refresher,
        most_a_day=request.limits.sessions_a_day,
    )
    most_min = request.limits.minutes_a_session or _usual_minutes(sitting, chooser)
    dose, dosed = dose_of(within, request, chooser.conditions)
    short_day, shortened = _short_day(sitting, chooser, new_step_id)
    planned = PlannedRoutine(
        sitting=sitting,
        steps=tuple(steps),
        dose=dose,
        most_min=min(most_min, most_minutes(within, chooser.conditions)),
        short_day=short_day,
    )
    return planned, cut + limited + dosed + shortened


def _within(
    planned: list[PlannedRoutine],
    request: PlanRequest,
    conditions: frozenset[Condition],
) -> tuple[list[PlannedRoutine], list[LeftOut], Notes]:
    """The sittings within all limits of minutes, and what was cut for it; where they do not fit the lightest is
    left out."""
    left, left_out = planned, list[LeftOut]()
    while True:
        try:
            found, cut = within_minutes(left, conditions=conditions, limits=request.limits)
        except PlanError as error:
            if error.code != "minutes_too_few" or len(left) == 1:
                raise
            *left, lightest = left
            left_out += [
                LeftOut(one.school.key, one.school.name, why_of(error), False)
                for one in lightest.sitting.kept
            ]
        else:
            return found, left_out, cut


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
    notes: Notes,
    new_step_id: Callable[[], str],
) -> tuple[list[KeptSchool], list[LeftOut], Notes]:
    """The schools that this client can do, each with its steps; notes: what was found out before."""
    chosen, left_out, named = _chosen(request, chooser)
    chosen, added = with_semi_occluded(chosen, chooser.conditions)
    notes += named + added
    kept: list[KeptSchool] = []
    taken: dict[Rhythm, frozenset[str]] = {}
    for one in chosen:
        school = school_of(one.school)
        options = school.chosen(one.options)
        if (other := _rival_of(school, kept)) is not None:
            why = why_of(PlanError("rival_school", other=other.name))
            left_out.append(LeftOut(school.key, school.name, why, False))
            continue
        own = chooser.inputs(options)
        rhythm = rhythm_of(school.dose(options), request.limits.sessions_a_day)
        have = taken.get(rhythm, frozenset())
        steps, missing, found_out = _fit_steps(school, options, chooser, own, have, new_step_id)
        left_out += missing
        if any(out.essential for out in missing) or not steps:
            notes += to_ask(*found_out.asked)
            continue
        notes += found_out
        taken[rhythm] = have | {weighed.step.task for weighed in steps}
        fitting, said = within_school(steps, _own_minutes(school, own))
        notes += because(*said)
        kept.append(KeptSchool(school=school, options=options, steps=tuple(fitting)))
    if not kept:
        asked = list(notes.asked)
        raise PlanError("nothing_fits", why=_everything_missing(left_out), asked=asked)
    return kept, left_out, notes


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
    request: PlanRequest, chooser: Chooser
) -> tuple[tuple[Chosen, ...], list[LeftOut], Notes]:
    """The schools asked for, or those that come by themselves, with why and what was left out."""
    if request.schools:
        return request.schools, [], Notes()
    found, left_out = chosen_for(request, chooser.conditions)
    if not found:
        whys = dict.fromkeys(one.why for one in left_out)
        raise PlanError("nothing_fits", why=joined(*whys) if whys else _NOTHING_CHOSEN())
    named = (
        _CHOSEN(school=one.school.name, why=joined(*one.because) if one.because else _PURPOSES())
        for one in found
    )
    return as_chosen(found, request.direction), left_out, because(*named)


def _rival_of(school: School, kept: Sequence[KeptSchool]) -> School | None:
    others = (one.school for one in kept)
    return next((o for o in others if school.rival and o.rival is school.rival), None)


def _own_minutes(school: School, own: FitInputs) -> tuple[float, float] | None:
    """The least and most minutes of a school's steps; a warm-up fills those there are."""
    if school.key != WARM_UP:
        return school.minutes
    most = min(warm_up_minutes(own), own.limits.minutes_a_session or WARM_UP_LONGEST.number)
    return max(most - 1, 0.5 * most), most


def _fit_steps(
    school: School,
    options: Mapping[str, str],
    chooser: Chooser,
    inputs: FitInputs,
    taken: frozenset[str],
    new_step_id: Callable[[], str],
) -> tuple[list[Weighed], list[LeftOut], Notes]:
    steps: list[Weighed] = []
    missing: list[LeftOut] = []
    notes = Notes()
    for spec in school.specs(options):
        turned_on = spec.params.get("when_on")
        if turned_on and not getattr(inputs.limits, turned_on):
            continue
        have = taken | {one.step.task for one in steps}
        found = chooser.fitted(spec, inputs, have)
        notes += found.notes
        if isinstance(found, NotFitted):
            task = chooser.tasks.get(spec.task)
            name = task.name if task else spec.task
            stands = chooser.stands_for(spec, have)
            waits = spec.params.get("waits") and chooser.cannot_do(spec.task) is None
            if not stands:
                essential = spec.essential and not waits
                missing.append(LeftOut(school.key, name, found.why, essential))
            continue
        step = step_of(found.task, found.fitted, spec, step_id=new_step_id(), because=found.because)
        steps.append(Weighed(step, spec.essential or bool(spec.params.get("cut_last"))))
    return steps, missing, notes


def _usual_minutes(sitting: PlannedSitting, chooser: Chooser) -> float:
    warm_ups = [
        warm_up_minutes(chooser.inputs(one.options))
        for one in sitting.kept
        if one.school.key == WARM_UP
    ]
    if warm_ups and len(sitting.kept) == 1:
        return warm_ups[0]
    return max([MINUTES_A_SESSION.number, *warm_ups])


def _short_day(
    sitting: PlannedSitting, chooser: Chooser, new_step_id: Callable[[], str]
) -> tuple[Step | None, Notes]:
    notes = Notes()
    for one in sitting.kept:
        spec = one.school.short_day
        if spec is None:
            continue
        seconds = 60.0 * one.dose.get("short_day_min", 3)
        inputs = chooser.inputs(one.options)
        found = chooser.fitted(replace(spec, params={"seconds": seconds}), inputs, frozenset())
        notes += found.notes
        if isinstance(found, FittedTask):
            step = step_of(
                found.task, found.fitted, spec, step_id=new_step_id(), because=found.because
            )
            return step, notes
    return None, notes
