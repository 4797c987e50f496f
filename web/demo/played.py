"""What was done in one home session of the demo: the last one is performed and measured, of those
before only the figures are played, by a simulated ability."""

from dataclasses import dataclass

import numpy as np

from core.catalogue.words import Growth
from core.kinds.measured import Measured
from core.plans.asked import asked_of
from core.plans.program import Program
from core.plans.step import Step
from core.simulate.history import PlayedHold, Profile, hold_on
from core.sound.figures import Contour, Figures, Quality, Verdict
from web.demo.performed import USUAL_TALK_DB, performed, talked
from web.practice.step_words import USUAL_TALK_S
from web.practice.usecases.keep_session import WholeAttempt
from web.programs.models import ProgramVersion

_NO_CONTOUR = Contour(f0_hz=np.zeros(0), level_db=np.zeros(0))
_FIRST = 2
_OFF_DAY_CENTS = 15
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
    version: ProgramVersion,
    profile: Profile,
    seed: int,
    weeks_in: float,
    *,
    sung: bool,
    whole: bool,
) -> list[WholeAttempt]:
    """Every attempt of one home session; `sung`: really performed and measured, with its contour,
    after the usual talk that strong work is compared with. `whole`: all of it; else the first
    attempts of each step, which keeps the loading short."""
    program = version.program
    attempts: list[WholeAttempt] = []
    after_s = 0.0
    if sung and any(step.level for step in program.steps):
        figures = talked(USUAL_TALK_S, level_db=USUAL_TALK_DB, seed=seed % 997, target=None)
        attempts.append(
            WholeAttempt(step=None, place=0, repetition=1, figures=figures, after_s=after_s)
        )
        after_s += 30.0
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
                    _attempt(
                        step,
                        place,
                        repetition,
                        held,
                        after_s,
                        sung=sung and (whole or (repetition == 1 and place < _FIRST)),
                        a4_hz=program.a4_hz,
                    )
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
        share = 0.8 if abs(held.cents) > _OFF_DAY_CENTS else 1.0
        done = None if asked.count is None else round(asked.count * share)
        return WholeAttempt(
            step=step,
            place=place,
            repetition=repetition,
            figures=None,
            after_s=after_s,
            seconds=round(asked.seconds, 1),
            count=done,
        )
    figures = (
        performed(step, place, held, seed=round(after_s), a4_hz=a4_hz)
        if sung
        else _figures(step, place, held)
    )
    return WholeAttempt(
        step=step, place=place, repetition=repetition, figures=figures, after_s=after_s
    )


def _figures(step: Step, place: int, held: PlayedHold) -> Figures:
    asked, task = asked_of(step, place), step.kind.measured
    hold = task is Measured.HOLD
    sings = asked.note is not None
    middle_hz = asked.note.hz() if asked.note else None
    share = min(held.seconds / asked.seconds, 1.05)
    seconds = held.seconds if task in _DRAWN else asked.seconds * (0.9 + 0.1 * share)
    if task is Measured.HISS:
        seconds = asked.seconds * (0.85 + 0.2 * share)
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
