"""Range: scale patterns through the keys, falling hums, the target pitch of speaking-pitch work."""

from core.catalogue.tasks import Task
from core.errors import PlanError
from core.fitting.fit_semi_occluded import FIVE_NOTES
from core.fitting.fitted import (
    USUAL,
    Fitted,
    StepSpec,
    fitter,
    inner_range,
    measured_top,
    reachable_s,
    semitone_grade,
)
from core.fitting.known import MEASURE_SPEAKING, Fitting
from core.notes.note import Note
from core.notes.scale import DEGREES
from core.program.step import Grade
from core.program.targets import GlidePath, Holds, HoldTarget, Pattern, Phrases, StepTarget
from core.reason import Reason, joined, says
from core.reference.values import (
    DOWNWARD_MARGIN,
    FOLDS_SAFE_KEYS,
    PITCH_REVIEW_AFTER,
    UNDER_TRANSITION,
)

_THROUGH = says(
    "through_the_keys",
    "{keys} keys: from {start} down to {floor}, then up to {top_key}; the top note is {top}, {why}",
)
_TO_THE_TOP = says("ceiling_range", "begun at {high}, up to the highest comfortable note {highest}")
_TO_TRANSITION = says(
    "ceiling_transition",
    "speaking-voice work begins under the transition {transition} and stops at it",
)
_WHICH_WAY = says(
    "ask_pitch_direction",
    "Ask which way the speaking pitch should go: higher, lower, or the comfortable one.",
)
_KEYS_CAPPED = says(
    "keys_capped",
    "{task}: at most {keys} keys, in the lower two thirds of the range, because of vocal fold lesions with "
    "throat strain.",
)
_NOTE_TRANSITION = says("note_transition", "Note where the register changes (transition).")
_TRANSITION_ASSUMED = says(
    "transition_assumed", "{note} stands for the transition: two thirds of the range."
)
_FALLING = says("falls_from_the_middle", "from the middle {middle} down to {low}; {why}")
_SPEAKS_NOW = says("speaks_now", "{note}, where the client speaks now: comfort before pitch")
_MOVED = says("moved_from_speaking", "{note}, {semitones} from {start}")
_BY_SEMITONES = says(
    "by_semitones", "one semitone at a time from {start} to {end}; review after every {every}"
)

PATTERNS = {
    "pattern_two": (1, 2, 1),
    "pattern_three": (1, 2, 3, 2, 1),
    "pattern_four": (1, 2, 3, 4, 3, 2, 1),
    "pattern_five": FIVE_NOTES,
}
_MOST_UP = 6
_MOST_KEYS = 48


@fitter
def pattern(fitting: Fitting, task: Task, _spec: StepSpec) -> Fitted:
    """A scale pattern from a start key down by semitones to the floor, then up to the ceiling.

    The first rung has every key whose notes lie a margin inside the range; for the speaking voice
    (option ceiling = transition) the top note stays a semitone under the transition. Each next rung
    moves the ceiling up by one, to the highest comfortable note or the transition.
    """
    degrees = PATTERNS.get(task.key, PATTERNS["pattern_three"])
    span = max(DEGREES[degree] for degree in degrees)
    low, _high = inner_range(fitting)
    first, last, why_ceiling = _ceilings(fitting)
    floor, most_keys = low.number, _MOST_KEYS
    if fitting.hurt_folds:
        most_keys = int(FOLDS_SAFE_KEYS.number)
        two_thirds = fitting.comfort.lowest.up(fitting.comfort.semitones * 2 // 3)
        first, last = min(first, two_thirds), min(last, two_thirds)
        fitting.reason(_KEYS_CAPPED(task=task.name, keys=most_keys))
    top_key = min(first.number - span, floor + most_keys - 1)
    if top_key < floor:
        raise PlanError(
            "pattern_too_wide", span=span, semitones=first.number - floor, ceiling=first.name
        )
    start = min(max(fitting.speaking_note().number, floor), top_key)
    tempo = task.setting("tempo").default
    tops = range(top_key, max(min(last.number - span, floor + most_keys - 1), top_key) + 1)

    def through(top: int) -> Pattern:
        keys = [*range(start, floor - 1, -1), *range(start + 1, top + 1)]
        return Pattern(
            degrees=degrees,
            keys=tuple(Note(key) for key in keys),
            tempo_bpm=tempo,
            because=_THROUGH(
                keys=len(keys),
                start=Note(start).name,
                floor=Note(floor).name,
                top_key=Note(top).name,
                top=Note(top + span).name,
                why=why_ceiling,
            ),
        )

    targets = tuple(through(top) for top in tops)
    grade = semitone_grade(
        task.key,
        tops,
        words=(f"up to the key {Note(top)}" for top in tops),
        targets=targets,
        because=why_ceiling,
    )
    return Fitted(target=targets[0], grade=grade)


def _ceilings(fitting: Fitting) -> tuple[Note, Note, Reason]:
    """The highest note of the first rung, that of the last, and why."""
    comfort = fitting.comfort
    _low, high = inner_range(fitting)
    top = measured_top(comfort.highest)
    if fitting.options.get("ceiling", "range") != "transition":
        return high, top, _TO_THE_TOP(high=high.name, highest=comfort.highest.name)
    if comfort.transition is None:
        fitting.ask(_NOTE_TRANSITION())
        two_thirds = comfort.lowest.up(max(comfort.semitones * 2 // 3, 1))
        transition = min(two_thirds, high)
        fitting.assume(_TRANSITION_ASSUMED(note=transition.name))
    else:
        transition = comfort.transition
    under = Note(transition.number - int(UNDER_TRANSITION.number))
    return min(under, high), min(transition, top), _TO_TRANSITION(transition=transition.name)


@fitter
def falling(fitting: Fitting, task: Task, _spec: StepSpec) -> Fitted:
    """From the middle of the range down to its foot, softly."""
    low, _high = inner_range(fitting)
    comfort = fitting.comfort
    middle = comfort.lowest.up(max(comfort.semitones // 2, 1))
    seconds, why = reachable_s(fitting, task.setting("seconds").default)
    because = _FALLING(middle=middle.name, low=low.name, why=why)
    return Fitted(target=GlidePath(start=middle, end=low, seconds=seconds, because=because))


@fitter
def target_pitch_hold(fitting: Fitting, task: Task, _spec: StepSpec) -> Fitted:
    """The target pitch, held; a rung is a semitone on from where the client speaks now."""
    notes = _way(fitting)
    seconds, why = reachable_s(fitting, task.setting("seconds").default)
    targets: tuple[StepTarget, ...] = tuple(
        Holds(
            holds=(HoldTarget(note=note, seconds=seconds, because=joined(_why(note, notes), why)),)
        )
        for note in notes
    )
    return Fitted(target=targets[0], grade=_pitch_grade(notes, targets))


@fitter
def target_pitch_phrases(fitting: Fitting, task: Task, _spec: StepSpec) -> Fitted:
    notes = _way(fitting)
    setting = task.setting("count")
    targets: tuple[StepTarget, ...] = tuple(
        Phrases(
            count=int(setting.default),
            note=note,
            because=joined(_why(note, notes), USUAL(amount=setting.default, unit="phrases")),
        )
        for note in notes
    )
    return Fitted(target=targets[0], grade=_pitch_grade(notes, targets))


def _way(fitting: Fitting) -> tuple[Note, ...]:
    """The notes from the speaking note to the target, a semitone at a time: at most to the highest
    comfortable note and, since it is for speaking, to the transition."""
    comfort = fitting.comfort
    if comfort.speaking is None:
        fitting.ask(MEASURE_SPEAKING())
        raise PlanError("speaking_missing")
    low = comfort.lowest.up(int(DOWNWARD_MARGIN.number))
    high = min(measured_top(comfort.highest), comfort.transition or comfort.highest)
    direction = fitting.options.get("direction", "unasked")
    if direction not in ("up", "down"):
        fitting.ask(_WHICH_WAY())
        raise PlanError("direction_unasked")
    down = direction == "down"
    wish = fitting.options.get("target", "")
    goal = Note.named(wish) if wish else None
    if goal is not None and (why := comfort.why_outside(goal)):
        raise PlanError("target_outside", why=why)
    start = comfort.speaking
    if down:
        end = min(max(goal or Note(start.number - _MOST_UP), low), start)
        numbers = range(start.number, min(end.number, start.number) - 1, -1)
    else:
        end = min(goal or Note(start.number + _MOST_UP), high)
        numbers = range(start.number, max(end.number, start.number) + 1)
    return tuple(Note(place) for place in numbers)


def _why(note: Note, notes: tuple[Note, ...]) -> Reason:
    moved = abs(note.number - notes[0].number)
    if not moved:
        return _SPEAKS_NOW(note=note.name)
    return _MOVED(note=note.name, semitones=moved, start=notes[0].name)


def _pitch_grade(notes: tuple[Note, ...], targets: tuple[StepTarget, ...]) -> Grade:
    every = int(PITCH_REVIEW_AFTER.number)

    def words(place: int, note: Note) -> str:
        review = ": review, resonance and intonation first" if place and place % every == 0 else ""
        return f"{note}{review}"

    return semitone_grade(
        "target pitch",
        [note.number for note in notes],
        words=(words(place, note) for place, note in enumerate(notes)),
        targets=targets,
        because=_BY_SEMITONES(start=notes[0].name, end=notes[-1].name, every=every),
    )
