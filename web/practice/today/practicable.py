"""Which steps a client may practice now, after what is on hold for a stop sign or hurt today."""

from dataclasses import dataclass, replace
from datetime import date

from core.catalogue.touches import Touch
from core.errors import PlanError
from core.program.program import Program
from core.program.routine import Routine, RoutineKind, in_day_order
from core.program.step import Step
from core.safety.program_gate import touches_of
from core.safety.stop import OpenSign, StopSign, pain_stops, rests, withheld
from web.clients.models import Client
from web.practice.models import Entry, HomeSession
from web.practice.player.warm_up_plans import is_planned
from web.programs.client_file import ClientFile


def open_signs(client_id, *, but: HomeSession | None = None) -> list[OpenSign]:
    """The stop signs nobody has cleared, each with the step it came with, the newest last."""
    rows = HomeSession.objects.filter(client_id=client_id, stop_cleared_at=None)
    rows = rows.exclude(stop_sign="").order_by("started_at").prefetch_related("entries")
    found = []
    for row in rows:
        if but is not None and row.pk == but.pk:
            continue
        said = [e.step_id for e in row.entries.all() if e.kind == "stop" or _hurt_too_much(e)]
        step_id = str(said[-1]) if said and said[-1] else None
        found.append(OpenSign(StopSign(row.stop_sign), step_id))
    return found


def _hurt_too_much(entry: Entry) -> bool:
    return entry.kind == "pain" and pain_stops(entry.value)


def hurting_today(client: Client, day: date) -> frozenset[str]:
    """The ids of the steps that hurt a little on that day: they are left out for the rest of it."""
    said = Entry.objects.filter(client=client, kind="pain", home_session__practice_day=day)
    return frozenset(str(row.step_id) for row in said if row.value)


@dataclass(frozen=True)
class PracticableRoutine:
    """What of a routine does not rest now: its steps, and the one for a bad day."""

    routine: Routine
    steps: tuple[Step, ...]
    short_day: Step | None


@dataclass(frozen=True)
class Practicable:
    """What a client may do now: every routine in the order of a day, what rests after a stop sign, what hurt a little
    today and is left out until tomorrow, what no line and no prompt may ask for, the stop signs nobody has cleared."""

    routines: tuple[PracticableRoutine, ...]
    resting: tuple[Step, ...]
    not_today: tuple[Step, ...]
    withheld: frozenset[Touch]
    signs: tuple[OpenSign, ...]

    def lasting(self) -> tuple[PracticableRoutine, ...]:
        """The routines as they are for longer than today: less what rests, with what only hurt a little today; for
        what is printed."""
        resting = set(self.resting)
        found = []
        for one in self.routines:
            steps = tuple(step for step in one.routine.steps if step not in resting)
            short = None if one.routine.short_day in resting else one.routine.short_day
            found.append(PracticableRoutine(one.routine, steps, short))
        return tuple(found)

    def of(self, key: str) -> PracticableRoutine:
        """The routine of that key; PlanError("routine_unknown")."""
        for one in self.routines:
            if one.routine.key == key:
                return one
        raise PlanError("routine_unknown", came=key, known=[o.routine.key for o in self.routines])


def practicable(
    file: ClientFile, program: Program, *, but: HomeSession | None = None
) -> Practicable:
    """Which steps of a program may be practiced now. but: a home session whose own stop sign is ignored."""
    signs = open_signs(file.client.pk, but=but)
    known = {step.step_id for step in program.all_steps}
    held = [one if one.step_id in known else replace(one, step_id=None) for one in signs]

    def touched(step: Step) -> frozenset[Touch]:
        return touches_of(step, file.tasks)

    hurting = hurting_today(file.client, file.today)
    resting = tuple(step for step in program.all_steps if rests(step, held, touched))
    hurt = tuple(step for step in program.all_steps if step.step_id in hurting)
    not_today = tuple(step for step in hurt if step not in resting)
    left_out = (*resting, *not_today)
    return Practicable(
        routines=tuple(
            PracticableRoutine(
                routine=one,
                steps=tuple(step for step in one.steps if step not in left_out),
                short_day=None if one.short_day in left_out else one.short_day,
            )
            for one in in_day_order(program.routines)
        ),
        resting=resting,
        not_today=not_today,
        withheld=withheld(signs),
        signs=tuple(signs),
    )


def cool_down_after(can: Practicable, routine: Routine) -> Routine | None:
    """What brings the voice back to rest after the event a warm-up was for; None where there is none."""
    after = (one for one in can.routines if one.routine.kind is RoutineKind.COOL_DOWN and one.steps)
    found = next(after, None) if is_planned(routine) else None
    return found.routine if found else None
