"""Histories of home sessions for tests of the rules, each made of what it says and nothing else."""

from dataclasses import replace
from datetime import date, timedelta

from core.catalogue.tasks import shipped_tasks
from core.dose.tide import Prescribed
from core.editing.change_rung import on_rung
from core.grading.decide import decisions
from core.grading.history import History, PastSession, StepDone, Trial
from tests.core.fitted import proposed

TODAY = date(2026, 6, 30)


def ago(days):
    return TODAY - timedelta(days=days)


def history(program, sittings=(), **more):
    """A history of a program that is 20 days old and asked for as it says."""
    since = more.pop("active_since", ago(20))
    tasks = shipped_tasks()
    stretches = tuple(
        Prescribed(routine=one.key, first=since, last=None, dose=replace(one.dose, starts_on=since))
        for one in program.routines
    )
    families = {one.step_id: tasks[one.task].family for one in program.all_steps}
    return History(
        program=program,
        active_since=since,
        sittings=tuple(sittings),
        stretches=more.pop("stretches", stretches),
        families=more.pop("families", families),
        **more,
    )


def sitting(program, day, *steps, routine=None, **more):
    return PastSession(
        day=day, routine=routine or program.routines[0].key, steps=tuple(steps), **more
    )


def done(asked, trials=(), *, rung=None, strain=2.0, said=None, **figures):
    """A step as it was done: `trials` are figures of each attempt, strain 2 unless it is None."""
    answers = {} if strain is None else {"strain": strain}
    return StepDone(
        step_id=asked.step_id,
        rung=asked.rung if rung is None else rung,
        asked=asked.attempts,
        notes=asked.target.attempts,
        trials=tuple(
            one if isinstance(one, Trial) else Trial(note=str(place), figures=one)
            for place, one in enumerate(trials)
        ),
        figures=figures,
        said=answers | (said or {}),
    )


def the_cook():
    """The worked case's program on its second rung of 7 s, and its five notes."""
    program = proposed("sustained").program
    program = on_rung(program, step_of(program, "sustained_power").step_id, 1)
    return program, step_of(program, "sustained_power")


def step_of(program, task):
    return next(one for one in program.steps if one.task == task)


def held(share=101.0, sd=0.32, fade=-2.1, over=1.0):
    """Figures of one soft hold: % of the target, semitones, dB, dB over the reference."""
    return {
        "share": share,
        "best_s": share * 0.07,
        "pitch_sd": sd,
        "trail_off": fade,
        "over_db": over,
    }


def soft(power, met, *, strain=3.0, short=None, rung=None):
    """A home session of the five notes of which `met` are met; the others come to 90 %."""
    missed = short or held(share=90.0)
    return done(power, [held()] * met + [missed] * (5 - met), strain=strain, rung=rung, over_db=1.0)


def acts(found):
    return [one.act.value for one in found]


def proposal(history_, act, today=TODAY, numbers=None):
    """The first proposal of an act; None where there is none."""
    found = decisions(history_, today, numbers)
    return next((one for one in found if one.act.value == act), None)


def codes(reasons):
    return {one.code for one in reasons}


def loud_program():
    """Strong work of the cook: strong “ah” 9 s at 8 dB over her conversation."""
    known = {"strong_s": (9.0, 8.5), "strong_over_db": 8.0, "speaking": "A3"}
    options = {"aim": "decibel"}
    return proposed("loudness_longest", options=options, known=known).program
