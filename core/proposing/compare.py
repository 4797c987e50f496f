"""Schools side by side: what each alone would prescribe this client."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

from core.catalogue.tasks import Task
from core.errors import PlanError
from core.fitting.schools import school_of
from core.fitting.why_words import why_of
from core.program.program import Chosen
from core.proposing.propose import ProposedProgram, propose
from core.proposing.request import PlanRequest
from core.reason import Reason

MOST_COMPARED = 5


@dataclass(frozen=True, slots=True)
class Alone:
    """A school, or one option of it, by itself: what it gives, or why it gives nothing."""

    chosen: Chosen
    name: str
    proposal: ProposedProgram | None
    against: Reason | None

    @property
    def option(self) -> str:
        """The words of the one option it is proposed with; "" without."""
        choices = {one.key: one.options for one in school_of(self.chosen.school).choices}
        return "".join(choices[key].get(value, value) for key, value in self.chosen.options.items())


def compared(
    request: PlanRequest,
    chosen: Sequence[Chosen],
    *,
    new_step_id: Callable[[], str],
    tasks: Mapping[str, Task] | None = None,
) -> tuple[Alone, ...]:
    """Each of them proposed alone; at most five. PlanError("school_unknown")."""
    found = []
    for one in chosen[:MOST_COMPARED]:
        name, own = school_of(one.school).name, replace(request, schools=(one,), wants=())
        try:
            proposal = propose(own, new_step_id=new_step_id, tasks=tasks)
        except PlanError as error:
            found.append(Alone(one, name, None, why_of(error)))
        else:
            found.append(Alone(one, name, proposal, None))
    return tuple(found)


def each_option(school: str, choice: str) -> tuple[Chosen, ...]:
    """A school once for every option of one of its choices; none of a choice it does not have."""
    own = {one.key: one for one in school_of(school).choices}
    if choice not in own:
        return ()
    return tuple(Chosen(school=school, options={choice: option}) for option in own[choice].options)
