"""Which schools come by themselves: what the client wants, what the baseline shows, what was tried."""

from dataclasses import dataclass

from core.catalogue.tasks import Task, shipped_tasks
from core.catalogue.touches import Touch
from core.fitting.fitted import StepSpec
from core.fitting.known import TrialOutcome
from core.fitting.schools import RIVALRY_WORDS, School, schools
from core.program.program import Chosen
from core.program.routine import RoutineKind
from core.proposing.aims import shown_by, spoken_for
from core.proposing.choose import LeftOut
from core.proposing.request import PitchDirection, PlanRequest
from core.reason import Reason, says
from core.safety.condition import Condition
from core.safety.conditions import Effect, touching

_BETTER_TRIED = says("better_when_tried", "{task} was better when tried")
_ASKS_A_REASON = says(
    "asks_a_written_reason", "it asks for a written reason here, so it does not come by itself"
)
_STRONG_BY_CHOICE = says(
    "strong_not_by_itself",
    "strong voice is proposed without being asked for only with slowed movement (Parkinsonism)",
)
_NO_LARYNX = says(
    "no_larynx_by_choice",
    "no larynx: nothing is proposed; the clinician chooses articulation and carry-over",
)
_RIVAL = says("rival_chosen", "“{other}” is chosen, and both cannot be: {rival}")
_OTHERS = says("others_lead_there", "{others} others lead there more directly")

MOST_BY_THEMSELVES = 3
_BETTER = 2


@dataclass(frozen=True, slots=True)
class Speaks:
    """A school with its points, whether a want leads there first of all, and what speaks for it."""

    school: School
    points: int
    first: bool
    because: tuple[Reason, ...]


def chosen_for(
    request: PlanRequest, conditions: frozenset[Condition]
) -> tuple[tuple[Speaks, ...], list[LeftOut]]:
    """At most three schools, those with most points first (of as many the one a want leads to first of
    all), and the others that something speaks for
    with the reason why they are left out.

    Points: those of the client's wants and the baseline (`aims`), one for each purpose in common,
    two for each of its tasks that made the voice better. Rivals never come together; a school that
    asks for a written reason with these conditions does not come by itself.
    """
    best: list[Speaks] = []
    left_out: list[LeftOut] = []
    for one in sorted(_all(request, conditions), key=lambda one: (-one.points, not one.first)):
        if (why := _against(one.school, best, conditions)) is not None:
            left_out.append(LeftOut(one.school.key, one.school.name, why, False))
        else:
            best.append(one)
    return tuple(best), left_out


def as_chosen(found: tuple[Speaks, ...], direction: PitchDirection | None) -> tuple[Chosen, ...]:
    """The schools as they are chosen, those of a speaking pitch in the direction that was asked for."""
    return tuple(
        Chosen(school=one.school.key, options=_direction(one.school, direction)) for one in found
    )


def _direction(school: School, direction: PitchDirection | None) -> dict[str, str]:
    offered = next((one.options for one in school.choices if one.key == "direction"), {})
    return {"direction": direction.value} if direction and direction in offered else {}


def _all(request: PlanRequest, conditions: frozenset[Condition]) -> list[Speaks]:
    shown = shown_by(request.baseline, request.limits, conditions)
    spoken = spoken_for(request.wants, shown, conditions)
    found = []
    for school in schools().values():
        own = spoken.get(school.key)
        because = list(own.because) if own else []
        common = [aim for aim in school.aims if aim in request.aims]
        better = [s.task for s in school.steps if request.tried.get(s.task) is TrialOutcome.BETTER]
        tasks = shipped_tasks()
        because += [_BETTER_TRIED(task=tasks[key].name) for key in better if key in tasks]
        points = (own.points if own else 0) + len(common) + _BETTER * len(better)
        if points:
            first = own is not None and own.first
            found.append(Speaks(school, points, first, tuple(because)))
    return found


def _against(school: School, best: list[Speaks], conditions: frozenset[Condition]) -> Reason | None:
    if Condition.NO_LARYNX in conditions:
        return _NO_LARYNX()
    if _asks_a_reason(school, conditions):
        return _ASKS_A_REASON()
    strong = school.routine is RoutineKind.LOUDNESS
    if strong and Condition.SLOWED_MOVEMENT not in conditions:
        return _STRONG_BY_CHOICE()
    if school.rival is not None:
        for other in best:
            if other.school.rival is school.rival:
                return _RIVAL(other=other.school.name, rival=RIVALRY_WORDS[school.rival])
    if len(best) == MOST_BY_THEMSELVES:
        return _OTHERS(others=MOST_BY_THEMSELVES)
    return None


def _touches(task: Task, spec: StepSpec) -> frozenset[Touch]:
    """What a line of a school touches; a tube for insufficiency goes deep."""
    deep = spec.params.get("purpose") == "insufficiency"
    return task.touches | ({Touch.DEEP_WATER} if deep else frozenset())


def _asks_a_reason(school: School, conditions: frozenset[Condition]) -> bool:
    tasks = shipped_tasks()
    return any(
        touching(conditions, _touches(tasks[spec.task], spec), Effect.PRECAUTION)
        for spec in school.steps
        if spec.essential
    )
