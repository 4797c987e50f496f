"""What a client may do now, what is due today, and what the player needs for it."""

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from datetime import date
from functools import partial
from typing import Any, Self

from django.utils.formats import time_format
from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from core.catalogue.tasks import Task
from core.catalogue.touches import Touch
from core.catalogue.words import EQUIPMENT_WORDS
from core.dose.calendar import times_of_day
from core.dose.minutes import minutes_at_home
from core.dose.taper import on_day
from core.errors import PlanError
from core.program.program import Program
from core.program.routine import Routine, RoutineKind, in_day_order
from core.program.step import Step
from core.reference.values import PAIN_STOPS
from core.safety.program_gate import touches_of
from core.safety.stop import OpenSign, StopSign, pain_stops, rests, withheld
from web.clients.models import Client
from web.design.speaking import in_their_words
from web.practice.models import USUAL_TALK, Entry, HomeSession, Outcome, State
from web.practice.player.routine_words import routine_words, when_words
from web.practice.player.spoken_lines import places_of, said_by
from web.practice.player.step_words import step_data, usual_talk_data
from web.practice.player.target_words import step_words
from web.practice.player.warm_up_plans import is_planned, plans_of
from web.practice.sessions.levels import conversations, level_references
from web.programs.client_file import ClientFile
from web.programs.models import ProgramVersion

BUNDLE_FORMAT = 3
"""Of what the page keeps to go on without the server: one of another format is not read (session.js)."""


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
    """What a client may do of a program now; `but`: the home session whose own sign is left out."""
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


def done_today(client: Client, today: date) -> Counter[str]:
    """Home sessions kept, shortened or stopped on that local date, by the key of the routine."""
    done = [Outcome.KEPT, Outcome.SHORT, Outcome.STOPPED]
    rows = HomeSession.objects.filter(client=client, practice_day=today, outcome__in=done)
    return Counter(rows.values_list("routine", flat=True))


def next_due(
    can: Practicable, asked: Mapping[str, int], done: Mapping[str, int]
) -> PracticableRoutine:
    """The first routine that is still due today, else the first of which something can be done."""

    def due(one: PracticableRoutine) -> bool:
        return asked.get(one.routine.key, 0) > done.get(one.routine.key, 0)

    able = [one for one in can.routines if one.steps] or list(can.routines)
    return next(filter(due, able), able[0])


@dataclass(frozen=True)
class StepToday:
    """A step as Today lists it, in the client's words."""

    name: str
    words: str
    repetitions: int

    @classmethod
    def of(cls, step: Step) -> Self:
        return cls(in_their_words(step.name), step_words(step), step.repetitions)


@dataclass(frozen=True)
class RoutineToday:
    """A routine as Today shows it: how often it is asked for and done today, its minutes, its steps
    in the client's words."""

    key: str
    name: str
    when: str
    asked: int
    done: int
    minutes: float
    steps: list[StepToday]
    short_day: StepToday | None
    times: str = ""
    at_hand: str = ""

    @property
    def left(self) -> int:
        return max(self.asked - self.done, 0)

    @property
    def length(self) -> str:
        """How long it takes, in words."""
        whole = round(self.minutes)
        if not whole:
            return _("under a minute")
        return ngettext("about %(count)s minute", "about %(count)s minutes", whole) % {
            "count": whole
        }

    @property
    def turn(self) -> int:
        """Which of today's the next one is, from 1."""
        return self.done + 1


def times_words(routine: Routine, count: int) -> str:
    """When it is best done, "8:00, 18:00"; "" where it is not asked for or the day is too full."""
    try:
        times = times_of_day(routine.dose, count) if count else ()
    except PlanError:
        return ""
    return ", ".join(time_format(one, "G:i") for one in times)


def things_at_hand(steps: Iterable[Step], tasks: Mapping[str, Task]) -> str:
    """The things its tasks need."""
    needed = {thing for step in steps if step.task in tasks for thing in tasks[step.task].equipment}
    return ", ".join(in_their_words(EQUIPMENT_WORDS[thing]) for thing in sorted(needed))


def due_today(
    can: Practicable,
    asked: Mapping[str, int],
    done: Mapping[str, int],
    tasks: Mapping[str, Task],
) -> list[RoutineToday]:
    """Every routine, those that are still due first. tasks: the clinic's catalogue."""
    found = [
        RoutineToday(
            key=one.routine.key,
            name=routine_words(one.routine),
            when=when_words(one.routine),
            asked=asked.get(one.routine.key, 0),
            done=done.get(one.routine.key, 0),
            minutes=minutes_at_home(one.steps),
            steps=[StepToday.of(step) for step in one.steps],
            short_day=StepToday.of(one.short_day) if one.short_day else None,
            times=times_words(one.routine, asked.get(one.routine.key, 0)),
            at_hand=things_at_hand(one.steps, tasks),
        )
        for one in can.routines
    ]
    return sorted(found, key=lambda one: not one.left)


def bundle_of(
    session: HomeSession, version: ProgramVersion, *, short_day: bool = False
) -> dict[str, Any]:
    """Everything the player needs for one home session, in plain data, without the steps that rest;
    on a bad day only the step that stands for the whole, where the routine has one. Before strong
    work each device first takes usual talk: `usual_talk`, unless it is in `known_talk`."""
    program = on_day(version.program, session.practice_day)
    file = ClientFile.now(session.client)
    can = practicable(file, program, but=session)
    now = can.of(session.routine)
    short = now.short_day if short_day else None
    steps = (short,) if short else now.steps
    strong = any(step.level for step in steps)
    own = replace(
        said_by(session.client_id, session.clinic_id), places=places_of(session.client_id, steps)
    )
    data = partial(
        step_data,
        a4_hz=program.a4_hz,
        day=session.practice_day,
        own=own,
        tasks=file.tasks,
        names_notes=not session.client.pitch_hidden,
    )
    fitted = is_planned(now.routine) and not short
    more = _more_steps(can, now) if fitted else []
    return {
        "format": BUNDLE_FORMAT,
        "session_id": str(session.pk),
        "routine": session.routine,
        "steps": [data(step) for step in steps],
        "plans": plans_of([*now.steps, *more]) if fitted else None,
        "more_steps": [data(step) for step in more],
        "a4_hz": program.a4_hz,
        "pain_stops": PAIN_STOPS.number,
        "known_devices": sorted(level_references(session.client_id)),
        "usual_talk": usual_talk_data() if strong else None,
        "known_talk": sorted(conversations(session.client_id)) if strong else [],
        **done_in(session),
    }


def _more_steps(can: Practicable, now: PracticableRoutine) -> list[Step]:
    """What of the other routines may stand in a warm-up of the day."""
    return [step for one in can.routines if one is not now for step in one.steps]


def done_in(session: HomeSession) -> dict[str, Any]:
    """What was done of a home session that goes on: attempts by step, place and repetition, and the steps
    after which strain was answered."""
    attempts = session.attempts.exclude(state=State.INTERRUPTED).exclude(step_id=USUAL_TALK)
    said = session.entries.filter(kind__in=["strain", "pain"], step_id__isnull=False)
    return {
        "done": [
            [str(step_id), place, repetition]
            for step_id, place, repetition in attempts.values_list("step_id", "place", "repetition")
        ],
        "answered": sorted({str(step_id) for step_id in said.values_list("step_id", flat=True)}),
    }
