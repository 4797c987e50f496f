"""Range: scale patterns through the keys, falling hums, the target pitch of speaking-pitch work."""

from core.catalogue.tasks import Task
from core.errors import PlanError
from core.notes.note import Note
from core.plans.fit_semi_occluded import FIVE_NOTES
from core.plans.fitted import (
    Fitted,
    StepSpec,
    inner_range,
    measured_top,
    reachable_s,
    semitone_grade,
)
from core.plans.known import Fitting
from core.plans.step import Grade
from core.plans.targets import DEGREES, Counted, GlidePath, Holds, HoldTarget, Pattern, Target
from core.reference.values import PITCH_REVIEW_AFTER, UNDER_TRANSITION

PATTERNS = {
    "pattern_two": (1, 2, 1),
    "pattern_three": (1, 2, 3, 2, 1),
    "pattern_four": (1, 2, 3, 4, 3, 2, 1),
    "pattern_five": FIVE_NOTES,
}
_MOST_UP = 6
_MOST_KEYS = 48


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
    floor, top_key = low.number, first.number - span
    if top_key < floor:
        raise PlanError(
            "pattern_too_wide", span=span, semitones=first.number - floor, ceiling=first.name
        )
    start = min(max(fitting.speaking_note().number, floor), top_key)
    tempo = task.setting("tempo").default
    tops = range(top_key, min(last.number - span, floor + _MOST_KEYS - 1) + 1)

    def through(top: int) -> Pattern:
        keys = [*range(start, floor - 1, -1), *range(start + 1, top + 1)]
        return Pattern(
            degrees=degrees,
            keys=tuple(Note(key) for key in keys),
            tempo_bpm=tempo,
            because=f"{len(keys)} keys: from {Note(start)} down to {Note(floor)}, then up to "
            f"{Note(top)}; the top note is {Note(top + span)}, {why_ceiling}",
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


def _ceilings(fitting: Fitting) -> tuple[Note, Note, str]:
    """The highest note of the first rung, that of the last, and why."""
    comfort = fitting.comfort
    _low, high = inner_range(fitting)
    top = measured_top(comfort.highest)
    if fitting.options.get("ceiling", "range") != "transition":
        return high, top, f"begun at {high}, up to the highest comfortable note {comfort.highest}"
    if comfort.transition is None:
        fitting.ask("Note where the register changes (transition).")
        two_thirds = comfort.lowest.up(max(comfort.semitones * 2 // 3, 1))
        transition = min(two_thirds, high)
        fitting.assume(f"{transition} stands for the transition: two thirds of the range.")
    else:
        transition = comfort.transition
    under = Note(transition.number - int(UNDER_TRANSITION.number))
    words = f"speaking-voice work begins under the transition {transition} and stops at it"
    return min(under, high), min(transition, top), words


def falling(fitting: Fitting, task: Task, _spec: StepSpec) -> Fitted:
    """From the middle of the range down to its foot, softly."""
    low, _high = inner_range(fitting)
    comfort = fitting.comfort
    middle = comfort.lowest.up(max(comfort.semitones // 2, 1))
    if middle <= low:
        low = comfort.lowest
    seconds, why = reachable_s(fitting, task.setting("seconds").default)
    because = f"from the middle {middle} down to {low}; {why}"
    return Fitted(target=GlidePath(start=middle, end=low, seconds=seconds, because=because))


def target_pitch_hold(fitting: Fitting, task: Task, _spec: StepSpec) -> Fitted:
    """The target pitch, held; a rung is a semitone on from where the client speaks now."""
    notes = _way(fitting)
    seconds, why = reachable_s(fitting, task.setting("seconds").default)
    targets: tuple[Target, ...] = tuple(
        Holds(
            holds=(HoldTarget(note=note, seconds=seconds, because=f"{_why(note, notes)}; {why}"),)
        )
        for note in notes
    )
    return Fitted(target=targets[0], grade=_pitch_grade(notes, targets))


def target_pitch_phrases(fitting: Fitting, task: Task, _spec: StepSpec) -> Fitted:
    notes = _way(fitting)
    setting = task.setting("count")
    targets: tuple[Target, ...] = tuple(
        Counted(
            count=int(setting.default),
            unit=setting.unit,
            seconds_each=5,
            note=note,
            because=f"{_why(note, notes)}; {setting.default:g} phrases, usual for this task",
        )
        for note in notes
    )
    return Fitted(target=targets[0], grade=_pitch_grade(notes, targets))


def _way(fitting: Fitting) -> tuple[Note, ...]:
    """The notes from the speaking note to the target, a semitone at a time: at most to the highest
    comfortable note and, since it is for speaking, to the transition."""
    comfort = fitting.comfort
    if comfort.speaking is None:
        fitting.ask("Measure the habitual speaking pitch.")
        raise PlanError("speaking_missing")
    low, _high = inner_range(fitting)
    high = min(measured_top(comfort.highest), comfort.transition or comfort.highest)
    down = fitting.options.get("direction", "up") == "down"
    wish = fitting.options.get("target", "")
    goal = Note.named(wish) if wish else None
    if goal is not None and (why := comfort.why_outside(goal)):
        raise PlanError("target_outside", why=why)
    start = comfort.speaking
    if down:
        end = max(goal or Note(start.number - _MOST_UP), low)
        numbers = range(start.number, min(end.number, start.number) - 1, -1)
    else:
        end = min(goal or Note(start.number + _MOST_UP), high)
        numbers = range(start.number, max(end.number, start.number) + 1)
    return tuple(Note(place) for place in numbers)


def _why(note: Note, notes: tuple[Note, ...]) -> str:
    moved = abs(note.number - notes[0].number)
    if not moved:
        return f"{note}, where the client speaks now: comfort before pitch"
    return f"{note}, {moved} from {notes[0]}"


def _pitch_grade(notes: tuple[Note, ...], targets: tuple[Target, ...]) -> Grade:
    every = int(PITCH_REVIEW_AFTER.number)

    def words(place: int, note: Note) -> str:
        review = ": review, resonance and intonation first" if place and place % every == 0 else ""
        return f"{note}{review}"

    return semitone_grade(
        "target pitch",
        [note.number for note in notes],
        words=(words(place, note) for place, note in enumerate(notes)),
        targets=targets,
        because=f"one semitone at a time from {notes[0]} to {notes[-1]}; review after every {every}",
    )
