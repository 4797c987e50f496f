"""What is read, said or answered in a step: the shipped material, the clinic's own, the client's own phrases."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Any

from django.utils.translation import gettext as _

from core.catalogue.materials import MaterialType, Turn, sort_named, turn_of
from core.catalogue.rungs import SemiOccludedForm
from core.catalogue.tasks import shipped_tasks
from core.catalogue.words import Growth
from core.program.asked import asked_of
from core.program.presentation import Stress
from core.program.step import Phase, Step
from web.clients.home.phrases import own_phrases, own_places
from web.design.drawings.town_map import town_map
from web.design.speaking import in_their_words
from web.library.materials import OwnTurns, own_turns


@dataclass(frozen=True, slots=True)
class OwnLines:
    """What may be said besides what is shipped: the client's own phrases, the clinic's own material; and where: the
    client's own places."""

    phrases: Sequence[str] = ()
    places: Sequence[str] = ()
    turns: OwnTurns = field(default_factory=dict)


NOTHING_OWN = OwnLines()


def own_lines_of(client_id, clinic_id) -> OwnLines:
    return OwnLines(phrases=own_phrases(client_id), turns=own_turns(clinic_id))


def places_of(client_id, steps: Iterable[Step]) -> list[str]:
    """The client's own places, where one of the steps goes out into them."""
    return own_places(client_id) if any(map(goes_out, steps)) else []


def goes_out(step: Step) -> bool:
    """Whether it is carried over into real places; how to lie or sit for a breath is told as places too."""
    places = step.grade is not None and step.grade.growth is Growth.PLACE
    return places and step.phase is Phase.CARRY_OVER


def said_lines(step: Step, day: date, own: OwnLines = NOTHING_OWN) -> list[dict[str, Any]]:
    """A turn for each attempt, other ones every day, as plain data; none where the task has no words."""
    return [
        {
            "round": not sort.once,
            "lines": [_line(line, step) for line in turn.lines],
            "map": _map_of(turn),
        }
        for sort, turn in _turns(step, day, own)
    ]


def has_words(step: Step) -> bool:
    """Whether something is read, said or answered in it."""
    return sort_named(step.task, _material(step))[1] is not None


def words_read(step: Step, day: date, repetition: int, own: OwnLines) -> int | None:
    """How many words a text has that is read once in one piece; None for anything else."""
    if step.target.attempts > 1:
        return None
    turns = [turn for sort, turn in _turns(step, day, own) if sort.once]
    return turns[(repetition - 1) % len(turns)].words if turns else None


def _turns(step: Step, day: date, own: OwnLines) -> Iterator[tuple[MaterialType, Turn]]:
    """The sort and the turn of each attempt of a step on a day."""
    key, sort = sort_named(step.task, _material(step))
    if sort is None:
        return
    whole = sort.model_copy(update={"turns": (*own.turns.get(key, ()), *sort.turns)})
    grade = step.grade
    share = grade.rung / max(len(grade.rungs) - 1, 1) if grade else 0.0
    seconds = asked_of(step, 0).seconds
    count = step.repetitions * step.target.attempts
    for number in range(day.toordinal(), day.toordinal() + count):
        turn = turn_of(whole, number=number, rung=share, seconds=seconds, own=own.phrases)
        yield sort, turn


def _material(step: Step) -> str:
    """The sort of material a step names; the form of a phrase takes phrases, whatever the task."""
    grade = step.grade
    if grade is not None and grade.growth is Growth.FORM and grade.code == SemiOccludedForm.PHRASE:
        return step.presented.material or "phrases"
    return step.presented.material


def _map_of(turn: Turn) -> str:
    """The map that belongs to what is said; "" where none does."""
    if turn.way is None:
        return ""
    return str(town_map(turn.way, label=_("Map of the town"), spoken=in_their_words))


def _line(line: str, step: Step) -> dict[str, Any]:
    words = in_their_words(line)
    last = len(words.split()) - 1
    leant_on = {Stress.NONE: None, Stress.FIRST: 0, Stress.LAST: last}[_leant_on(step)]
    return {"words": words, "stress": leant_on}


def _leant_on(step: Step) -> Stress:
    """The word the program names, else the one the task does."""
    task = shipped_tasks().get(step.task)
    return step.presented.stress or Stress(task.leans_on if task else "")
