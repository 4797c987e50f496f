"""What is prescribed: program, steps, targets; exact to and from plain JSON data."""

from dataclasses import asdict, dataclass, replace
from typing import Any

from core.catalogue.tasks import TaskKind
from core.errors import PlanError
from core.notes.note import Note
from core.notes.range import ComfortableRange
from core.plans.rungs import checked_hold

FORMAT = 1


@dataclass(frozen=True, slots=True, kw_only=True)
class HoldTarget:
    """One note to hold for a number of seconds, and why, in words shown to the clinician."""

    note: Note
    seconds: float
    because: str

    def __post_init__(self) -> None:
        checked_hold(self.seconds)


@dataclass(frozen=True, slots=True, kw_only=True)
class GlidePath:
    """A slide from one note to another in a number of seconds."""

    start: Note
    end: Note
    seconds: float
    because: str

    def __post_init__(self) -> None:
        checked_hold(self.seconds)
        if self.start == self.end:
            raise PlanError("glide_without_span", note=self.start.name)


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """One task of a program. `step_id` (UUID text) lasts from version to version."""

    step_id: str
    task: str
    kind: TaskKind
    name: str
    sound: str
    instruction: str
    caution: str
    repetitions: int
    rest_s: float
    holds: tuple[HoldTarget, ...] = ()
    glide: GlidePath | None = None

    def __post_init__(self) -> None:
        if not 1 <= self.repetitions <= 10:
            raise PlanError("repetitions_out_of_limits", came=self.repetitions, low=1, high=10)
        if not 0 <= self.rest_s <= 300:
            raise PlanError("rest_out_of_limits", seconds=self.rest_s, low=0, high=300)
        if (self.kind is TaskKind.HOLD) != bool(self.holds) or (
            self.kind is TaskKind.GLIDE
        ) != bool(self.glide):
            raise PlanError("step_without_target", step=self.name)

    @property
    def attempts(self) -> int:
        """How many attempts one home session asks for."""
        return self.repetitions * (len(self.holds) or 1)

    @property
    def voiced_s(self) -> float:
        """Voiced seconds of one home session."""
        once = self.glide.seconds if self.glide else sum(hold.seconds for hold in self.holds)
        return once * self.repetitions


@dataclass(frozen=True, slots=True, kw_only=True)
class Dose:
    """How often: home sessions a day, days a week, weeks."""

    sessions_a_day: int = 2
    days_a_week: int = 7
    weeks: int = 6

    def __post_init__(self) -> None:
        for name, low, high in (
            ("sessions_a_day", 1, 6),
            ("days_a_week", 1, 7),
            ("weeks", 1, 26),
        ):
            if not low <= getattr(self, name) <= high:
                raise PlanError(
                    "dose_out_of_limits", which=name, came=getattr(self, name), low=low, high=high
                )


@dataclass(frozen=True, slots=True, kw_only=True)
class Program:
    """A sustained-note program: range and school it was fitted to, rungs, steps, dose."""

    school: str
    comfort: ComfortableRange
    a4_hz: float
    margin_semitones: int
    pitches_because: str
    goal_s: float
    goal_because: str
    rungs_s: tuple[float, ...]
    rung: int
    longest_shown_s: float
    steps: tuple[Step, ...]
    dose: Dose

    def __post_init__(self) -> None:
        if not self.steps:
            raise PlanError("program_empty")
        if not 0 <= self.rung < len(self.rungs_s):
            raise PlanError("rung_unknown", rung=self.rung, rungs=len(self.rungs_s))
        if not 415 <= self.a4_hz <= 466:
            raise PlanError("a4_out_of_limits", hz=self.a4_hz, low=415, high=466)

    def step(self, step_id: str) -> Step:
        """The step with that id; PlanError("step_unknown") otherwise."""
        for step in self.steps:
            if step.step_id == step_id:
                return step
        raise PlanError("step_unknown", step=step_id)

    def with_step(self, changed: Step) -> "Program":
        """The same program with one step replaced, found by its id."""
        self.step(changed.step_id)
        steps = tuple(changed if s.step_id == changed.step_id else s for s in self.steps)
        return replace(self, steps=steps)

    def problems(self) -> tuple[str, ...]:
        """Sentences that stand in the way of activation: notes outside the comfortable range."""
        return tuple(
            f"{step.name}: {why}"
            for step in self.steps
            for note in notes_of(step)
            if (why := self.comfort.why_outside(note))
        )

    def notices(self) -> tuple[str, ...]:
        """Sentences to think about that do not stand in the way."""
        return tuple(
            f"{step.name}: {hold.note} for {hold.seconds:g} s is longer than the longest soft hold "
            f"shown so far ({self.longest_shown_s:g} s)"
            for step in self.steps
            for hold in step.holds
            if hold.seconds > self.longest_shown_s
        )

    def as_data(self) -> dict[str, Any]:
        """Plain JSON data; notes as names. `from_data` gives the equal program back."""
        return {"format": FORMAT, **_plain(asdict(self))}

    @classmethod
    def from_data(cls, data: dict[str, Any]) -> "Program":
        """Read `as_data`; PlanError("format_unknown") or ("program_unreadable")."""
        if data.get("format") != FORMAT:
            raise PlanError("format_unknown", came=data.get("format"), expected=FORMAT)
        try:
            return cls(
                **{
                    **{key: value for key, value in data.items() if key != "format"},
                    "comfort": _comfort(data["comfort"]),
                    "rungs_s": tuple(data["rungs_s"]),
                    "steps": tuple(_step(step) for step in data["steps"]),
                    "dose": Dose(**data["dose"]),
                }
            )
        except (KeyError, TypeError, AttributeError) as error:
            raise PlanError("program_unreadable", reason=str(error)) from error


def notes_of(step: Step) -> tuple[Note, ...]:
    """Every note a step asks for."""
    held = tuple(hold.note for hold in step.holds)
    return (*held, step.glide.start, step.glide.end) if step.glide else held


def _plain(value: Any) -> Any:
    if isinstance(value, dict):
        if set(value) == {"number"}:
            return Note(value["number"]).name
        return {key: _plain(entry) for key, entry in value.items()}
    if isinstance(value, list | tuple):
        return [_plain(entry) for entry in value]
    return value


def _comfort(data: dict[str, Any]) -> ComfortableRange:
    transition, speaking = data["transition"], data["speaking"]
    return ComfortableRange(
        lowest=Note.named(data["lowest"]),
        highest=Note.named(data["highest"]),
        transition=Note.named(transition) if transition else None,
        speaking=Note.named(speaking) if speaking else None,
    )


def _step(data: dict[str, Any]) -> Step:
    holds = tuple(
        HoldTarget(**{**hold, "note": Note.named(hold["note"])}) for hold in data["holds"]
    )
    path = data["glide"]
    glide = path and GlidePath(
        **{**path, "start": Note.named(path["start"]), "end": Note.named(path["end"])}
    )
    return Step(**{**data, "kind": TaskKind(data["kind"]), "holds": holds, "glide": glide})
