"""The proposals of the rules as the Client page shows them, and what was decided."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from django.utils.functional import Promise
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from core.errors import PlanError
from core.grading.act import Act, Dimension, Proposal
from core.grading.apply_proposal import changes
from core.program.program import Program
from core.program.step import Grade
from web.design.dates import month_day
from web.design.numbers import number_text
from web.design.speaking import in_their_words
from web.review.models import Decision

TITLES: Mapping[Act, Promise] = {
    Act.EMERGENCY: gettext_lazy("Emergency sign: call now"),
    Act.CONTACT: gettext_lazy("Call the client"),
    Act.EXAMINE: gettext_lazy("Examine again"),
    Act.PROBE: gettext_lazy("Probe again, first rung until then"),
    Act.RUNG_DOWN: gettext_lazy("Begin again one rung lower"),
    Act.EASE: gettext_lazy("Ease one rung"),
    Act.STAGE_BACK: gettext_lazy("Back one stage of the taper"),
    Act.REVIEW: gettext_lazy("Review the program"),
    Act.REMEASURE: gettext_lazy("Measure again"),
    Act.SWAP: gettext_lazy("Swap the task"),
    Act.TEACH: gettext_lazy("Teach it again"),
    Act.TAPER: gettext_lazy("Begin the taper"),
    Act.DISCHARGE: gettext_lazy("Discharge"),
    Act.CLIMB: gettext_lazy("Climb one rung"),
    Act.STAY: gettext_lazy("Stay"),
}
DUE_DAYS: Mapping[Act, int] = {
    Act.EMERGENCY: 0,
    Act.CONTACT: 1,
    Act.EXAMINE: 14,
    Act.PROBE: 7,
    Act.REVIEW: 14,
    Act.REMEASURE: 14,
    Act.SWAP: 14,
    Act.TEACH: 14,
    Act.DISCHARGE: 90,
}
"""Acts that become a task, and in how many days it is due unless the clinician says otherwise
(clinical default; after a discharge a look at three months)."""


@dataclass(frozen=True)
class ProposalShown:
    """One proposal on the page. key tells it in the form; rungs: place and words of every rung it
    could be changed to, () where it is about none."""

    key: str
    act: str
    title: str
    about: str
    to: str
    reasons: list[str]
    against: list[str]
    rung: int | None
    rungs: list[tuple[int, str]]
    changes: bool
    due_on: date | None


@dataclass(frozen=True)
class ToDo:
    """A decided task that is not done yet."""

    pk: object
    title: str
    about: str
    due_on: date
    late: bool
    contact: bool


def _other_dimension(one: Proposal) -> str:
    """What is eased where it is not the target: level, depth or width; "" for none."""
    if one.to is None:
        return ""
    words = {
        Dimension.LEVEL: _("level: %(to)s dB over conversation"),
        Dimension.DEPTH: _("depth: %(to)s cm"),
        Dimension.BORE: _("a wider tube: %(to)s mm"),
    }
    return words[one.dimension] % {"to": number_text(one.to)}


def key_of(proposal: Proposal) -> str:
    """Act and steps: the same proposal tomorrow has the same key."""
    return "|".join((proposal.act.value, *proposal.steps))


def shown(proposals: Sequence[Proposal], program: Program, today: date) -> list[ProposalShown]:
    """The proposals to decide, first that acts first; what stays is told beside."""
    return [_shown(one, program, today) for one in proposals if one.act is not Act.STAY]


def still_to_decide(
    proposals: Iterable[Proposal], decided: Iterable[Decision], last_session: date | None
) -> list[Proposal]:
    """The proposals less those that were decided since the last home session, or whose task is not
    done yet: nobody is asked the same twice without anything new."""
    answered = {
        "|".join((row.act, *row.steps))
        for row in decided
        if row.to_do or last_session is None or row.day >= last_session
    }
    return [one for one in proposals if key_of(one) not in answered]


def staying(proposals: Sequence[Proposal], program: Program) -> list[tuple[str, list[str]]]:
    """Ladders that stay where they are, each with what is missing."""
    return [
        (_names(one, program), [str(why) for why in (*one.reasons, *one.against)])
        for one in proposals
        if one.act is Act.STAY
    ]


def _shown(one: Proposal, program: Program, today: date) -> ProposalShown:
    grade = _grade(one, program)
    days = DUE_DAYS.get(one.act)
    about_rungs = one.rung is not None and grade is not None
    return ProposalShown(
        key=key_of(one),
        act=one.act.value,
        title=str(TITLES[one.act]),
        about=_names(one, program),
        to=grade.words[one.rung]
        if about_rungs and grade and one.rung is not None
        else _other_dimension(one),
        reasons=[str(why) for why in one.reasons],
        against=[str(why) for why in one.against],
        rung=one.rung,
        rungs=list(enumerate(grade.words)) if about_rungs and grade else [],
        changes=changes(one),
        due_on=None if days is None else today + timedelta(days=days),
    )


def _grade(one: Proposal, program: Program) -> Grade | None:
    try:
        return program.step(one.steps[0]).grade if one.steps else None
    except PlanError:
        return None


def _names(one: Proposal, program: Program) -> str:
    return ", ".join(map(in_their_words, step_names(one, program)))


def step_names(one: Proposal, program: Program) -> list[str]:
    """The names of the steps it is about, each once, as the program holds them."""
    names = {step.step_id: step.name for step in program.all_steps}
    return list(dict.fromkeys(names[step] for step in one.steps if step in names))


def to_do(decided: Iterable[Decision], today: date) -> list[ToDo]:
    """What was decided and is to be done, the earliest first."""
    found = [
        ToDo(
            pk=row.pk,
            title=str(TITLES[Act(row.act)]),
            about=row.evidence.get("about", ""),
            due_on=row.due_on,
            late=row.due_on < today,
            contact=row.act == Act.CONTACT,
        )
        for row in decided
        if row.to_do and row.due_on is not None
    ]
    return sorted(found, key=lambda task: task.due_on)


def decision_message(decision: Decision) -> str:
    """What happened, for the message after deciding."""
    if decision.verdict == "refused":
        return _("Refused and kept with your reason. The program stays as it is.")
    if decision.version is not None:
        return _(
            "Version %(number)s is active and will be practiced from the next home session."
        ) % {"number": decision.version.number}
    if decision.due_on is not None:
        return _("Kept as a task, due %(day)s.") % {"day": month_day(decision.due_on)}
    return _("Kept.")
