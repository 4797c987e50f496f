"""Everything that can be set by hand in a step: what stands there, why, within which limits."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from core.catalogue.doing import can_take, done_as
from core.catalogue.materials import sort_named, sorts
from core.catalogue.words import Growth
from core.errors import PlanError
from core.fitting.back_pressure import back_pressure
from core.program import limits
from core.program.presentation import MOST_CUE, Feedback, Position, Stress
from core.program.rung_words import beats_words
from core.program.settable import Settable, SettingType, a_choice, a_count, a_number
from core.program.step import Grade, LevelAim, Step, Tube
from core.program.targets import Pace, StepTarget
from core.reason import Reason, says

BY_HAND = says("by_hand", "set by hand")()
_RESISTS = says("by_hand_resists", "set by hand; resists {cmh2o:.1f} cmH₂O at {flow_ml_s:.0f} mL/s")

_TIMES = (
    a_count("repetitions", "Repetitions", limits.REPETITIONS),
    a_number("rest_s", "Rest after each", limits.REST_S, 5),
)
_SOUND = Settable(key="sound", words="Sound", sort=SettingType.TEXT)
_OVER = a_number("level.over_db", "Over the own conversation", limits.LEVEL_OVER_DB, 0.5)
_EFFORT = (
    a_count("level.effort_low", "Effort from", limits.EFFORT),
    a_count("level.effort_high", "Effort to", limits.EFFORT),
)
_DEPTH = a_number("tube.depth_cm", "Depth in water", replace(limits.DEPTH_CM, low=0.5), 0.5)
_TUBE = (
    a_number("tube.bore_mm", "Inner width", limits.BORE_MM, 0.5),
    a_number("tube.length_cm", "Length", limits.TUBE_LENGTH_CM, 0.5),
)
_MATERIAL = a_choice(
    "presented.material",
    "Words",
    [("", "those of the task"), *((key, one.title) for key, one in sorts().items())],
)
_STRESS = a_choice(
    "presented.stress",
    "Lean on",
    [
        (Stress.NONE, "as the task says"),
        (Stress.FIRST, "the first word of a line"),
        (Stress.LAST, "the last word of a line"),
    ],
)
_FEEDBACK = a_choice(
    "presented.feedback",
    "Picture",
    [
        (Feedback.LIVE, "while it is done"),
        (Feedback.THIRD, "every third time"),
        (Feedback.AFTER, "afterwards only"),
        (Feedback.OFF, "never"),
    ],
)
_POSITION = a_choice(
    "presented.position",
    "Position",
    [
        (Position.AS_TOLD, "as the task says"),
        (Position.LYING, "lying down"),
        (Position.SITTING, "sitting"),
        (Position.STANDING, "standing"),
    ],
)
_CUE = Settable(key="presented.cue", words="Cue at home", sort=SettingType.TEXT, most=MOST_CUE)


@dataclass(frozen=True, slots=True)
class StepSetting:
    """One setting of a step as it stands: what it is, what is written there, why it is so."""

    settable: Settable
    value: Any
    because: Reason | None = None

    @property
    def text(self) -> str:
        return self.settable.written(self.value)


def settings_of(step: Step) -> tuple[StepSetting, ...]:
    """Every setting of a step, in the order in which they are thought of: what is done, how often, how strong,
    with which tube, how it is shown at home."""
    target, level, tube = step.target, step.level, step.tube
    found = [
        StepSetting(one, target.setting(one.key), target.reasons[0]) for one in _of_target(step)
    ]
    if step.sound:
        found.append(StepSetting(_SOUND, step.sound))
    found += [StepSetting(one, getattr(step, one.key)) for one in _TIMES]
    if level is not None:
        own = (*((_OVER,) if level.over_db is not None else ()), *_effort(level))
        found += [StepSetting(one, getattr(level, _field(one.key)), level.because) for one in own]
    if tube is not None:
        own = (*((_DEPTH,) if tube.deepest_cm else ()), *_TUBE)
        found += [StepSetting(one, getattr(tube, _field(one.key)), tube.because) for one in own]
    found += [StepSetting(one, getattr(step.presented, _field(one.key))) for one in _at_home(step)]
    return tuple(found)


def setting_of(step: Step, key: str) -> StepSetting:
    """One setting by its key; PlanError("setting_unknown")."""
    for one in settings_of(step):
        if one.settable.key == key:
            return one
    raise PlanError("setting_unknown", setting=key)


def with_setting(step: Step, key: str, text: str) -> Step:
    """The step with that setting as typed; errors as `Settable.read` and of what it stands in."""
    settable = setting_of(step, key).settable
    value = settable.read(text)
    part, _, name = key.rpartition(".")
    return _CHANGES[part](step, name, value)


def nudged(step: Step, key: str, by: int) -> Step:
    """The step with a number `by` grid places further, or a note, or all notes of a row, `by` semitones;
    no further than the limits of a number. PlanError("setting_unknown") for what is neither."""
    found = setting_of(step, key)
    own, value = found.settable, found.value
    if own.sort is SettingType.NUMBER and value is not None:
        text = own.written(min(max(value + by * own.grid, own.low), own.high))
    elif own.sort is SettingType.NOTE and value is not None:
        text = own.written(value.up(by))
    elif own.sort is SettingType.NOTES:
        text = own.written([note.up(by) for note in value])
    else:
        raise PlanError("setting_unknown", setting=key)
    return with_setting(step, key, text)


def _field(key: str) -> str:
    return key.rpartition(".")[2]


def _of_target(step: Step) -> list[Settable]:
    """Swelling is offered only where what is measured can swell."""
    return [
        one
        for one in step.target.settables
        if one.key != "swell" or can_take(step.kind, "swell") or step.target.swells
    ]


def _effort(level: LevelAim) -> tuple[Settable, ...]:
    return _EFFORT if level.effort_low is not None else ()


def _at_home(step: Step) -> tuple[Settable, ...]:
    _key, sort = sort_named(step.task, step.presented.material)
    words = (_MATERIAL, _STRESS) if sort else ()
    return (*words, *((_FEEDBACK,) if step.measured else ()), _POSITION, _CUE)


def _target(step: Step, name: str, value: Any) -> Step:
    if name == "sound" and not value:
        raise PlanError("setting_unreadable", which=_SOUND.words, came="")
    if name in ("repetitions", "rest_s", "sound"):
        return replace(step, **{name: value})
    target = step.target.with_setting(name, value, BY_HAND)
    return _aiming_at(step, target)


def _aiming_at(step: Step, target: StepTarget) -> Step:
    """With another target: its present rung asks for the same, where a rung is a whole target."""
    grade = step.grade
    if grade is not None and grade.targets:
        targets = list(grade.targets)
        targets[grade.rung] = target
        grade = replace(grade, targets=tuple(targets))
    elif grade is not None and isinstance(target, Pace) and isinstance(step.target, Pace):
        grade = _at_tempo(grade, step.target.tempo_bpm, target.tempo_bpm)
    kind = done_as(step.kind, target.form)
    return replace(step, target=target, grade=grade, kind=kind)


def _at_tempo(grade: Grade, before_bpm: float, now_bpm: float) -> Grade:
    """The beats of a ladder at another tempo: other seconds, and as many of them shown."""
    if grade.growth is not Growth.BEATS_OUT or before_bpm == now_bpm:
        return grade
    shown = None if grade.shown is None else min(grade.shown * now_bpm / before_bpm, 480.0)
    words = tuple(beats_words(beats, now_bpm) for beats in grade.rungs)
    return replace(grade, words=words, shown=shown)


def _level(step: Step, name: str, value: Any) -> Step:
    if step.level is None:
        raise PlanError("setting_unknown", setting=name)
    return replace(step, level=replace(step.level, **{name: value}, because=BY_HAND))


def _tube(step: Step, name: str, value: Any) -> Step:
    if step.tube is None:
        raise PlanError("setting_unknown", setting=name)
    changed = replace(step.tube, **{name: value})
    return replace(step, tube=_resisting(changed))


def _resisting(tube: Tube) -> Tube:
    total = back_pressure(
        bore_mm=tube.bore_mm,
        length_cm=tube.length_cm,
        depth_cm=tube.depth_cm,
        flow_ml_s=tube.flow_ml_s,
    ).total
    because = _RESISTS(cmh2o=total, flow_ml_s=tube.flow_ml_s)
    return replace(tube, back_pressure_cmh2o=round(total, 1), because=because)


def _presented(step: Step, name: str, value: str) -> Step:
    code = _CODES.get(name, str)(value)
    return replace(step, presented=replace(step.presented, **{name: code}))


_CODES: Mapping[str, Callable[[str], Any]] = {
    "stress": Stress,
    "feedback": Feedback,
    "position": Position,
}
_CHANGES: Mapping[str, Callable[[Step, str, Any], Step]] = {
    "": _target,
    "level": _level,
    "tube": _tube,
    "presented": _presented,
}
