"""The methods on the Program page: which are ticked, and what each option gives this client."""

from collections.abc import Mapping
from dataclasses import dataclass

from core.errors import PlanError
from core.fitting.hold_goals import HoldGoal, hold_goal
from core.fitting.known import Fitting, KnownBaseline
from core.fitting.pitches import PitchSchool, fit_pitches
from core.fitting.schools import Choice, School, schools
from core.program.program import Chosen, Program
from core.program.step import Phase
from core.proposing.aims import Want
from core.proposing.request import PitchDirection
from web.clients.baseline.view import BaselineView
from web.clinic.words import core_words
from web.design.numbers import number_text
from web.programs.plan_request import known_baseline

_FREE_TEXT = {"sustained.goal_s", "gender_affirming.target", "warm_up.minutes"}


def read_wants(posted: Mapping) -> tuple[Want, ...]:
    """The client's wants, if schools are chosen by wants. Unknown values are ignored."""
    if not posted.get("by_wants"):
        return ()
    return tuple(want for want in Want if want in posted.getlist("want"))  # type: ignore[attr-defined]


def read_direction(posted: Mapping) -> PitchDirection | None:
    """The direction for the speaking pitch; None if it was not asked or is unknown."""
    return next((one for one in PitchDirection if posted.get("direction") == one.value), None)


def read_chosen(posted: Mapping) -> tuple[Chosen, ...]:
    """The ticked schools with their options ("sustained.goal" = "own_s"); none if schools are chosen by wants."""
    if posted.get("by_wants"):
        if not read_wants(posted):
            raise PlanError("no_want")
        return ()
    ticked = [key for key in schools() if key in posted.getlist("school")]  # type: ignore[attr-defined]
    if not ticked:
        raise PlanError("no_school")
    return tuple(Chosen(school=key, options=_options(schools()[key], posted)) for key in ticked)


def read_minutes(posted: Mapping) -> float | None:
    """Maximum minutes of a home session as typed; None if left empty."""
    text = posted.get("minutes", "").strip().replace(",", ".")
    try:
        return float(text) if text else None
    except ValueError as error:
        raise PlanError("minutes_unreadable", came=text[:20]) from error


def _options(school: School, posted: Mapping) -> dict[str, str]:
    names = [f"{school.key}.{choice.key}" for choice in school.choices]
    names += [name for name in sorted(_FREE_TEXT) if name.startswith(f"{school.key}.")]
    return {
        name.split(".", 1)[1]: posted[name].strip()[:40]
        for name in names
        if posted.get(name, "").strip()
    }


@dataclass(frozen=True)
class Option:
    """One option of a choice with its result for this client. fits: False if it cannot be fitted."""

    key: str
    words: str
    hint: str
    fits: bool
    selected: bool


@dataclass(frozen=True)
class MethodOffer:
    """A school on the Program page, with its choices."""

    school: School
    ticked: bool
    choices: tuple[tuple[Choice, tuple[Option, ...]], ...]


def offers(
    view: BaselineView, program: Program | None
) -> tuple[tuple[str, tuple[MethodOffer, ...]], ...]:
    """Every school by phase, ticked if it is in the draft. Without a draft, sustained notes are ticked."""
    before = {one.school: one.options for one in program.schools} if program else {"sustained": {}}
    known = known_baseline(view)
    found = []
    for phase in Phase:
        own = tuple(
            _offer(school, before.get(school.key), known)
            for school in schools().values()
            if school.phase is phase
        )
        if own:
            found.append((phase.value, own))
    return tuple(found)


def _offer(school: School, before: Mapping[str, str] | None, known: KnownBaseline) -> MethodOffer:
    choices = []
    for choice in school.choices:
        selected = (before or {}).get(choice.key, choice.default)
        options = tuple(
            Option(key, words, *_hint(school, choice, key, known), key == selected)
            for key, words in choice.options.items()
        )
        choices.append((choice, options))
    return MethodOffer(school, before is not None, tuple(choices))


def _hint(school: School, choice: Choice, key: str, known: KnownBaseline) -> tuple[str, bool]:
    """The result of an option (notes, seconds), or why it cannot be chosen."""
    if school.key != "sustained" or known.comfort is None:
        return "", True
    try:
        if choice.key == "pitches":
            notes = fit_pitches(known.comfort, known.voice_group, PitchSchool(key)).notes
            return " ".join(note.name for note in notes), True
        if choice.key == "goal" and key not in (HoldGoal.TYPED, HoldGoal.STEADY):
            goal = hold_goal(Fitting(baseline=known, options={"goal": key}))
            return f"{number_text(goal.seconds, '.1f')} s" if goal.seconds else "", True
    except PlanError as error:
        return core_words(error), False
    return "", True
