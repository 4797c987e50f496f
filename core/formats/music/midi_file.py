"""A line as a standard MIDI file, out and in."""

import io
from collections.abc import Iterable

import mido

from core.formats.music.line import (
    CHORD,
    MOST_BYTES,
    MOST_TONES,
    NOT_MUSIC,
    TICKS,
    TOO_LARGE,
    MusicLine,
    MusicRefused,
    Tone,
    checked_line,
    note_numbered,
)

TYPE = "audio/midi"
_VELOCITY = 64
_TEMPO_BPM = 120.0
"""Of a file that names none (the standard's own)."""
_SLIP = 1 / 16
"""Beats by which a played note may hang over into the next without being a chord."""


def to_midi(line: MusicLine) -> bytes:
    """The line as one track, a note at a medium velocity, the tempo at its start."""
    track = mido.MidiTrack()
    track.append(mido.MetaMessage("track_name", name=_latin(line.name), time=0))
    track.append(mido.MetaMessage("set_tempo", tempo=mido.bpm2tempo(line.tempo_bpm), time=0))
    waited = 0
    for tone in line.tones:
        ticks = round(tone.beats * TICKS)
        if tone.note is None:
            waited += ticks
            continue
        number = tone.note.number
        track.append(mido.Message("note_on", note=number, velocity=_VELOCITY, time=waited))
        track.append(mido.Message("note_off", note=number, velocity=0, time=ticks))
        waited = 0
    track.append(mido.MetaMessage("end_of_track", time=waited))
    out = io.BytesIO()
    mido.MidiFile(type=0, ticks_per_beat=TICKS, tracks=[track]).save(file=out)
    return out.getvalue()


def from_midi(data: bytes) -> MusicLine:
    """The one line of a file, whichever tracks it lies in; MusicRefused for chords, other files, broken ones."""
    if len(data) > MOST_BYTES:
        raise MusicRefused(TOO_LARGE(kilobytes=MOST_BYTES // 1000, tones=MOST_TONES))
    try:
        file = mido.MidiFile(file=io.BytesIO(data))
        if file.type == 2 or not file.ticks_per_beat or file.ticks_per_beat < 1:
            raise MusicRefused(NOT_MUSIC(kind="MIDI"))
        messages = list(mido.merge_tracks(file.tracks))
    except (OSError, EOFError, ValueError, LookupError, TypeError, mido.KeySignatureError) as error:
        raise MusicRefused(NOT_MUSIC(kind="MIDI")) from error
    return checked_line(_line(messages, file.ticks_per_beat))


def _line(messages: Iterable[mido.Message], ticks_per_beat: int) -> MusicLine:
    at, tempo, name = 0, 0.0, ""
    sounding: int | None = None
    began, ended = 0, 0
    tones: list[Tone] = []
    for message in messages:
        at += message.time
        if message.type == "set_tempo" and not tempo and message.tempo:
            tempo = float(mido.tempo2bpm(message.tempo))
        elif message.type == "track_name" and not name:
            name = str(message.name)[:60]
        elif message.type not in ("note_on", "note_off"):
            continue
        elif message.type == "note_on" and message.velocity:
            if sounding is not None:
                if (at - began) < ticks_per_beat * _SLIP or sounding == message.note:
                    raise MusicRefused(CHORD(beat=began / ticks_per_beat))
                _add(tones, sounding, (ended, began, at), ticks_per_beat)
                ended = at
            sounding, began = message.note, at
            if len(tones) > 2 * MOST_TONES:
                raise MusicRefused(TOO_LARGE(kilobytes=MOST_BYTES // 1000, tones=MOST_TONES))
        elif sounding == message.note:
            _add(tones, message.note, (ended, began, at), ticks_per_beat)
            sounding, ended = None, at
        elif (at - began) > ticks_per_beat * _SLIP and sounding is not None:
            # the note before ends long after this one began: they sound together
            raise MusicRefused(CHORD(beat=began / ticks_per_beat))
    return MusicLine(name=name, tempo_bpm=tempo or _TEMPO_BPM, tones=tuple(tones))


def _add(tones: list[Tone], number: int, times: tuple[int, int, int], ticks_per_beat: int) -> None:
    """A note from when it began, and the rest since the one before ended."""
    ended, began, at = times
    if began > ended:
        tones.append(Tone(None, (began - ended) / ticks_per_beat))
    tones.append(Tone(note_numbered(number), (at - began) / ticks_per_beat))


def _latin(text: str) -> str:
    """Names in a MIDI file are Latin-1."""
    plain = text.replace("♭", "b").replace("♯", "#").replace("–", "-")
    return plain.encode("latin-1", "replace").decode("latin-1")
