"""Speech loudness: strong holds, glides and speech, by effort or by decibels over the own level."""

from collections.abc import Callable

from core.catalogue.tasks import Task
from core.catalogue.words import Growth
from core.errors import PlanError
from core.fitting.fit_semi_occluded import ASSUMED, INSIDE
from core.fitting.fitted import (
    USUAL,
    Fitted,
    StepSpec,
    fitter,
    inner_range,
    measured_top,
    number,
    reachable_s,
    semitone_grade,
)
from core.fitting.known import Fitting
from core.notes.note import Note
from core.program.rung_words import number_grade
from core.program.rungs import rungs_from
from core.program.step import MOST_OVER_DB, Grade, LevelAim
from core.program.targets import GlidePath, Holds, HoldTarget, Speech
from core.reason import Saying, says
from core.reference.values import (
    LEVEL_CLIMB,
    LEVEL_FIRST,
    READING_RATE_ASSUMED,
    STRONG_UNDER_SHOWN,
)

_MEASURE_STRONG = says("measure_strong", "Measure a cued strong “ah”: its seconds and its level.")
_STRONG = says(
    "from_strong_ah",
    "{note}, the speaking note; {seconds:g} s from the strong “ah” of {strong_s:g} s",
)
_FIXED = says("fixed_holds", "fixed holds of 10 s")
_OWN_LONGEST = says("own_longest_strong", "the client's own longest strong “ah”")
_TO_HIGHEST = says("to_highest", "at most to the highest comfortable note {highest}")
_OWN_RATE = says("own_rate", "the client's own rate")
_MEASURE_RATE = says("measure_reading_rate", "Measure how fast the client reads aloud.")
_READ = says("words_read", "{words:g} words at {rate:g} words a minute ({whose}) = {seconds:g} s")
_OVER_FOR_SPEECH = says(
    "level_for_speech",
    "{over_db:g} dB over the own conversation for speech; a strong “ah” showed {shown_db:g} dB",
)
_OVER_FOR_HOLDS = says(
    "level_for_holds",
    "{over_db:g} dB over the own conversation for strong holds and glides; a strong “ah” showed "
    "{shown_db:g} dB",
)
_MEASURE_LEVELS = says(
    "measure_levels", "Measure conversation and a strong “ah” on one device at one distance."
)
_EFFORT_STANDS_IN = says(
    "effort_for_decibels",
    "Effort stands for decibels: no level over the conversation was measured.",
)
_EFFORT = says(
    "effort", "physical effort {low}–{high} of 10 while throat strain stays low, not shouted"
)
_UP_TO_STRONG = says(
    "up_to_strong_ah",
    "up to the strong “ah” of the latest visit, {shown_db:g} dB over the own conversation",
)

_LONGER_TEXT = says("longer_text", "the next longer text at the same effort")

FIXED_HOLD_S = 10.0
LONGEST_SPEECH_S = 90.0
_LONGER = (1.5, 2.0)
EFFORT = (7, 9)


@fitter
def strong_holds(fitting: Fitting, task: Task, spec: StepSpec) -> Fitted:
    """Strong vowels on the speaking note, as many as the task sets. Several go toward fixed holds of
    10 s, a single one toward the own longest. The rungs come from the cued strong "ah" as those of
    sustained notes come from their probes; a plain "ah" does not stand for it
    (PlanError "strong_missing")."""
    note = fitting.speaking_note()
    strong = fitting.baseline.best_strong_s
    if strong is None:
        fitting.ask(_MEASURE_STRONG())
        raise PlanError("strong_missing")
    vowels = int(task.usual("vowels", 1))
    fixed = vowels > 1
    goal_s = FIXED_HOLD_S if fixed else min(strong, 40.0)
    rungs = rungs_from((max(strong, 0.5),), max(goal_s, 0.5), most_first_s=fitting.most_first_s)
    because = _STRONG(note=note.name, seconds=rungs[0], strong_s=strong)
    hold = HoldTarget(note=note, seconds=rungs[0], because=because)
    grade = number_grade(
        f"strong {spec.task}",
        Growth.SECONDS,
        rungs,
        goal=goal_s,
        because=_FIXED() if fixed else _OWN_LONGEST(),
        shown=strong,
    )
    return Fitted(
        target=Holds(holds=(hold,) * vowels),
        grade=grade,
        level=strong_aim(fitting),
    )


@fitter
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
        because = INSIDE(start=start.name, end=top.name, why=why)
        return GlidePath(start=start, end=top, seconds=seconds, because=because)

    targets = tuple(up_to(Note(top)) for top in tops)
    grade = semitone_grade(
        task.key,
        tops,
        words=(f"up to {Note(top)}" for top in tops),
        targets=targets,
        because=_TO_HIGHEST(highest=fitting.comfort.highest.name),
    )
    return Fitted(target=targets[0], level=strong_aim(fitting), grade=grade)


@fitter
def strong_speech(fitting: Fitting, task: Task, spec: StepSpec) -> Fitted:
    """Speech over the own level; + 2 dB a rung where decibels are aimed at. param `words`: of a
    passage that is read, at the client's own rate."""
    aim = speech_aim(fitting)
    target = _spoken(fitting, task, spec)
    grade = _decibel_grade(aim, spec.task, fitting)
    if aim.over_db is None:
        grade = _longer_text_grade(target, spec.task)
    return Fitted(target=target, level=aim, grade=grade)


@fitter
def plain_speech(fitting: Fitting, task: Task, spec: StepSpec) -> Fitted:
    """Speech without a level to reach."""
    return Fitted(target=_spoken(fitting, task, spec))


def _spoken(fitting: Fitting, task: Task, spec: StepSpec) -> Speech:
    setting = task.setting("seconds")
    words = number(spec, "words", 0)
    if not words:
        seconds = setting.limited(number(spec, "seconds", setting.default))
        return Speech(seconds=seconds, because=USUAL(amount=seconds, unit="s"))
    rate = fitting.baseline.reading_wpm
    whose = _OWN_RATE()
    if rate is None:
        fitting.ask(_MEASURE_RATE())
        rate, whose = READING_RATE_ASSUMED.number, ASSUMED()
    seconds = float(round(max(words / rate * 60, 5.0)))
    because = _READ(words=words, rate=rate, whose=whose, seconds=seconds)
    return Speech(seconds=seconds, because=because)


def speech_aim(fitting: Fitting) -> LevelAim:
    """How strong speech is to be: 3 dB over the own conversation but never over what the strong "ah" has
    shown; by effort where that is chosen, or nothing was measured."""
    return _aim(fitting, lambda shown: min(LEVEL_FIRST.number, shown), _OVER_FOR_SPEECH)


def strong_aim(fitting: Fitting) -> LevelAim:
    """How strong holds and glides are to be: 2 dB under the strong "ah", at least the level for speech
    and never over what was shown; by effort where that is chosen, or nothing was measured."""

    def level(shown: float) -> float:
        return min(max(shown - STRONG_UNDER_SHOWN.number, LEVEL_FIRST.number), shown)

    return _aim(fitting, level, _OVER_FOR_HOLDS)


def _aim(fitting: Fitting, level: Callable[[float], float], over_why: Saying) -> LevelAim:
    shown = fitting.baseline.strong_over_db
    if fitting.options.get("aim", "measured") != "effort":
        if shown is not None:
            over = round(min(max(level(shown), 0.0), MOST_OVER_DB), 1)
            return LevelAim(over_db=over, because=over_why(over_db=over, shown_db=shown))
        fitting.ask(_MEASURE_LEVELS())
        fitting.assume(_EFFORT_STANDS_IN())
    return LevelAim(
        effort_low=EFFORT[0], effort_high=EFFORT[1], because=_EFFORT(low=EFFORT[0], high=EFFORT[1])
    )


def _longer_text_grade(target: Speech, task: str) -> Grade | None:
    """The ladder of speech by effort: each rung is a longer text, 1.5 and then 2 times the first; None where the
    first is already longer than the longest text."""
    if target.seconds > LONGEST_SPEECH_S:
        return None
    rungs = [float(round(target.seconds * times)) for times in _LONGER]
    rungs = [target.seconds, *(s for s in rungs if target.seconds < s <= LONGEST_SPEECH_S)]
    return number_grade(
        f"text {task}", Growth.SECONDS, rungs, goal=rungs[-1], because=_LONGER_TEXT()
    )


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
    return number_grade(
        f"level {task}",
        Growth.DECIBELS,
        rungs,
        goal=rungs[-1],
        because=_UP_TO_STRONG(shown_db=shown),
        shown=shown,
    )
