"""A program as it is printed for its client: steps, routines, how often, in the client's words and drawings."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from django.utils.formats import date_format
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy as lazy
from django.utils.translation import ngettext

from core.catalogue.tasks import Task, in_the_day
from core.dose.minutes import length_of
from core.program.dosing import Dose
from core.program.step import Step
from core.program.targets import Activity, Holds
from web.clients.models import Client
from web.design.drawings.keyboard import KeyMark, keyboard
from web.design.drawings.movement import movement
from web.design.speaking import in_their_words
from web.practice.player.routine_words import routine_words, when_words
from web.practice.player.spoken_lines import has_words, places_of
from web.practice.player.step_words import cue_words, effort_words
from web.practice.player.target_words import step_words
from web.practice.today.due import things_at_hand, times_words
from web.practice.today.practicable import PracticableRoutine

_DAYS = (lazy("Mon"), lazy("Tue"), lazy("Wed"), lazy("Thu"), lazy("Fri"), lazy("Sat"), lazy("Sun"))


@dataclass(frozen=True)
class StepOnPaper:
    """A step as it is printed; notes: "1 = B♭3", empty where none is asked for; keys: where they lie."""

    name: str
    words: str
    times: int
    instruction: str
    cue: str
    effort: str
    caution: str
    in_the_day: bool
    notes: str
    keys: SafeString | None
    picture: SafeString


@dataclass(frozen=True)
class RoutineOnPaper:
    """A routine as it is printed: how often and when, what is needed for it, whether
    something is read or said in it, how long it takes."""

    name: str
    often: str
    when: str
    times: str
    at_hand: str
    has_words: bool
    minutes: int
    steps: list[StepOnPaper]
    short_day: StepOnPaper | None


def routine_on_paper(
    can: PracticableRoutine, client: Client, tasks: Mapping[str, Task]
) -> RoutineOnPaper:
    """What of a routine does not rest. tasks: the clinic's catalogue."""
    dose = can.routine.dose
    return RoutineOnPaper(
        name=routine_words(can.routine),
        often=how_often(dose),
        when=when_words(can.routine),
        times=times_words(can.routine, dose.sessions_a_day),
        at_hand=things_at_hand(can.steps, tasks),
        has_words=any(map(has_words, can.steps)),
        minutes=round(length_of(can.steps).minutes),
        steps=[_step(step, client, tasks) for step in can.steps],
        short_day=_step(can.short_day, client, tasks) if can.short_day else None,
    )


def how_often(dose: Dose) -> str:
    """How often, in one sentence."""
    a_day = ngettext("once a day", "%(n)s times a day", dose.sessions_a_day)
    if dose.weekdays:
        days = ", ".join(str(_DAYS[day - 1]) for day in sorted(dose.weekdays))
    elif dose.days_a_week == 7:
        days = _("every day")
    else:
        days = ngettext("%(n)s day a week", "%(n)s days a week", dose.days_a_week)
        days %= {"n": dose.days_a_week}
    weeks = ngettext("for %(n)s week", "for %(n)s weeks", dose.weeks) % {"n": dose.weeks}
    said = [a_day % {"n": dose.sessions_a_day}, str(days), weeks]
    for away in dose.away:
        said.append(
            _("not from %(first)s to %(last)s")
            % {"first": date_format(away.first, "j F"), "last": date_format(away.last, "j F")}
        )
    return ", ".join(said)


def _step(step: Step, client: Client, tasks: Mapping[str, Task]) -> StepOnPaper:
    marks = [] if client.pitch_hidden else marks_of(step)
    named = ", ".join(f"{one.words} = {one.note.name}" for one in _told(marks))
    picture = movement(step.task, label=in_their_words(step.name))
    return StepOnPaper(
        name=in_their_words(step.name),
        words=step_words(step),
        times=step.repetitions,
        instruction=in_their_words(step.instruction),
        cue=cue_words(step, places_of(client.pk, [step])),
        effort=effort_words(step),
        caution=in_their_words(step.caution),
        in_the_day=in_the_day(step.task, tasks),
        notes=named,
        keys=keyboard(marks, label=in_their_words(step.name), names=named) if marks else None,
        picture=picture,
    )


def _told(marks: Iterable[KeyMark]) -> list[KeyMark]:
    return [one for one in marks if one.words.isdigit()]


def marks_of(step: Step) -> list[KeyMark]:
    """The notes of a step on the keyboard: held ones by their number (one that is held each time only once), of
    anything else where its first attempt begins and ends, with the others dotted between."""
    if isinstance(step.target, Holds):
        held = [one.note for one in step.target.holds]
        told = held if len(set(held)) > 1 else held[:1]
        return [KeyMark(note, str(place)) for place, note in enumerate(told, 1)]
    legs = [leg for leg in step.target.legs(0) if leg.doing is Activity.VOICE and leg.start]
    notes = list(dict.fromkeys(note for leg in legs for note in (leg.start, leg.end) if note))
    if not notes:
        notes = list(dict.fromkeys(step.target.notes))[:1]
    if len(notes) <= 2:
        return [KeyMark(note, str(place + 1)) for place, note in enumerate(notes)]
    return [KeyMark(notes[0], "1"), *(KeyMark(note, "·") for note in notes[1:])]
