"""Range: scale patterns through the keys, falling hums, the target pitch of speaking-pitch work."""

from core.catalogue.tasks import Task
from core.catalogue.words import Growth
from core.errors import PlanError
from core.notes.note import Note
from core.plans.fit_semi_occluded import FIVE_NOTES
from core.plans.fitted import Fitted, StepSpec, inner_range, number, reachable_s
from core.plans.known import Fitting
from core.plans.step import Grade
from core.plans.targets import DEGREES, Counted, GlidePath, Holds, HoldTarget, Pattern, Target
from core.reference.values import PITCH_REVIEW_AFTER

PATTERNS = {
    "pattern_two": (1, 2, 1),
    "pattern_three": (1, 2, 3, 2, 1),
    "pattern_four": (1, 2, 3, 4, 3, 2, 1),
    "pattern_five": FIVE_NOTES,
}
_FIRST_RISE = 2
_MOST_UP = 6


def pattern(fitting: Fitting, task: Task, spec: StepSpec) -> Fitted:
    """A scale pattern from a start key down by semitones to the floor, then up to the ceiling.

    Floor and ceiling lie a margin inside the range; with the option ceiling = transition (speaking
    voice) the top note stops at the transition. The first rung rises two keys over the start, each
    next one key more. param `most_s`: longest for all keys, s.
    """
    degrees = PATTERNS.get(task.key, PATTERNS["pattern_three"])
    span = max(DEGREES[degree] for degree in degrees)
    low, high = inner_range(fitting)
    ceiling, why_ceiling = _ceiling(fitting, high)
    top_key, floor = ceiling.number - span, low.number
    if top_key < floor:
        raise PlanError(
            "pattern_too_wide", span=span, semitones=ceiling.number - floor, ceiling=ceiling.name
        )
    start = min(max(fitting.speaking_note().number, floor), top_key)
    tempo = task.setting("tempo").default
    tops = _tops(start, top_key, spec, (len(degrees) + 2) * 60 / tempo, start - floor + 1)

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
    grade = Grade(
        key=task.key,
        growth=Growth.SEMITONES,
        rungs=tuple(float(top) for top in tops),
        words=tuple(f"up to the key {Note(top)}" for top in tops),
        targets=targets,
        goal=float(tops[-1]),
        because=why_ceiling,
    )
    return Fitted(target=targets[0], grade=grade)


def _ceiling(fitting: Fitting, high: Note) -> tuple[Note, str]:
    comfort = fitting.comfort
    if fitting.options.get("ceiling", "range") != "transition":
        return high, f"the highest comfortable note {comfort.highest} less its margin is {high}"
    if comfort.transition is None:
        fitting.ask("Note where the register changes (transition).")
        two_thirds = comfort.lowest.up(max(comfort.semitones * 2 // 3, 1))
        ceiling = min(two_thirds, high)
        fitting.assume(f"{ceiling} stands for the transition: two thirds of the range.")
        return ceiling, f"the transition is taken at {ceiling}"
    ceiling = min(comfort.transition, high)
    return ceiling, f"speaking-voice work stops at the transition {comfort.transition}"


def _tops(start: int, top_key: int, spec: StepSpec, key_s: float, downward: int) -> list[int]:
    """Highest start key of each rung; the downward keys always stay, further ones as time allows."""
    most_s = number(spec, "most_s", 240.0)
    room = max(int(most_s / key_s) - downward, 0)
    first = min(start + _FIRST_RISE, top_key, start + room)
    last = min(top_key, max(start + room, first))
    return list(range(first, last + 1))


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
    """The notes from the speaking note to the target, a semitone at a time, inside the range."""
    comfort = fitting.comfort
    if comfort.speaking is None:
        fitting.ask("Measure the habitual speaking pitch.")
        raise PlanError("speaking_missing")
    low, high = inner_range(fitting)
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

    return Grade(
        key="target pitch",
        growth=Growth.SEMITONES,
        rungs=tuple(float(note.number) for note in notes),
        words=tuple(words(place, note) for place, note in enumerate(notes)),
        targets=targets,
        goal=float(notes[-1].number),
        because=f"one semitone at a time from {notes[0]} to {notes[-1]}; review after every {every}",
    )
