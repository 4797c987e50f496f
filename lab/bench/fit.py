"""`./reed bench fit`: many made-up clients, what their proposals cost, and that none may hurt."""

import argparse
import itertools
import json
import sys
import time
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, field

import numpy as np

from core.catalogue.tasks import shipped_tasks
from core.catalogue.words import Growth
from core.errors import CoreError
from core.fitting.schools import schools
from core.program.rungs import floored
from core.program.step import Step
from core.program.targets import Blow, Holds, Pace
from core.proposing.client_file import client_data
from core.proposing.propose import ProposedProgram, propose
from core.proposing.report import proposal_data
from core.proposing.request import PlanRequest
from core.safety.condition import Condition
from core.safety.conditions import (
    Effect,
    known_conditions,
    limited_minutes,
    limits_of,
    touching,
)
from core.safety.program_gate import doings_of, touches_of
from lab.bench.clients import made_up_client
from lab.bench.oracle import breaches

SLOW_MS = 50.0


def faults_of(proposal: ProposedProgram, request: PlanRequest) -> list[str]:
    """What in a proposal is out of range, against a contraindication, or above what was shown."""
    program = proposal.program
    found = [str(one) for one in program.problems()]
    steps = program.all_steps
    for step in steps:
        found += _against(step, request)
        found += _above_shown(step, request)
    if request.screening is not None:
        minor = request.baseline.minor
        known = known_conditions(request.screening, request.today)
        known |= {Condition.MINOR} if minor else frozenset()
        for rule in limits_of(known):
            if limited_minutes(rule, doings_of(program)) > (rule.number or 0) + 0.05:
                found.append(f"{rule.key}: over its minutes")
    for routine in program.routines:
        if len({step.task for step in routine.steps}) != len(routine.steps):
            found.append("a task stands twice")
    if any(step.task in request.hidden for step in steps):
        found.append("a hidden task is used")
    return found


def _against(step: Step, request: PlanRequest) -> list[str]:
    if request.screening is None:
        return []
    known = known_conditions(request.screening, request.today)
    return [
        f"{step.name}: against {rule.key}"
        for rule in touching(known, touches_of(step), Effect.BLOCK)
    ]


def _above_shown(step: Step, request: PlanRequest) -> list[str]:
    known, target = request.baseline, step.target
    most = known.shown_voice_s
    found = []
    if isinstance(target, Holds) and most is not None:
        found += [h.note.name for h in target.holds if h.seconds > max(most, 0.5)]
    if step.grade and step.grade.key == "sustained" and known.probes_s:
        first = max(floored(min(known.probes_s)), 0.5)
        found += [h.note.name for h in step.holds if h.seconds > first]
    if isinstance(target, Blow) and known.best_s_s is not None and step.kind == "hiss":
        found += ["hiss"] if target.seconds > max(known.best_s_s, 0.5) else []
    if isinstance(target, Pace) and known.best_s_s is not None:
        found += ["breath"] if target.out_s > known.best_s_s else []
    if step.level and step.level.over_db and known.strong_over_db is not None:
        found += ["level"] if step.level.over_db > max(known.strong_over_db, 0) else []
    if step.grade and step.grade.growth is not Growth.NONE and step.grade.rung != 0:
        found.append("not on the first rung")
    return [f"{step.name}: starts above what was shown ({what})" for what in found]


@dataclass(slots=True)
class Fits:
    """What came of many clients."""

    proposed: int = 0
    refused: Counter = field(default_factory=Counter)
    faults: list[str] = field(default_factory=list)
    breaches: list[str] = field(default_factory=list)
    ms: list[float] = field(default_factory=list)
    slow: list[int] = field(default_factory=list)
    steps: list[int] = field(default_factory=list)


def _ids() -> Callable[[], str]:
    numbers = itertools.count()
    return lambda: f"step-{next(numbers)}"


def fit_many(clients: int, *, first_seed: int = 0, clock: Callable[[], float]) -> Fits:
    """Propose for so many made-up clients; core errors are refusals, anything else is a fault."""
    fits = Fits()
    shipped_tasks(), schools()  # read once, as a running server has
    for seed in range(first_seed, first_seed + clients):
        request = made_up_client(seed)
        began = clock()
        try:
            found = propose(request, new_step_id=_ids())
        except CoreError as error:
            fits.refused[error.code] += 1
            continue
        finally:
            fits.ms.append(1000 * (clock() - began))
            if fits.ms[-1] > SLOW_MS:
                fits.slow.append(seed)
        fits.proposed += 1
        fits.steps.append(len(found.program.steps))
        fits.faults += [f"client {seed}: {fault}" for fault in faults_of(found, request)]
        client, said = client_data(request), proposal_data(found, request)
        fits.breaches += [f"client {seed}: {breach}" for breach in breaches(client, said)]
    return fits


def main(arguments: list[str] | None = None) -> int:
    """Print figures as JSON; exit code 1 if any proposal has a fault."""
    parser = argparse.ArgumentParser(prog="./reed bench fit")
    parser.add_argument("--clients", type=int, default=10_000)
    given = parser.parse_args(arguments)
    fits = fit_many(given.clients, clock=time.process_time)
    print(
        json.dumps(
            {
                "clients": given.clients,
                "proposed": fits.proposed,
                "refused": dict(fits.refused),
                "faults": len(fits.faults),
                "first_faults": fits.faults[:20],
                "breaches": len(fits.breaches),
                "first_breaches": fits.breaches[:20],
                "core_ms": {
                    "median": round(float(np.median(fits.ms)), 2),
                    "p95": round(float(np.percentile(fits.ms, 95)), 2),
                    "worst": round(max(fits.ms), 2),
                },
                "clients_over_50_ms": fits.slow,
                "steps_mean": round(float(np.mean(fits.steps)), 1),
            },
            indent=2,
        )
    )
    return 1 if fits.faults or fits.breaches else 0


if __name__ == "__main__":
    sys.exit(main())
