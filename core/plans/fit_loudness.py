"""Speech loudness: strong holds, glides and speech, by effort or by decibels over the own level."""

from collections.abc import Callable

from core.catalogue.tasks import Task
from core.catalogue.words import Growth
from core.errors import PlanError
from core.notes.note import Note
from core.plans.fitted import (
    Fitted,
    StepSpec,
    inner_range,
    measured_top,
    number,
    reachable_s,
    semitone_grade,
)
from core.plans.known import Fitting
from core.plans.rungs import rungs_from
from core.plans.step import MOST_OVER_DB, Grade, LevelAim
from core.plans.targets import GlidePath, Holds, HoldTarget, Speech
from core.reference.values import (
    LEVEL_CLIMB,
    LEVEL_FIRST,
    READING_RATE_ASSUMED,
    STRONG_UNDER_SHOWN,
)

FIXED_HOLD_S = 10.0
EFFORT = (7, 9)


def strong_holds(fitting: Fitting, task: Task, spec: StepSpec) -> Fitted:
    """Strong vowels on the speaking note: as many as the task sounds. Several go toward fixed holds
    of 10 s, a single one toward the own longest. The rungs come from the cued strong "ah" as those of sustained notes
    come from their probes; a plain "ah" does not stand for it (PlanError "strong_missing")."""
    note = fitting.speaking_note()
    strong = fitting.baseline.best_strong_s
    if strong is None:
        fitting.ask("Measure a cued strong “ah”: its seconds and its level.")
        raise PlanError("strong_missing")
    vowels = len(task.sound.split(", "))
    fixed = vowels > 1
    goal_s = FIXED_HOLD_S if fixed else min(strong, 40.0)
    rungs = rungs_from((max(strong, 0.5),), max(goal_s, 0.5))
    because = f"{note}, the speaking note; {rungs[0]:g} s from the strong “ah” of {strong:g} s"
    hold = HoldTarget(note=note, seconds=rungs[0], because=because)
    grade = Grade(
        key=f"strong {spec.task}",
        growth=Growth.SECONDS,
        rungs=rungs,
        words=tuple(f"{s:g} s" for s in rungs),
        goal=goal_s,
        because="fixed holds of 10 s" if fixed else "the client's own longest strong “ah”",
        shown=strong,
    )
    return Fitted(
        target=Holds(holds=(hold,) * vowels),
        grade=grade,
        level=strong_aim(fitting),
    )


def strong_glides(fitting: Fitting, task: Task, _spec: StepSpec) -> Fitted:
    """From the speaking note up to the top less its margin; a rung is a semitone on, to the highest
    comfortable note."""
    _low, high = inner_range(fitting)
    start = fitting.speaking_note()
    if start >= high:
        start = fitting.comfort.lowest
    seconds, why = reachable_s(fitting, task.setting("seconds").default)
    tops = range(high.number, measured_top(fitting.comfort.highest).number + 1)

    def up_to(top: Note) -> GlidePath:
        because = f"{start} to {top}, inside the comfortable range; {why}"
        return GlidePath(start=start, end=top, seconds=seconds, because=because)

    targets = tuple(up_to(Note(top)) for top in tops)
    grade = semitone_grade(
        task.key,
        tops,
        words=(f"up to {Note(top)}" for top in tops),
        targets=targets,
        because=f"at most to the highest comfortable note {fitting.comfort.highest}",
    )
    return Fitted(target=targets[0], level=strong_aim(fitting), grade=grade)


def strong_speech(fitting: Fitting, task: Task, spec: StepSpec) -> Fitted:
    """Speech over the own level; + 2 dB a rung where decibels are aimed at. param `words`: of a
    passage that is read, at the client's own rate."""
    aim = speech_aim(fitting)
    return Fitted(
        target=_spoken(fitting, task, spec),
        level=aim,
        grade=_decibel_grade(aim, spec.task, fitting),
    )


def plain_speech(fitting: Fitting, task: Task, spec: StepSpec) -> Fitted:
    """Speech without a level to reach."""
    return Fitted(target=_spoken(fitting, task, spec))


def _spoken(fitting: Fitting, task: Task, spec: StepSpec) -> Speech:
    setting = task.setting("seconds")
    words = number(spec, "words", 0)
    if not words:
        seconds = setting.limited(number(spec, "seconds", setting.default))
        return Speech(seconds=seconds, because=f"{seconds:g} s, usual for this task")
    rate = fitting.baseline.reading_wpm
    whose = "the client's own rate"
    if rate is None:
        fitting.ask("Measure how fast the client reads aloud.")
        rate, whose = READING_RATE_ASSUMED.number, "assumed"
    seconds = float(round(max(words / rate * 60, 5.0)))
    because = f"{words:g} words at {rate:g} words a minute ({whose}) = {seconds:g} s"
    return Speech(seconds=seconds, because=because)


def speech_aim(fitting: Fitting) -> LevelAim:
    """How strong speech is to be: by effort, or 3 dB over the own conversation but never over what
    the strong "ah" has shown; effort where that was not measured."""
    return _aim(fitting, lambda shown: min(LEVEL_FIRST.number, shown), "for speech")


def strong_aim(fitting: Fitting) -> LevelAim:
    """How strong holds and glides are to be: by effort, or 2 dB under the strong "ah", at least the
    level for speech and never over what was shown."""

    def level(shown: float) -> float:
        return min(max(shown - STRONG_UNDER_SHOWN.number, LEVEL_FIRST.number), shown)

    return _aim(fitting, level, "for strong holds and glides")


def _aim(fitting: Fitting, level: Callable[[float], float], what: str) -> LevelAim:
    shown = fitting.baseline.strong_over_db
    effort = f"physical effort {EFFORT[0]}–{EFFORT[1]} of 10 while throat strain stays low"
    if fitting.options.get("aim", "effort") == "decibel":
        if shown is not None:
            over = round(min(max(level(shown), 0.0), MOST_OVER_DB), 1)
            words = (
                f"{over:g} dB over the own conversation {what}; a strong “ah” showed {shown:g} dB"
            )
            return LevelAim(over_db=over, because=words)
        fitting.ask("Measure conversation and a strong “ah” on one device at one distance.")
        fitting.assume("Effort stands for decibels: no level over the conversation was measured.")
    return LevelAim(effort_low=EFFORT[0], effort_high=EFFORT[1], because=f"{effort}, not shouted")


def _decibel_grade(aim: LevelAim, task: str, fitting: Fitting) -> Grade | None:
    """2 dB a rung up to the strong "ah" of the latest visit; a last step under 2 dB goes to it."""
    if aim.over_db is None or fitting.baseline.strong_over_db is None:
        return None
    shown = min(fitting.baseline.strong_over_db, MOST_OVER_DB)
    rungs = [aim.over_db]
    while rungs[-1] + LEVEL_CLIMB.number <= shown:
        rungs.append(rungs[-1] + LEVEL_CLIMB.number)
    if shown > rungs[-1]:
        rungs.append(shown)
    return Grade(
        key=f"level {task}",
        growth=Growth.DECIBELS,
        rungs=tuple(rungs),
        words=tuple(f"+ {over:g} dB" for over in rungs),
        goal=rungs[-1],
        because=f"up to the strong “ah” of the latest visit, {shown:g} dB over the own conversation",
        shown=shown,
    )
