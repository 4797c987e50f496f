"""The catalogue as a clinic sees it."""

import logging
from collections.abc import Iterable
from dataclasses import dataclass, replace

from core.catalogue.tasks import Task, shipped_tasks
from core.catalogue.words import AIM_WORDS, EQUIPMENT_WORDS, FAMILY_WORDS, Aim, Equipment
from core.fitting.schools import School, schools
from core.proposing.add_task import OnShelf
from core.safety.condition import in_plain_words
from core.safety.conditions import Effect, Rule, rules
from web.clinic.records import Unreadable
from web.library.models import ClinicTask, HiddenTask

log = logging.getLogger(__name__)


def catalogue_of(clinic) -> dict[str, Task]:
    """Shipped tasks and the clinic's own, by key; hidden ones among them. One that cannot be read is left out: a
    program that has it does without, as where it is hidden."""
    own = {}
    for row in ClinicTask.objects.for_clinic(clinic).order_by("key"):
        try:
            own[row.key] = row.task
        except Unreadable as bad:
            log.warning("%s", bad)
    return {**shipped_tasks(), **own}


def unreadable_tasks(clinic) -> list[str]:
    """What is said of each task of the clinic that cannot be read."""
    found = []
    for row in ClinicTask.objects.for_clinic(clinic).order_by("key"):
        try:
            row.task  # noqa: B018  (whether it can be read)
        except Unreadable as bad:
            found.append(f"{row.key}: {bad.words}")
    return found


def proposed_from(clinic) -> dict[str, Task]:
    """The catalogue for proposals: where the clinic has adapted a shipped task, its own comes first
    among the substitutes, so that hiding the shipped one puts the adapted one in its place."""
    tasks = catalogue_of(clinic)
    for row in ClinicTask.objects.for_clinic(clinic).exclude(adapted_from="").order_by("-key"):
        shipped = tasks.get(row.adapted_from)
        if shipped is not None:
            others = tuple(key for key in shipped.substitutes if key != row.key)
            tasks[row.adapted_from] = replace(shipped, substitutes=(row.key, *others))
    return tasks


def by_family(shelf: Iterable[OnShelf]) -> list[tuple[str, list[OnShelf]]]:
    """Tasks for the shelf, those that can be added first in each family, named by its words."""
    found: dict[str, list[OnShelf]] = {}
    for one in sorted(
        shelf, key=lambda one: (one.task.family, one.against is not None, one.task.name)
    ):
        found.setdefault(f"{one.task.family} {FAMILY_WORDS[one.task.family]}", []).append(one)
    return list(found.items())


def hidden_keys(clinic) -> frozenset[str]:
    rows = HiddenTask.objects.for_clinic(clinic).filter(hidden=True)
    return frozenset(rows.values_list("key", flat=True))


@dataclass(frozen=True)
class Filters:
    """What is searched for: words, family letter, aim, equipment ("none" = needs nothing), and
    whether hidden tasks are listed."""

    find: str = ""
    family: str = ""
    aim: str = ""
    equipment: str = ""
    hidden: bool = False

    @classmethod
    def of(cls, asked) -> "Filters":
        """From a query; unknown values count as not asked for."""
        family, aim, things = (asked.get(name, "") for name in ("family", "aim", "equipment"))
        return cls(
            find=asked.get("find", "").strip()[:80],
            family=family if family in FAMILY_WORDS else "",
            aim=aim if aim in tuple(Aim) else "",
            equipment=things if things in (*Equipment, "none") else "",
            hidden=asked.get("hidden") == "on",
        )

    def match(self, task: Task) -> bool:
        words = f"{task.name} {task.purpose} {task.suits} {task.sound} {task.clinician_note}"
        return (
            all(word in words.lower() for word in self.find.lower().split())
            and self.family in ("", task.family)
            and (not self.aim or Aim(self.aim) in task.aims)
            and self._fits(task)
        )

    def _fits(self, task: Task) -> bool:
        if self.equipment == "none":
            return not task.equipment
        return not self.equipment or Equipment(self.equipment) in task.equipment


@dataclass(frozen=True)
class LibraryLine:
    """One task of the list."""

    task: Task
    own: bool
    hidden: bool

    @property
    def aims(self) -> str:
        return ", ".join(str(AIM_WORDS[aim]) for aim in self.task.aims)

    @property
    def equipment(self) -> str:
        return ", ".join(str(EQUIPMENT_WORDS[one]) for one in sorted(self.task.equipment))


@dataclass(frozen=True)
class Family:
    """A family with the tasks that match."""

    letter: str
    name: str
    lines: tuple[LibraryLine, ...]


def listed(clinic, filters: Filters) -> tuple[Family, ...]:
    """The matching tasks by family; hidden ones only when asked for."""
    hidden = hidden_keys(clinic)
    shipped = shipped_tasks()
    lines = [
        LibraryLine(task, own=key not in shipped, hidden=key in hidden)
        for key, task in catalogue_of(clinic).items()
        if filters.match(task) and (filters.hidden or key not in hidden)
    ]
    families = []
    for letter, name in FAMILY_WORDS.items():
        own = tuple(line for line in lines if line.task.family == letter)
        if own:
            families.append(Family(letter, str(name), own))
    return tuple(families)


@dataclass(frozen=True)
class Cautioned:
    """What a condition does to a task, in words."""

    blocks: bool
    conditions: str
    reason: str
    source: str


def cautions_of(task: Task) -> tuple[Cautioned, ...]:
    """Contraindications first, then precautions and limits, from the one table."""
    return tuple(
        Cautioned(
            blocks=rule.effect is Effect.BLOCK,
            conditions=_names(rule),
            reason=str(rule.why),
            source=rule.source,
        )
        for rule in sorted(rules(), key=lambda rule: rule.effect)
        if rule.touches & task.touches
    )


def _names(rule: Rule) -> str:
    return ", ".join(str(in_plain_words(one)) for one in sorted(rule.conditions))


def schools_with(key: str) -> tuple[School, ...]:
    """The schools in which a task stands."""
    return tuple(
        school for school in schools().values() if any(spec.task == key for spec in school.steps)
    )
