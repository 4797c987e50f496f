"""The sustained-note ladder: warm-up hold, stretch glide, contract glide, power notes."""

from collections.abc import Callable, Sequence
from dataclasses import replace

from core.catalogue.tasks import shipped_tasks
from core.notes.note import Note
from core.notes.range import ComfortableRange, VoiceGroup
from core.plans.pitches import PitchSchool, fit_pitches
from core.plans.program import Dose, GlidePath, HoldTarget, Program, Step
from core.plans.rungs import checked_hold, rungs_from
from core.reference.values import CONCERT_A4, GLIDE_SECONDS, REST_SECONDS

TWICE = 2


def propose_ladder(
    *,
    comfort: ComfortableRange,
    group: VoiceGroup,
    school: PitchSchool,
    probe_bests_s: Sequence[float],
    goal_s: float,
    goal_because: str,
    new_step_id: Callable[[], str],
    a4_hz: float = CONCERT_A4.number,
    dose: Dose | None = None,
) -> Program:
    """A whole program on the first rung, every target with its reason.

    probe_bests_s: best soft hold of each probed note, s; goal_s: program goal, s.
    new_step_id: gives a fresh UUID text. Raises PlanError as fit_pitches and rungs_from do.
    """
    pitches = fit_pitches(comfort, group, school)
    rungs = rungs_from(probe_bests_s, goal_s)
    seconds = rungs[0]
    because = f"first rung from the probes {', '.join(f'{best:g}' for best in probe_bests_s)} s"

    def hold(note: Note) -> HoldTarget:
        return HoldTarget(note=note, seconds=seconds, because=because)

    steps = (
        _step("sustained_warm_up", new_step_id(), holds=(hold(pitches.warm_up),)),
        _step("sustained_stretch", new_step_id(), glide=_glide(comfort.lowest, comfort.highest)),
        _step("sustained_contract", new_step_id(), glide=_glide(comfort.highest, comfort.lowest)),
        _step("sustained_power", new_step_id(), holds=tuple(hold(n) for n in pitches.notes)),
    )
    return Program(
        school=school.value,
        comfort=comfort,
        a4_hz=a4_hz,
        margin_semitones=pitches.margin_semitones,
        pitches_because=pitches.because,
        goal_s=goal_s,
        goal_because=goal_because,
        rungs_s=rungs,
        rung=0,
        longest_shown_s=max(probe_bests_s),
        steps=steps,
        dose=dose or Dose(),
    )


def on_rung(program: Program, rung: int) -> Program:
    """The program with every hold set to another of its rungs (index), its reason said."""
    moved = replace(program, rung=rung)
    seconds = checked_hold(moved.rungs_s[rung])
    because = f"rung {rung + 1} of {len(moved.rungs_s)}"
    steps = tuple(
        replace(
            step,
            holds=tuple(replace(hold, seconds=seconds, because=because) for hold in step.holds),
        )
        for step in program.steps
    )
    return replace(moved, steps=steps)


def _glide(start: Note, end: Note) -> GlidePath:
    return GlidePath(
        start=start,
        end=end,
        seconds=GLIDE_SECONDS.number,
        because=f"the whole comfortable range, {start} to {end}",
    )


def _step(
    key: str,
    step_id: str,
    *,
    holds: tuple[HoldTarget, ...] = (),
    glide: GlidePath | None = None,
) -> Step:
    task = shipped_tasks()[key]
    return Step(
        step_id=step_id,
        task=key,
        kind=task.kind,
        name=task.name,
        sound=task.sound,
        instruction=task.instruction,
        caution=task.caution,
        repetitions=TWICE,
        rest_s=REST_SECONDS.number,
        holds=holds,
        glide=glide,
    )
