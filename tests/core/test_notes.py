import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from core.errors import NoteError, PlanError, SoundError
from core.notes.note import Note, cents_from, nearest_note, semitones_between
from core.notes.range import ComfortableRange, VoiceGroup

LOWEST, HIGHEST = 35, 83
notes = st.integers(LOWEST, HIGHEST).map(Note)


@pytest.mark.parametrize("number", range(LOWEST, HIGHEST + 1))
def test_every_name_reads_back_as_the_same_note(number):
    assert Note.named(Note(number).name).number == number


@pytest.mark.parametrize(
    ("name", "number"),
    [("C4", 60), ("Bb3", 58), ("B♭3", 58), ("c#4", 61), ("C♯4", 61), ("A4", 69), (" F2 ", 41)],
)
def test_both_spellings_are_read(name, number):
    assert Note.named(name).number == number


@pytest.mark.parametrize("name", ["H4", "", "C", "C4 D4", "4C", "Cb#3", "C44"])
def test_what_is_no_note_is_refused(name):
    with pytest.raises(NoteError) as refused:
        Note.named(name)
    assert refused.value.code == "note_unknown"


@pytest.mark.parametrize("name", ["B♭1", "A1", "C♯7", "G9", "C-1"])
def test_notes_outside_b1_to_c7_are_refused(name):
    with pytest.raises(NoteError) as refused:
        Note.named(name)
    assert refused.value.code == "note_out_of_limits"


def test_notes_above_1000_hz_are_known_and_not_measured():
    assert not Note.named("C6").measurable
    assert Note.named("B5").measurable


def test_concert_pitch_moves_every_note():
    assert Note.named("A4").hz() == 440
    assert Note.named("A3").hz(442) == 221
    assert Note.named("C4").hz() == pytest.approx(261.626, abs=0.001)


@given(notes, st.floats(415, 466))
def test_the_nearest_note_to_a_note_is_itself(note, a4_hz):
    hz = note.hz(a4_hz)
    if 60 <= hz <= 1000:
        found, cents = nearest_note(hz, a4_hz)
        assert found == note
        assert abs(cents) < 1e-6


@given(st.floats(60, 1000), st.floats(60, 1000))
def test_swapping_pitches_flips_the_sign(a, b):
    assert semitones_between(a, b) == pytest.approx(-semitones_between(b, a))


def test_sharp_is_positive_and_unvoiced_stays_unvoiced():
    cents = cents_from(np.array([440 * 2 ** (1 / 12), np.nan, 220.0]), 440.0)
    assert cents[0] == pytest.approx(100)
    assert math.isnan(cents[1])
    assert cents[2] == pytest.approx(-1200)
    with pytest.raises(SoundError):
        cents_from(np.array([0.0]), 440.0)


def test_voice_groups_decide_the_octave():
    assert VoiceGroup.MEN.middle_c.name == "C3"
    assert VoiceGroup.WOMEN.middle_c.name == VoiceGroup.CHILDREN.middle_c.name == "C4"


def test_a_range_upside_down_is_refused():
    with pytest.raises(PlanError) as refused:
        ComfortableRange(lowest=Note.named("G4"), highest=Note.named("G3"))
    assert refused.value.code == "range_upside_down"
    with pytest.raises(PlanError):
        ComfortableRange(lowest=Note(60), highest=Note(72), speaking=Note(59))


def test_a_note_outside_says_why():
    comfort = ComfortableRange(lowest=Note.named("G3"), highest=Note.named("D4"))
    above, below = comfort.why_outside(Note(64)), comfort.why_outside(Note(50))
    # E4 over D4, D3 under G3
    assert (above.code, above.params["over"]) == ("above_comfort", 2)
    assert (below.code, below.params["under"]) == ("below_comfort", 5)
    assert str(above) == "E4 is 2 semitones above the highest comfortable note D4"
    assert comfort.why_outside(Note.named("A3")) is None
