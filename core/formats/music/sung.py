"""Converts steps to lines of music and back: patterns and sets of holds."""

from dataclasses import dataclass

from core.formats.music.line import MusicLine, MusicRefused, Tone
from core.notes.note import Note
from core.notes.scale import DEGREES
from core.program.step import Step
from core.program.targets import Holds, Pattern
from core.reason import says
from core.reference.values import HOLD_LONGEST, HOLD_SHORTEST

BREATH_BEATS = 2.0
"""After each key of a pattern."""
HOLDS_BPM = 60.0
"""A beat of a hold set is a second."""
_REST_S = 15.0
MOST_DEGREES, MOST_KEYS, MOST_HOLDS = 20, 48, 12
_EVEN = 0.1
"""How far a length may lie from the others and be the same, as a share: people play by hand."""

_UNEVEN = says("music_uneven", "its notes are of different lengths: a pattern has one note a beat")
_NO_SCALE = says(
    "music_no_scale", "its notes are not all degrees 1 to 9 of one major scale: {notes:list}"
)
_TOO_LONG = says("music_too_long", "it has {came} notes in a row: a pattern has 2 to {most}")
_OTHER = says(
    "music_other_group", "its groups are not the same pattern from another note (group {number})"
)
_MANY_KEYS = says("music_many_keys", "it has {came} groups: a pattern has at most {most} keys")
_TEMPO = says("music_tempo", "its tempo is {bpm:g} beats a minute: a pattern has 30 to 240")
_MANY_HOLDS = says(
    "music_many_holds", "it has {came} notes: at most {most} are held one after the other"
)
_HOLD_LENGTH = says(
    "music_hold_length", "{note} lasts {seconds:.1f} s: a note is held {low:g} to {high:g} s"
)


def can_be_music(step: Step) -> bool:
    """Whether a step is nothing but notes in order."""
    return isinstance(step.target, Pattern | Holds)


def line_of(step: Step) -> MusicLine:
    """A step as a line: a pattern through its keys with a breath of two beats, notes held with their rests."""
    target = step.target
    tones: list[Tone] = []
    groups = []
    if isinstance(target, Pattern):
        for key in target.keys:
            groups.append(len(tones))
            tones += [Tone(note, 1.0) for note in target.in_key(key)]
            tones.append(Tone(None, BREATH_BEATS))
        return MusicLine(
            name=step.name, tempo_bpm=target.tempo_bpm, tones=tuple(tones), groups=tuple(groups)
        )
    if not isinstance(target, Holds):
        raise TypeError(f"{step.kind} is no music")
    rest = step.rest_s or _REST_S
    for hold in target.holds:
        groups.append(len(tones))
        tones += [Tone(hold.note, hold.seconds), Tone(None, rest)]
    return MusicLine(name=step.name, tempo_bpm=HOLDS_BPM, tones=tuple(tones), groups=tuple(groups))


@dataclass(frozen=True, slots=True)
class ReadPattern:
    """A pattern as a step takes it: degrees of the major scale, start notes in order, tempo in beats/min."""

    degrees: tuple[int, ...]
    keys: tuple[Note, ...]
    tempo_bpm: float


def pattern_in(line: MusicLine) -> ReadPattern:
    """The pattern of a line: one group of even notes, or the same from several start notes with rests between.
    MusicRefused in words for anything else."""
    groups = _groups(line)
    if len(groups) > MOST_KEYS:
        raise MusicRefused(_MANY_KEYS(came=len(groups), most=MOST_KEYS))
    first = groups[0]
    if not 2 <= len(first) <= MOST_DEGREES:
        raise MusicRefused(_TOO_LONG(came=len(first), most=MOST_DEGREES))
    length = sorted(tone.beats for group in groups for tone in group[:-1])[0]
    for group in groups:
        # the last note of a group may be held a little longer
        if any(abs(tone.beats - length) > _EVEN * length for tone in group[:-1]):
            raise MusicRefused(_UNEVEN())
        if group[-1].beats < (1 - _EVEN) * length:
            raise MusicRefused(_UNEVEN())
    tempo = round(line.tempo_bpm / length, 1)
    if not 30 <= tempo <= 240:
        raise MusicRefused(_TEMPO(bpm=tempo))
    notes = [tone.note for tone in first if tone.note]
    key, degrees = _degrees(notes)
    keys = []
    for number, group in enumerate(groups, start=1):
        sung = [tone.note for tone in group if tone.note]
        by = sung[0].number - notes[0].number
        if [one.number - by for one in sung] != [one.number for one in notes]:
            raise MusicRefused(_OTHER(number=number))
        keys.append(key.up(by))
    return ReadPattern(degrees, tuple(keys), tempo)


def _groups(line: MusicLine) -> list[list[Tone]]:
    """The notes between two rests."""
    groups: list[list[Tone]] = [[]]
    for tone in line.tones:
        if tone.note is None:
            groups.append([])
        else:
            groups[-1].append(tone)
    return [group for group in groups if group]


def _degrees(notes: list[Note]) -> tuple[Note, tuple[int, ...]]:
    """Start note and degrees: of the first note as 1 where that fits, else of the last, else of the lowest start
    from which all are degrees."""
    low = min(notes)
    by_semitones = {semitones: degree for degree, semitones in DEGREES.items()}
    below = [Note(low.number - semitones) for semitones in DEGREES.values()]
    for key in (notes[0], notes[-1], *below):
        found = [by_semitones.get(note.number - key.number) for note in notes]
        if all(found):
            return key, tuple(degree for degree in found if degree)
    raise MusicRefused(_NO_SCALE(notes=tuple(dict.fromkeys(note.name for note in notes))))


def holds_in(line: MusicLine) -> tuple[tuple[Note, float], ...]:
    """The notes of a line with their seconds, to be held one after the other; MusicRefused in words."""
    beat_s = 60 / line.tempo_bpm
    held = [(tone.note, tone.beats * beat_s) for tone in line.tones if tone.note is not None]
    if len(held) > MOST_HOLDS:
        raise MusicRefused(_MANY_HOLDS(came=len(held), most=MOST_HOLDS))
    low, high = HOLD_SHORTEST.number, HOLD_LONGEST.number
    for note, seconds in held:
        if not low - 0.05 <= seconds <= high + 0.05:
            raise MusicRefused(
                _HOLD_LENGTH(note=note.name, seconds=round(seconds, 2), low=low, high=high)
            )
    return tuple((note, min(max(round(seconds, 1), low), high)) for note, seconds in held)
