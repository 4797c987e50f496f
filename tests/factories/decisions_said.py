"""What `tests/core/test_decisions_said.py` and others make and look at."""

from dataclasses import replace

from core.program.dosing import TaperStage
from core.reason import Reason
from tests.core.histories import (
    TODAY,
    ago,
    decisions,
    done,
    held,
    sitting,
    soft,
    the_cook,
)

WEEK = (7, 6, 5, 4, 3, 2, 1)


COOK, POWER = the_cook()


BOTH = ("sustained_warm_up", "sustained_power")


MET = ("meets_goal", {"sessions": 5, "looked": 5})


LITTLE = ("little_kept", {"needed": 50})


NONE_MET = ("too_few_met", {"met": 0, "sessions": 5, "needed": 4})


def said(record, numbers=None):
    """Act, tasks, rung, reasons and what is against, each reason by its code and numbers."""
    names = {step.step_id: step.task for step in record.program.all_steps}
    return [
        (
            one.act.value,
            tuple(names[s] for s in one.steps),
            one.rung,
            _told(one.reasons),
            _told(one.against),
        )
        for one in decisions(record, TODAY, numbers)
        # glides have no ladder; that they stay is said once, in test_deciding_safely.py
        if [why.code for why in one.reasons] != ["no_rule"]
    ]


def _told(reasons):
    return [
        (why.code, {name: _plain(value) for name, value in why.params.items()}) for why in reasons
    ]


def _plain(value):
    if isinstance(value, Reason):
        return value.code
    return round(value, 3) if isinstance(value, float) else value


def stays(*against, steps=BOTH):
    return ("stay", steps, None, [], list(against))


def missing(figure):
    return ("held_back", {"figures": (figure,)})


def on(days, *steps, program=COOK, **more):
    return [sitting(program, ago(day), *steps, **more) for day in days]


def fine(days=WEEK, **more):
    return on(days, soft(POWER, 5), **more)


def each(days, values, made):
    return [sitting(COOK, ago(day), made(value)) for day, value in zip(days, values, strict=True)]


def strained(value):
    return soft(POWER, 5, strain=value)


def best(seconds):
    return done(POWER, [{**held(), "best_s": seconds}] * 5, over_db=1.0)


def with_dose(program, **dose):
    routine = program.routines[0]
    return program.with_routine(replace(routine, dose=replace(routine.dose, **dose)))


def stages(*weeks):
    return tuple(
        TaperStage(words=str(n), sessions_a_day=1, every_days=1, repetitions=1, weeks=own)
        for n, own in enumerate(weeks)
    )
