"""What was done in one home session of the demo: holds and glides by a simulated ability, the rest as
asked for, a little short on weak days."""

from dataclasses import dataclass

import numpy as np

from core.catalogue.words import Growth
from core.plans.asked import asked_of
from core.plans.program import Program
from core.plans.step import Step
from core.simulate.history import PlayedHold, Profile, hold_on
from core.sound.figures import Contour, Figures, Quality, Verdict
from core.sound.tasks import Measured
from web.demo.sung import sung_figures
from web.practice.usecases.keep_session import WholeAttempt
from web.programs.models import ProgramVersion

_NO_CONTOUR = Contour(f0_hz=np.zeros(0), level_db=np.zeros(0))
_DRAWN = (Measured.HOLD, Measured.GLIDE)


@dataclass(frozen=True, slots=True)
class NextRung:
    """The rung above the present one of a step, and the seconds it asks for."""

    step_id: str
    rung: int
    seconds: float


def next_rung(program: Program) -> NextRung | None:
    """The next rung of the held notes, or else of the first step that has one; None at the goal.

    Its seconds are what the client must be able to hold: 0 for rungs that are no seconds.
    """
    main = program.main_step
    graded = [step for step in (main, *program.steps) if step and step.grade]
    for step in graded:
        grade = step.grade
        if grade is None or grade.rung + 1 >= len(grade.rungs):
            continue
        held = step is main and grade.growth is Growth.SECONDS
        seconds = grade.rungs[grade.rung + 1] if held else 0.0
        return NextRung(step.step_id, grade.rung + 1, seconds)
    return None


def played_attempts(
    version: ProgramVersion, profile: Profile, seed: int, weeks_in: float, *, sung: bool
) -> list[WholeAttempt]:
    """Every attempt of one home session; `sung`: really sung and measured, with its contour."""
    program = version.program
    attempts: list[WholeAttempt] = []
    after_s = 0.0
    for step in program.steps:
        for repetition in range(1, step.repetitions + 1):
            for place in range(step.target.attempts):
                count = len(attempts)
                target_s = asked_of(step, place).seconds
                held = hold_on(
                    profile,
                    session_seed=seed,
                    place=count,
                    weeks_in=weeks_in,
                    target_s=target_s,
                )
                attempts.append(
                    _attempt(step, place, repetition, held, after_s, sung=sung, a4_hz=program.a4_hz)
                )
                after_s += target_s + 20.0
    return attempts


def _attempt(
    step: Step,
    place: int,
    repetition: int,
    held: PlayedHold,
    after_s: float,
    *,
    sung: bool,
    a4_hz: float,
) -> WholeAttempt:
    asked, task = asked_of(step, place), step.kind.measured
    if task is None:
        done = (
            None
            if asked.count is None
            else round(asked.count * min(held.seconds / asked.seconds, 1))
        )
        return WholeAttempt(
            step=step,
            place=place,
            repetition=repetition,
            figures=None,
            after_s=after_s,
            seconds=round(asked.seconds, 1),
            count=done,
        )
    if sung and task in _DRAWN:
        figures = sung_figures(step, place, held, seed=round(after_s), a4_hz=a4_hz)
    else:
        figures = _figures(step, place, held)
    return WholeAttempt(
        step=step, place=place, repetition=repetition, figures=figures, after_s=after_s
    )


def _figures(step: Step, place: int, held: PlayedHold) -> Figures:
    asked, task = asked_of(step, place), step.kind.measured
    hold = task is Measured.HOLD
    sings = asked.note is not None
    middle_hz = asked.note.hz() if asked.note else None
    seconds = held.seconds if task in _DRAWN else min(held.seconds, asked.seconds * 1.05)
    return Figures(
        task=step.kind.value,
        target=asked.aim or None,
        quality=Quality(Verdict.GOOD),
        contour=_NO_CONTOUR,
        hold_s=seconds,
        onset_s=0.4,
        offset_s=0.4 + seconds,
        f0_median_hz=middle_hz * 2 ** (held.cents / 1200) if middle_hz else None,
        f0_sd_semitones=held.pitch_sd_semitones if hold and sings else None,
        pitch_error_cents=held.cents if hold and sings else None,
        level_mean_db=held.level_db,
        level_sd_db=0.9 if task in (*_DRAWN, Measured.HISS) else None,
        trail_off_db=held.trail_off_db if task in (Measured.HOLD, Measured.GLIDE) else None,
    )
