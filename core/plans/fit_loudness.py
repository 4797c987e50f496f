"""Speech loudness: strong holds, glides and speech, by effort or by decibels over the own level."""

from core.catalogue.tasks import Task
from core.catalogue.words import Growth
from core.plans.fitted import Fitted, StepSpec, inner_range, number, reachable_s
from core.plans.known import Fitting
from core.plans.rungs import rungs_from
from core.plans.step import Grade, LevelAim
from core.plans.targets import GlidePath, Holds, HoldTarget, Speech
from core.reference.values import LEVEL_CLIMB, LEVEL_FIRST, LEVEL_GOAL

FIXED_HOLD_S = 10.0
EFFORT = (7, 9)


def strong_holds(fitting: Fitting, _task: Task, spec: StepSpec) -> Fitted:
    """Strong vowels on the speaking note: param `vowels` of them, `fixed` = toward 10 s each, else
    toward the own longest. Starts within 80 % of the best phonation time."""
    note = fitting.speaking_note()
    best = fitting.baseline.best_phonation_s
    fixed = bool(spec.params.get("fixed", False))
    goal_s = FIXED_HOLD_S if fixed else min(best or FIXED_HOLD_S, 40.0)
    seconds, why = reachable_s(fitting, goal_s)
    rungs: tuple[float, ...] = (seconds,)
    if best is not None and goal_s > seconds:
        rungs = rungs_from((seconds / 0.8,), goal_s)
        seconds = rungs[0]
    because = f"{note}, the speaking note; {why}"
    hold = HoldTarget(note=note, seconds=seconds, because=because)
    grade = Grade(
        key=f"strong {spec.task}",
        growth=Growth.SECONDS,
        rungs=rungs,
        words=tuple(f"{s:g} s" for s in rungs),
        goal=goal_s,
        because="fixed holds of 10 s" if fixed else "the client's own longest",
        shown=best,
    )
    return Fitted(
        target=Holds(holds=(hold,) * int(number(spec, "vowels", 1))),
        grade=grade,
        level=level_aim(fitting),
    )


def strong_glides(fitting: Fitting, task: Task, _spec: StepSpec) -> Fitted:
    """From the speaking note up to the top less its margin."""
    _low, high = inner_range(fitting)
    start = fitting.speaking_note()
    if start >= high:
        start = fitting.comfort.lowest
    seconds, why = reachable_s(fitting, task.setting("seconds").default)
    because = f"{start} to {high}, below the highest comfortable note; {why}"
    target = GlidePath(start=start, end=high, seconds=seconds, because=because)
    return Fitted(target=target, level=level_aim(fitting))


def strong_speech(fitting: Fitting, task: Task, spec: StepSpec) -> Fitted:
    """Speech over the own level; + 2 dB a rung where decibels are aimed at."""
    setting = task.setting("seconds")
    seconds = setting.limited(number(spec, "seconds", setting.default))
    aim = level_aim(fitting)
    because = f"{seconds:g} s, usual for this task"
    return Fitted(
        target=Speech(seconds=seconds, because=because),
        level=aim,
        grade=_decibel_grade(aim, spec.task, fitting),
    )


def plain_speech(_fitting: Fitting, task: Task, spec: StepSpec) -> Fitted:
    """Speech without a level to reach."""
    setting = task.setting("seconds")
    seconds = setting.limited(number(spec, "seconds", setting.default))
    because = f"{seconds:g} s, usual for this task"
    return Fitted(target=Speech(seconds=seconds, because=because))


def level_aim(fitting: Fitting) -> LevelAim:
    """The strength aimed at: by effort, or 3 dB over the own conversation but never over what the
    strong "ah" has shown; effort where that was not measured."""
    shown = fitting.baseline.strong_over_db
    effort = f"physical effort {EFFORT[0]}–{EFFORT[1]} of 10 while throat strain stays low"
    if fitting.options.get("aim", "effort") == "decibel":
        if shown is not None:
            over = max(min(LEVEL_FIRST.number, shown), 0.0)
            words = f"{over:g} dB over the own conversation; a strong “ah” showed {shown:g} dB"
            return LevelAim(over_db=over, because=words)
        fitting.ask("Measure conversation and a strong “ah” on one device at one distance.")
        fitting.assume("Effort stands for decibels: no level over the conversation was measured.")
    return LevelAim(effort_low=EFFORT[0], effort_high=EFFORT[1], because=f"{effort}, not shouted")


def _decibel_grade(aim: LevelAim, task: str, fitting: Fitting) -> Grade | None:
    if aim.over_db is None:
        return None
    rungs = [aim.over_db]
    while rungs[-1] + LEVEL_CLIMB.number <= LEVEL_GOAL.number:
        rungs.append(rungs[-1] + LEVEL_CLIMB.number)
    return Grade(
        key=f"level {task}",
        growth=Growth.DECIBELS,
        rungs=tuple(rungs),
        words=tuple(f"+ {over:g} dB" for over in rungs),
        goal=rungs[-1],
        because=f"up to {LEVEL_GOAL.number:g} dB over the own conversation",
        shown=fitting.baseline.strong_over_db,
    )
