"""Soft, louder, soft on one note: what grows and fades, and what only fades."""

import pytest

from core.notes.note import Note
from lab.simulate.voice import Voice, sing
from tests.factories.measured_tasks import codes, measured


def test_a_note_that_grows_and_fades_is_a_swell():
    found = measured(sing(Voice(f0_hz=220.0, seconds=6.0, swell_db=8.0)), "swell", Note.named("A3"))
    assert found.hold_s == pytest.approx(6.0, abs=0.05)
    assert found.own.rise_db == pytest.approx(8.0, abs=1.0)
    assert found.own.fall_db == pytest.approx(8.0, abs=1.0)
    assert found.own.peak_at == pytest.approx(0.5, abs=0.1)
    assert codes(found) == ["swell"]


def test_a_note_that_only_fades_is_no_swell():
    fading = measured(sing(Voice(f0_hz=220.0, seconds=5.0, trail_off_db=-9.0)), "swell")
    assert codes(fading) == ["no_swell"]
    assert "faded" not in codes(fading)
    even = measured(sing(Voice(f0_hz=220.0, seconds=5.0)), "swell")
    assert codes(even) == ["no_swell"]


def test_a_swell_that_breaks_says_so_first():
    voice = Voice(f0_hz=220.0, seconds=6.0, swell_db=8.0, gaps=((4.0, 0.2),))
    assert codes(measured(sing(voice), "swell"))[:2] == ["gaps", "swell"]


def test_a_swell_too_short_to_tell_says_nothing_of_its_size():
    short = measured(sing(Voice(f0_hz=220.0, seconds=0.6, swell_db=8.0)), "swell")
    assert short.own is None
    assert "no_swell" not in codes(short)
