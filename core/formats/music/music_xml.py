"""A line as MusicXML 4 (score-partwise), out and in; in also as a compressed score."""

import io
import zipfile
from collections.abc import Iterator
from xml.etree import ElementTree as Xml

from defusedxml.ElementTree import fromstring

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
from core.formats.packed import DAMAGED, TooLarge, member_of
from core.notes.note import Note

TYPE = "application/vnd.recordare.musicxml+xml"
_HEAD = (
    '<?xml version="1.0" encoding="UTF-8" standalone="no"?>\n'
    '<!DOCTYPE score-partwise PUBLIC "-//Recordare//DTD MusicXML 4.0 Partwise//EN" '
    '"http://www.musicxml.org/dtds/partwise.dtd">\n'
)
_TYPES = ((4.0, "whole"), (2.0, "half"), (1.0, "quarter"), (0.5, "eighth"), (0.25, "16th"))
_STEPS = {"C": 0, "D": 2, "E": 4, "F": 5, "G": 7, "A": 9, "B": 11}
_TEMPO_BPM = 120.0
_MOST_UNPACKED = 4_000_000
_NO_XML = (Xml.ParseError, ValueError, LookupError)
"""What is raised for no XML, for entities that unfold (defusedxml), for letters of an unknown kind, and for a part that
is missing."""


def to_music_xml(line: MusicLine) -> bytes:
    """The line as a part of one voice, a bar for each group, the tempo at its start."""
    root = Xml.Element("score-partwise", version="4.0")
    _text(Xml.SubElement(root, "work"), "work-title", line.name)
    part_list = Xml.SubElement(root, "part-list")
    _text(Xml.SubElement(part_list, "score-part", id="P1"), "part-name", "Voice")
    part = Xml.SubElement(root, "part", id="P1")
    for number, tones in enumerate(line.by_group(), start=1):
        bar = Xml.SubElement(part, "measure", number=str(number))
        attributes = Xml.SubElement(bar, "attributes")
        if number == 1:
            _text(attributes, "divisions", str(TICKS))
        _time(attributes, sum(tone.beats for tone in tones))
        if number == 1:
            clef = Xml.SubElement(attributes, "clef")
            low = min(tone.note for tone in line.tones if tone.note is not None)
            _text(clef, "sign", "F" if low.number < 53 else "G")
            _text(clef, "line", "4" if low.number < 53 else "2")
            _tempo(bar, line.tempo_bpm)
        for tone in tones:
            _note(bar, tone)
    return (_HEAD + Xml.tostring(root, encoding="unicode")).encode()


def _time(attributes: Xml.Element, beats: float) -> None:
    quarters = beats == int(beats)
    time = Xml.SubElement(attributes, "time")
    _text(time, "beats", str(max(int(beats if quarters else -(-beats * 2 // 1)), 1)))
    _text(time, "beat-type", "4" if quarters else "8")


def _tempo(bar: Xml.Element, tempo_bpm: float) -> None:
    direction = Xml.SubElement(bar, "direction", placement="above")
    metronome = Xml.SubElement(Xml.SubElement(direction, "direction-type"), "metronome")
    _text(metronome, "beat-unit", "quarter")
    _text(metronome, "per-minute", f"{tempo_bpm:g}")
    Xml.SubElement(direction, "sound", tempo=f"{tempo_bpm:g}")


def _note(bar: Xml.Element, tone: Tone) -> None:
    """A tone as notes of usual lengths that are tied; what is of no usual length as one without a name."""
    lengths = list(_usual(tone.beats))
    for place, (beats, name) in enumerate(lengths):
        note = Xml.SubElement(bar, "note")
        if tone.note is None:
            Xml.SubElement(note, "rest")
        else:
            _pitch(note, tone.note)
        _text(note, "duration", str(round(beats * TICKS)))
        ties = [("stop", place > 0), ("start", place + 1 < len(lengths))] if tone.note else []
        for kind, wanted in ties:
            if wanted:
                Xml.SubElement(note, "tie", type=kind)
        _text(note, "voice", "1")
        if name:
            _text(note, "type", name)
        if any(wanted for _kind, wanted in ties):
            notations = Xml.SubElement(note, "notations")
            for kind, wanted in ties:
                if wanted:
                    Xml.SubElement(notations, "tied", type=kind)


def _usual(beats: float) -> Iterator[tuple[float, str]]:
    if round(beats * 4) != beats * 4 or beats <= 0:
        yield beats, ""
        return
    for length, name in _TYPES:
        while beats >= length:
            yield length, name
            beats -= length


def _pitch(note: Xml.Element, sung: Note) -> None:
    letter, sign, octave = sung.name[0], sung.name[1:-1], sung.name[-1]
    pitch = Xml.SubElement(note, "pitch")
    _text(pitch, "step", letter)
    if sign:
        _text(pitch, "alter", "1" if sign == "♯" else "-1")
    _text(pitch, "octave", octave)


def _text(parent: Xml.Element, name: str, text: str) -> None:
    Xml.SubElement(parent, name).text = text


def from_music_xml(data: bytes) -> MusicLine:
    """The one line of a score; MusicRefused for chords, several parts or voices with notes, broken files, and for
    what would unfold to more than it is."""
    if len(data) > MOST_BYTES:
        raise MusicRefused(TOO_LARGE(kilobytes=MOST_BYTES // 1000, tones=MOST_TONES))
    text = _unpacked(data) if data[:2] == b"PK" else data
    try:
        root = fromstring(text)
        if root.tag != "score-partwise":
            raise MusicRefused(NOT_MUSIC(kind="MusicXML"))
        return checked_line(_line(root))
    except (*_NO_XML, TypeError, AttributeError, RecursionError) as error:
        if isinstance(error, MusicRefused):
            raise
        raise MusicRefused(NOT_MUSIC(kind="MusicXML")) from error


def _unpacked(data: bytes) -> bytes:
    """The score inside a compressed file, found through its container; at most 4 MB."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            text = member_of(archive, "META-INF/container.xml", most=_MOST_UNPACKED)
            root = fromstring(text).find(".//{*}rootfile")
            return member_of(archive, root.attrib["full-path"], most=_MOST_UNPACKED)
    except TooLarge as error:
        raise MusicRefused(TOO_LARGE(kilobytes=MOST_BYTES // 1000, tones=MOST_TONES)) from error
    except (*DAMAGED, *_NO_XML, AttributeError) as error:
        raise MusicRefused(NOT_MUSIC(kind="MusicXML")) from error


def _line(root: Xml.Element) -> MusicLine:
    title = root.findtext("work/work-title") or root.findtext("movement-title") or ""
    sung = [part for part in root.findall("part") if part.find(".//pitch") is not None]
    if len(sung) > 1:
        raise MusicRefused(CHORD(beat=0.0))
    tones: list[Tone] = []
    tempo, divisions, tied, beat = 0.0, 1.0, False, 0.0
    for one in (element for part in sung for element in part.iter()):
        if one.tag == "divisions":
            divisions = float(one.text or "")
        elif one.tag == "sound" and "tempo" in one.attrib and not tempo:
            tempo = float(one.attrib["tempo"])
        elif one.tag == "per-minute" and not tempo:
            tempo = float(one.text or "")
        elif one.tag == "backup":
            raise MusicRefused(CHORD(beat=beat))
        elif one.tag == "note" and one.find("grace") is None and one.find("cue") is None:
            if one.find("chord") is not None:
                raise MusicRefused(CHORD(beat=beat))
            beats = float(one.findtext("duration") or "") / divisions
            if not 0 < beats < 10_000:
                raise ValueError(beats)
            note = None if one.find("rest") is not None else _sung(one)
            if tied and tones and tones[-1].note == note:
                tones[-1] = Tone(note, tones[-1].beats + beats)
            else:
                tones.append(Tone(note, beats))
            tied = any(tie.get("type") == "start" for tie in one.findall("tie"))
            beat += beats
    if tempo and not 5 <= tempo <= 1000:
        raise ValueError(tempo)
    return MusicLine(name=title[:60], tempo_bpm=tempo or _TEMPO_BPM, tones=tuple(tones))


def _sung(note: Xml.Element) -> Note:
    step, octave = note.findtext("pitch/step") or "", int(note.findtext("pitch/octave") or "")
    alter = float(note.findtext("pitch/alter") or 0)
    if alter != int(alter):
        raise ValueError(alter)
    return note_numbered(12 * (octave + 1) + _STEPS[step] + int(alter))
