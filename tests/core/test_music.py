"""Patterns and hold sets as MIDI and MusicXML: there and back, read by a second library, refused in words."""

import io
import zipfile
from dataclasses import replace

import mido
import music21
import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.formats.music.line import MusicLine, MusicRefused, Tone
from core.formats.music.midi_file import from_midi, to_midi
from core.formats.music.music_xml import from_music_xml, to_music_xml
from core.formats.music.sung import holds_in, line_of, pattern_in
from core.notes.note import Note
from core.program.targets import Pattern
from core.reason import says
from tests.core.fitted import proposed

WHY = says("test_music", "a test")()
WAYS = [(to_midi, from_midi), (to_music_xml, from_music_xml)]


@pytest.fixture(scope="module")
def holds():
    return proposed("sustained").program.routine("ladder").steps[3]


def pattern_step(holds, degrees, keys, tempo_bpm):
    target = Pattern(
        degrees=degrees, keys=tuple(map(Note.named, keys)), tempo_bpm=tempo_bpm, because=WHY
    )
    return replace(holds, kind="pattern", target=target, name="Five-note pattern", grade=None)


@pytest.mark.parametrize(("out", "back"), WAYS)
def test_a_hold_set_there_and_back(holds, out, back):
    read = holds_in(back(out(line_of(holds))))
    assert [(note.name, seconds) for note, seconds in read] == [
        ("B♭3", 6.5),
        ("C4", 6.5),
        ("D4", 6.5),
        ("E♭4", 6.5),
        ("F4", 6.5),
    ]


@pytest.mark.parametrize(("out", "back"), WAYS)
@given(
    degrees=st.lists(st.integers(1, 9), min_size=2, max_size=20),
    low=st.integers(36, 70),
    count=st.integers(1, 12),
    tempo=st.sampled_from([30, 60, 72.5, 95, 100, 133, 240]),
)
def test_a_pattern_there_and_back(holds, out, back, degrees, low, count, tempo):
    """Whatever its degrees, the same notes come back in the same keys at the same tempo; where it begins on its
    key note the degrees are the same too."""
    keys = tuple(Note(number) for number in range(low, low + count))
    target = Pattern(degrees=tuple(degrees), keys=keys, tempo_bpm=tempo, because=WHY)
    step = replace(holds, kind="pattern", target=target, grade=None)
    read = pattern_in(back(out(line_of(step))))
    again = Pattern(degrees=read.degrees, keys=read.keys, tempo_bpm=read.tempo_bpm, because=WHY)
    assert [again.in_key(key) for key in again.keys] == [target.in_key(key) for key in keys]
    assert read.tempo_bpm == tempo
    if degrees[0] == 1:
        assert (read.degrees, read.keys) == (tuple(degrees), keys)


@pytest.mark.parametrize(("out", "kind"), [(to_midi, "midi"), (to_music_xml, "musicxml")])
def test_a_second_library_hears_the_same(holds, out, kind):
    """1 2 3 2 1 from C4 and D♭4: named by hand, MIDI numbers 60 62 64 62 60 and a semitone higher."""
    step = pattern_step(holds, (1, 2, 3, 2, 1), ("C4", "C♯4"), 90)
    score = music21.converter.parse(out(line_of(step)), format=kind)
    notes = list(score.flatten().notes)
    assert [one.pitch.midi for one in notes] == [60, 62, 64, 62, 60, 61, 63, 65, 63, 61]
    assert [float(one.quarterLength) for one in notes] == [1.0] * 10
    assert [float(one.offset) for one in notes] == [0, 1, 2, 3, 4, 7, 8, 9, 10, 11]
    marks = score.flatten().getElementsByClass(music21.tempo.MetronomeMark)
    assert round(marks[0].number) == 90


def test_a_second_library_hears_long_holds(holds):
    score = music21.converter.parse(to_music_xml(line_of(holds)), format="musicxml")
    notes = list(score.stripTies().flatten().notes)
    assert [one.pitch.midi for one in notes] == [58, 60, 62, 63, 65]
    assert [float(one.quarterLength) for one in notes] == [6.5] * 5


def test_a_pattern_written_elsewhere_becomes_degrees():
    """A file another library made: G3 B3 D4 B3 G3, eighths at 60 beats a minute, is 1 3 5 3 1 at 120."""
    stream = music21.stream.Stream()
    stream.append(music21.tempo.MetronomeMark(number=60))
    for name in ("G3", "B3", "D4", "B3", "G3"):
        stream.append(music21.note.Note(name, quarterLength=0.5))
    text = music21.musicxml.m21ToXml.GeneralObjectExporter().parse(stream)
    read = pattern_in(from_music_xml(text))
    assert read.degrees == (1, 3, 5, 3, 1)
    assert [key.name for key in read.keys] == ["G3"]
    assert read.tempo_bpm == 120


def test_a_fall_from_the_fifth_has_its_key_at_the_end():
    line = MusicLine(
        name="", tempo_bpm=90, tones=tuple(Tone(Note(n), 1) for n in (67, 65, 64, 62, 60))
    )
    assert pattern_in(line).degrees == (5, 4, 3, 2, 1)


@pytest.mark.parametrize(
    ("numbers", "beats", "code"),
    [
        ((60, 61, 62), (1, 1, 1), "music_no_scale"),
        ((60, 62, 64), (1, 0.5, 1), "music_uneven"),
        ((60, 62, 64), (1, 1, 0.25), "music_uneven"),
        ((60,), (1,), "music_too_long"),
        (tuple([60, 62] * 11), (1,) * 22, "music_too_long"),
        ((60, 62), (8, 8), "music_tempo"),
    ],
)
def test_what_is_no_pattern_is_refused_in_words(numbers, beats, code):
    tones = tuple(Tone(Note(n), b) for n, b in zip(numbers, beats, strict=True))
    with pytest.raises(MusicRefused) as refused:
        pattern_in(MusicLine(name="", tempo_bpm=60, tones=tones))
    assert refused.value.why.code == code


def test_groups_that_are_not_the_same_pattern():
    tones = (
        *(Tone(Note(n), 1) for n in (60, 62, 64)),
        Tone(None, 2),
        *(Tone(Note(n), 1) for n in (61, 63, 66)),
    )
    with pytest.raises(MusicRefused) as refused:
        pattern_in(MusicLine(name="", tempo_bpm=90, tones=tones))
    assert refused.value.why.params == {"number": 2}


def midi(*messages, kind=0, tracks=None):
    file = mido.MidiFile(type=kind)
    for one in tracks or [messages]:
        track = mido.MidiTrack()
        track.extend(one)
        file.tracks.append(track)
    out = io.BytesIO()
    file.save(file=out)
    return out.getvalue()


def on(note, time=0):
    return mido.Message("note_on", note=note, velocity=64, time=time)


def off(note, time=0):
    return mido.Message("note_off", note=note, time=time)


@pytest.mark.parametrize(
    "data",
    [
        midi(on(60), on(64), off(60, 480), off(64)),
        midi(on(60), on(64, 240), off(60, 240), off(64, 240)),
        midi(kind=1, tracks=[[on(60), off(60, 480)], [on(67), off(67, 480)]]),
    ],
)
def test_chords_are_refused(data):
    with pytest.raises(MusicRefused) as refused:
        from_midi(data)
    assert refused.value.why.code == "music_chord"


def test_notes_that_hang_over_a_little_are_no_chord():
    """Played on a keyboard: each key is let go a moment after the next is down."""
    data = midi(on(60), on(62, 480), off(60, 10), on(64, 470), off(62, 10), off(64, 470))
    assert [tone.note.number for tone in from_midi(data).tones] == [60, 62, 64]


def test_two_hundred_bars_are_refused():
    messages = [m for _bar in range(200) for n in (60, 62, 64, 65) for m in (on(n), off(n, 480))]
    with pytest.raises(MusicRefused) as refused:
        pattern_in(from_midi(midi(*messages)))
    assert refused.value.why.code in ("music_too_large", "music_too_long")


@pytest.mark.parametrize(
    "data",
    [
        b"",
        b"MThd",
        b"RIFF\x00\x00\x00\x00",
        b"\x00" * 40,
        to_midi(MusicLine(name="x", tempo_bpm=60, tones=(Tone(Note(60), 1),)))[:-6],
        midi(),
        midi(on(3), off(3, 480)),
        b"x" * 500_001,
    ],
)
def test_what_is_no_midi_is_refused(data):
    with pytest.raises(MusicRefused):
        from_midi(data)


def score(inner):
    return (
        f'<score-partwise version="4.0"><part id="P1"><measure number="1"><attributes><divisions>1</divisions>'
        f"</attributes>{inner}</measure></part></score-partwise>"
    ).encode()


C4 = "<note><pitch><step>C</step><octave>4</octave></pitch><duration>1</duration></note>"


ENTITIES = '<!DOCTYPE x [<!ENTITY a "aaaa">]>' + score(C4).decode()


@pytest.mark.parametrize(
    ("data", "code"),
    [
        (b"", "music_unreadable"),
        (b"<html/>", "music_unreadable"),
        (b"<score-partwise>", "music_unreadable"),
        (score(""), "music_nothing"),
        (score(C4 + C4.replace("<note>", "<note><chord/>")), "music_chord"),
        (score(C4 + "<backup><duration>1</duration></backup>" + C4), "music_chord"),
        (score(C4.replace("<duration>1<", "<duration>nan<")), "music_unreadable"),
        (score(C4.replace("<duration>1<", "<duration>-1<")), "music_unreadable"),
        (score(C4.replace("<step>C<", "<step>H<")), "music_unreadable"),
        (score(C4.replace("<octave>4<", "<octave>9<")), "music_out_of_range"),
        (ENTITIES.encode(), "music_unreadable"),
        (b"PK\x03\x04broken", "music_unreadable"),
        (b'<?xml version="1.0" encoding="x-none"?>' + score(C4), "music_unreadable"),
        (ENTITIES.encode("utf-16"), "music_unreadable"),
    ],
)
def test_what_is_no_score_is_refused(data, code):
    with pytest.raises(MusicRefused) as refused:
        from_music_xml(data)
    assert refused.value.why.code == code


def packed(members):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in members.items():
            archive.writestr(name, data)
    return out.getvalue()


CONTAINER = b'<container><rootfiles><rootfile full-path="%s"/></rootfiles></container>'


def test_a_compressed_score_is_read():
    data = packed({"META-INF/container.xml": CONTAINER % b"a.xml", "a.xml": score(C4 + C4)})
    assert len(from_music_xml(data).tones) == 2


@pytest.mark.parametrize(
    "members",
    [
        {"META-INF/container.xml": CONTAINER % b"../../etc/passwd"},
        {"a.xml": score(C4)},
        {"META-INF/container.xml": CONTAINER % b"a.xml", "a.xml": b" " * 5_000_000},
    ],
)
def test_a_compressed_score_that_is_none_or_a_bomb(members):
    with pytest.raises(MusicRefused):
        from_music_xml(packed(members))


@given(data=st.binary(max_size=60), at=st.integers(0, 200))
def test_a_damaged_file_is_refused_or_read_but_never_an_error(holds, data, at):
    for out, back in WAYS:
        good = out(line_of(holds))
        damaged = good[: at % len(good)] + data + good[at % len(good) + len(data) :]
        try:
            back(damaged)
        except MusicRefused:
            continue
