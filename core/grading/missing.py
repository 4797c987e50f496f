"""What is missing until a step may climb, with the cause of what is unknown and the way out."""

from collections.abc import Iterator, Sequence

from core.figures.registry import FIGURES, PER_DEVICE
from core.grading.history import PastSession, StepDone
from core.grading.rule import RulePart
from core.grading.rule_match import Matched, Own, failing
from core.program.step import Step
from core.reason import Reason, says

_THIS_MICROPHONE = says("this_microphone", "this microphone")()
_FEW_SESSIONS = says("few_sessions", "{sessions} of {of} measurable home sessions at this rung")
_FEW_DAYS = says("few_days", "they lie on {days} of {needed} different days")
_STRAIN_UNANSWERED = says("strain_unanswered", "strain was not answered in {sessions} of them: ask")
_TOO_FEW = says(
    "too_few_met",
    "{met} of the last {sessions} home sessions meet the goal, {needed} are needed",
)
_HELD_BACK = says("held_back", "what holds it back: {figures:list}")
_NO_REFERENCE = says(
    "unknown_reference",
    "{sessions} home sessions could not be scored: no loudness reference for {device}; ask for ten seconds of "
    "usual talk",
)
_NOT_RATED = says(
    "unknown_rating", "{sessions} home sessions could not be scored: {what} was not rated; ask"
)
_NOT_MEASURED = says(
    "unknown_figure",
    "{sessions} home sessions could not be scored: {what} could not be measured; try the "
    "microphone in the visit",
)


def missing(
    step: Step, part: RulePart, found: Matched, sessions: Sequence[tuple[PastSession, StepDone]]
) -> list[Reason]:
    """Why the rule of a step does not say to climb; of too few home sessions only how many."""
    if found.looked < part.of:
        return [_FEW_SESSIONS(sessions=found.looked, of=part.of)]
    why = list[Reason]()
    if found.days < part.days:
        why.append(_FEW_DAYS(days=found.days, needed=part.days))
    if step.voiced:
        looked = sessions[-part.of :]
        unanswered = sum(done.of_session("strain") is None for _sitting, done in looked)
        if unanswered:
            why.append(_STRAIN_UNANSWERED(sessions=unanswered))
    if found.met < part.need:
        values = {"met": found.met, "sessions": found.looked, "needed": part.need}
        why.append(_TOO_FEW(**values))
        if found.unknown:
            why += _unknown_because(part, sessions)
    elif not found.holds and not why:
        why.append(_FEW_DAYS(days=found.days, needed=part.on_days))
    return why


def _unknown_because(
    part: RulePart, sessions: Sequence[tuple[PastSession, StepDone]]
) -> Iterator[Reason]:
    """Why home sessions could not be scored, and the way out; each cause once."""
    causes: dict[tuple[str, str], int] = {}
    for _sitting, done in sessions[-part.of :]:
        for cause in {cause for cause in _unknown_in(part, done) if cause}:
            causes[cause] = causes.get(cause, 0) + 1
    for (kind, what), count in causes.items():
        if kind == "reference":
            yield _NO_REFERENCE(sessions=count, device=what or _THIS_MICROPHONE)
        elif kind == "rating":
            yield _NOT_RATED(sessions=count, what=what)
        else:
            yield _NOT_MEASURED(sessions=count, what=what)


def _unknown_in(part: RulePart, done: StepDone) -> Iterator[tuple[str, str]]:
    for bound in part.besides:
        if not bound.only_where and done.of_session(bound.figure) is None:
            yield "rating", FIGURES[bound.figure].name
    for bound in part.when:
        if bound.only_where:
            continue
        looked = [trial.figures.get(bound.figure) for trial in done.trials]
        looked = looked if part.each != "session" else [done.of_session(bound.figure)]
        if None not in looked or not done.heard:
            continue
        if bound.figure in PER_DEVICE | {"over_target"}:
            yield "reference", done.device
        else:
            yield "figure", FIGURES[bound.figure].name


def held_back(
    part: RulePart, sessions: Sequence[tuple[PastSession, StepDone]], own: Own
) -> list[Reason]:
    """The figures that most often keep the last home sessions from meeting the goal."""
    often: dict[str, int] = {}
    for _sitting, done in sessions[-part.of :]:
        for figure in failing(part, done, own):
            often[figure] = often.get(figure, 0) + 1
    named = sorted(often, key=lambda figure: -often[figure])[:3]
    if not named:
        return []
    return [_HELD_BACK(figures=tuple(FIGURES[figure].name for figure in named))]
