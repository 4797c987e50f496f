"""What of a home session is done in the course of the day, and ticked off when it is done."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date

from core.catalogue.tasks import Task, in_the_day
from core.dose.taper import on_day
from core.program.asked import asked_of
from core.program.program import Program
from core.program.step import Step
from core.program.targets import Asked
from web.design.speaking import in_their_words
from web.practice.models import Attempt, HomeSession, Outcome
from web.practice.player.spoken_lines import places_of
from web.practice.player.step_words import cue_words
from web.practice.today.practicable import practicable
from web.programs.client_file import ClientFile


@dataclass(frozen=True)
class Assignment:
    """One thing still open today: of which home session and step, its words; counts: what may be ticked,
    () = simply done."""

    session: HomeSession
    step: Step
    name: str
    words: str
    counts: tuple[int, ...]

    @property
    def asked(self) -> Asked:
        return asked_of(self.step, 0)


def open_assignments(
    file: ClientFile, day: date, *, program: Program | None = None
) -> list[Assignment]:
    """What the ended home sessions of that day left open, oldest first; nothing of what rests meanwhile.
    program: the one in force, if only its days are wanted."""
    if program is not None and not _for_the_day(program.all_steps, file.tasks):
        return []
    ended = HomeSession.objects.filter(client=file.client, practice_day=day, outcome=Outcome.KEPT)
    rows = ended.select_related("version").order_by("started_at", "pk")
    return [
        _assignment(session, step) for session in rows for step in _left_for_the_day(session, file)
    ]


def _for_the_day(steps: Iterable[Step], tasks: Mapping[str, Task]) -> list[Step]:
    return [step for step in steps if in_the_day(step.task, tasks)]


def _left_for_the_day(session: HomeSession, file: ClientFile) -> list[Step]:
    program = on_day(session.version.program, session.practice_day)
    if not _for_the_day(program.routine(session.routine).steps, file.tasks):
        return []
    own = _for_the_day(practicable(file, program).of(session.routine).steps, file.tasks)
    tried = Attempt.objects.filter(home_session=session).values_list("step_id", flat=True)
    done = {str(step_id) for step_id in tried}
    return [step for step in own if step.step_id not in done]


def _assignment(session: HomeSession, step: Step) -> Assignment:
    count, places = asked_of(step, 0).count, places_of(session.client_id, [step])
    return Assignment(
        session=session,
        step=step,
        name=in_their_words(step.name),
        words=" ".join(filter(None, (in_their_words(step.instruction), cue_words(step, places)))),
        counts=tuple(range(count + 1)) if count else (),
    )
