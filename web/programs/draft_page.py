"""What the Bench shows of a draft, with one step of it in hand."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from typing import Any

from django.urls import reverse
from django.utils.functional import Promise
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from core.dose.clashes import clash_notices
from core.dose.load import Load, RoutineLoad, load_notices, load_of
from core.dose.minutes import minutes_by_step
from core.editing.edit_ladder import ladder_text, typed
from core.editing.edit_schedule import calendar_text
from core.editing.step_settings import StepSetting, settings_of
from core.fitting.known import Limits
from core.program.dosing import When
from core.program.program import Program
from core.program.routine import Routine
from core.program.routine_words import WHEN_WORDS, routine_name
from core.program.step import Step
from core.safety.gate import Gate
from web.clinic.records import Unreadable
from web.design.drawings.ribbon import session_ribbon
from web.design.drawings.schedule import days_ahead, schedule
from web.design.drawings.step.drawing import beside, drawing_of
from web.programs.client_file import ClientFile
from web.programs.hold_drawing import program_bed
from web.programs.models import Draft

_GROUPS: dict[str, Promise] = {
    "": gettext_lazy("What is done"),
    "times": gettext_lazy("How often in a session"),
    "level": gettext_lazy("How strong"),
    "tube": gettext_lazy("Tube"),
    "presented": gettext_lazy("At home"),
}
_TO_DEAL_WITH = (
    ("asked", gettext_lazy("To ask or measure")),
    ("assumed", gettext_lazy("Assumed")),
    ("left_out", gettext_lazy("Left out")),
)
"""What stays in view until it is dealt with."""
_TIMES = ("repetitions", "rest_s")


def draft_context(
    draft: Draft, file: ClientFile, *, chosen: str = "", gate: Gate | None = None
) -> dict[str, Any]:
    """Drawing, ribbon, steps, settings, calendar, dose, notices and gate of a draft, for the page and for each
    edit's answer. chosen: the step in hand, the main one where there is none of that id."""
    program, base = draft.program, began_as(draft)
    load = load_of(program)
    step = _in_hand(program, chosen)
    routine = program.routine_of(step.step_id)
    return {
        "draft": draft,
        "client": file.client,
        "program": program,
        "step": step,
        "drawing": _drawing(program, step),
        "bed": bool(step.holds),
        "beside": beside(step),
        "groups": _groups(step, base),
        "ladder": _ladder(step, base),
        "is_changed": _differs(step, base),
        "to_deal_with": [
            (part, words, getattr(program, part))
            for part, words in _TO_DEAL_WITH
            if getattr(program, part)
        ],
        "load": load,
        "problems": program.problems(),
        "notices": (
            *program.notices(),
            *clash_notices(program),
            *load_notices(load, Limits(minutes_a_week=file.client.clinic.week_minutes)),
        ),
        "routines": [_shown(one, load, base, draft, step) for one in program.routines],
        "routine": routine,
        "calendar": _calendar(routine, file.today),
        "whens": WHEN_WORDS.items(),
        "gate": gate or file.gate_of(program),
    }


def began_as(draft: Draft) -> Program | None:
    """What the draft began as; one that cannot be read any more is none."""
    try:
        return draft.began_as
    except Unreadable:
        return None


def _in_hand(program: Program, chosen: str) -> Step:
    own = next((one for one in program.steps if one.step_id == chosen), None)
    return own or program.main_step or program.steps[0]


def _drawing(program: Program, step: Step) -> SafeString | None:
    if step.holds:
        label = _("Prescribed holds over the comfortable range")
        return program_bed(program, label=label, editable=True)
    return drawing_of(program, step)


@dataclass(frozen=True)
class SettingShown:
    """A setting with whether it is other than what the draft began as, and what stood there."""

    setting: StepSetting
    changed: bool
    before: str

    @property
    def name(self) -> str:
        """Its key without the part it stands in, for the id of its field."""
        return self.setting.settable.key.replace(".", "-")


def _groups(step: Step, base: Program | None) -> list[tuple[Promise, list[SettingShown]]]:
    before = _step_of(base, step.step_id)
    was = {one.settable.key: one.text for one in settings_of(before)} if before else {}
    found: dict[str, list[SettingShown]] = {key: [] for key in _GROUPS}
    for one in settings_of(step):
        key = one.settable.key
        part = "times" if key in _TIMES else key.rpartition(".")[0]
        changed = key in was and was[key] != one.text
        found[part].append(SettingShown(one, changed, was.get(key, "")))
    return [(_GROUPS[part], own) for part, own in found.items() if own]


def _step_of(program: Program | None, step_id: str) -> Step | None:
    steps: Iterable[Step] = program.steps if program else ()
    return next((one for one in steps if one.step_id == step_id), None)


def _differs(step: Step, base: Program | None) -> bool:
    """Whether a step that was there from the beginning asks for something else now."""
    before = _step_of(base, step.step_id)
    return before is not None and before != step


@dataclass(frozen=True)
class LadderShown:
    """The rungs of a step: their words, the present one, the text where they are typed, those that were taken out."""

    words: tuple[tuple[int, str], ...]
    rung: int
    text: str
    out: tuple[tuple[float, str], ...]


def _ladder(step: Step, base: Program | None) -> LadderShown | None:
    grade, before = step.grade, _step_of(base, step.step_id)
    if grade is None:
        return None
    whole = before.grade if before else None
    pairs = zip(whole.rungs, whole.words, strict=True) if whole else ()
    return LadderShown(
        words=tuple(enumerate(grade.words)),
        rung=grade.rung,
        text=ladder_text(grade) if typed(grade) else "",
        out=() if typed(grade) else tuple(one for one in pairs if one[0] not in grade.rungs),
    )


@dataclass(frozen=True)
class RowShown:
    """A step in the list of its routine. new: it was not there when the draft began."""

    step: Step
    minutes: float
    chosen: bool
    changed: bool
    new: bool


@dataclass(frozen=True)
class RoutineShown:
    """A routine of a draft with its load, its ribbon and its steps."""

    routine: Routine
    name: str
    when: str
    load: RoutineLoad
    ribbon: SafeString
    rows: list[RowShown]


def _shown(
    routine: Routine, load: Load, base: Program | None, draft: Draft, chosen: Step
) -> RoutineShown:
    when, name = routine.dose.when, routine_name(routine)
    bench = reverse("programs:bench", args=[draft.client_id])
    minutes = minutes_by_step(routine.steps)
    return RoutineShown(
        routine=routine,
        name=name,
        when="" if when is When.ANY else str(WHEN_WORDS[when]),
        load=load.of(routine.key),
        ribbon=session_ribbon(
            routine,
            label=_("%(name)s: where the minutes go") % {"name": name},
            chosen=chosen.step_id,
            link=lambda step_id: f"{bench}?step={step_id}",
        ),
        rows=[
            RowShown(
                step=step,
                minutes=own,
                chosen=step is chosen,
                changed=_differs(step, base),
                new=base is not None and _step_of(base, step.step_id) is None,
            )
            for step, own in zip(routine.steps, minutes, strict=True)
        ],
    )


def _calendar(routine: Routine, today: date) -> dict[str, Any]:
    dose = routine.dose
    start = dose.starts_on or today
    return {
        "drawing": schedule(
            days_ahead(dose, start),
            routine=routine.key,
            weekdays=dose.weekdays,
            today=today,
            label=_("Home sessions by day, as prescribed"),
        ),
        "text": calendar_text(dose),
        "visits": [
            (day, name, day in dose.visit_weekdays) for day, name in enumerate(_DAYS, start=1)
        ],
        "more_weeks": dose.weeks + sum(stage.weeks for stage in dose.taper) > 11,
    }


_DAYS = (
    gettext_lazy("Mon"),
    gettext_lazy("Tue"),
    gettext_lazy("Wed"),
    gettext_lazy("Thu"),
    gettext_lazy("Fri"),
    gettext_lazy("Sat"),
    gettext_lazy("Sun"),
)
