"""A single line of tones and rests, as every music file here holds it."""

from collections.abc import Iterator
from dataclasses import dataclass

from core.notes.note import Note
from core.reason import Reason, says

MOST_TONES = 600
MOST_BYTES = 500_000
TICKS = 480
"""Parts of a beat in which lengths are told."""

NOT_MUSIC = says("music_unreadable", "this is no {kind} file that can be read")
TOO_LARGE = says(
    "music_too_large", "the file is too large: at most {kilobytes} kB and {tones} notes"
)
CHORD = says("music_chord", "several notes sound at once (beat {beat:g}): one line is needed")
NOTHING = says("music_nothing", "there are no notes in it")
OUT_OF_RANGE = says("music_out_of_range", "note number {number} lies outside B1–C7")


class MusicRefused(ValueError):
    """A file that is not taken, with the reason."""

    def __init__(self, why: Reason) -> None:
        self.why = why
        super().__init__(str(why))


@dataclass(frozen=True, slots=True)
class Tone:
    """A note for some beats; note None = a rest."""

    note: Note | None
    beats: float


@dataclass(frozen=True, slots=True, kw_only=True)
class MusicLine:
    """Tones one after the other at a tempo (beats/min). groups: where a new group begins, by the number of its
    first tone; for the reader of notes a bar each."""

    name: str
    tempo_bpm: float
    tones: tuple[Tone, ...]
    groups: tuple[int, ...] = (0,)

    def by_group(self) -> Iterator[tuple[Tone, ...]]:
        """The tones of each group."""
        ends = (*self.groups[1:], len(self.tones))
        for first, last in zip(self.groups, ends, strict=True):
            yield self.tones[first:last]


def checked_line(line: MusicLine) -> MusicLine:
    """Join rests and remove those at the ends. Raises MusicRefused for a line without a note."""
    tones: list[Tone] = []
    for tone in line.tones:
        if tone.note is None and (not tones or tones[-1].note is None):
            if tones:
                tones[-1] = Tone(None, tones[-1].beats + tone.beats)
            continue
        tones.append(tone)
    while tones and tones[-1].note is None:
        tones.pop()
    if not tones:
        raise MusicRefused(NOTHING())
    if len(tones) > MOST_TONES:
        raise MusicRefused(TOO_LARGE(kilobytes=MOST_BYTES // 1000, tones=MOST_TONES))
    return MusicLine(name=line.name, tempo_bpm=line.tempo_bpm, tones=tuple(tones))


def note_numbered(number: int) -> Note:
    """A note by its MIDI number; MusicRefused outside the product's notes."""
    try:
        return Note.checked(number)
    except ValueError as error:
        raise MusicRefused(OUT_OF_RANGE(number=number)) from error
