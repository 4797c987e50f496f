"""Phrases near a note: each phrase's commonest pitch against the tone it is to come home to."""

import pytest

from core.errors import SoundError
from core.kinds.in_session import TriedAttempt
from core.kinds.live import measure_sound
from core.kinds.near.aim import NearTarget
from core.kinds.registry import findings, kind_of, target_of
from core.notes.note import Note
from core.sound.reading import Sound
from lab.simulate.tasks import speak

D4 = Note.named("D4")


def spoken(*offs, phrases=5, movement=0.0, pause_s=0.6):
    """Figures of phrases so many semitones from D4, one run of five each."""
    found = []
    for place, off in enumerate(offs):
        played = speak(
            phrases=phrases,
            pause_s=pause_s,
            base_hz=D4.hz() * 2 ** (off / 12),
            movement=movement,
            seed=place,
        )
        sound = Sound(played.samples, played.rate_hz)
        found.append(measure_sound(sound, "near", target=NearTarget(D4, 5)))
    return found


@pytest.mark.parametrize(("off", "near"), [(0.0, 5), (0.7, 5), (1.5, 0), (-4.0, 0)])
def test_a_phrase_is_near_within_a_semitone(off, near):
    (figures,) = spoken(off)
    assert len(figures.own.phrases) == 5
    assert figures.own.near_count == near
    for phrase in figures.own.phrases:
        assert phrase.off_semitones == pytest.approx(off, abs=0.2)


def test_it_may_move_and_come_home():
    (figures,) = spoken(0.0, movement=0.25)
    assert figures.own.near_count >= 4


def test_what_is_said_of_it():
    low, home, few = (*spoken(-4.0, 0.0), *spoken(0.0, phrases=3))
    (off,) = findings(low)
    assert (off.code, off.values["near"], off.values["count"]) == ("off_target", 0, 5)
    assert off.values["semitones"] == pytest.approx(-4, abs=0.2)
    assert [one.code for one in findings(home)] == ["near_target"]
    assert [one.code for one in findings(few)] == ["few_phrases", "near_target"]


def test_of_a_home_session_every_phrase_counts_and_one_left_out_is_not_near():
    # five near, five a third too high, three near of five asked for: 8 of 15
    attempts = [*spoken(0.0, 3.0), *spoken(0.0, phrases=3)]
    tries = [
        TriedAttempt(place=place, seconds=figures.hold_s, target_s=25, figures=figures)
        for place, figures in enumerate(attempts)
    ]
    found = {one.code: one for one in kind_of("near").in_session(tries)}
    assert found["near"].value == pytest.approx(100 * 8 / 15)
    by_clock = [TriedAttempt(place=0, seconds=20, target_s=25)]
    (unheard,) = [one for one in kind_of("near").in_session(by_clock) if one.code == "near"]
    assert (unheard.value, unheard.why.code) == (None, "by_the_clock")


def test_silence_is_no_phrase_and_says_so():
    nothing = measure_sound(Sound(speak(phrases=1).samples[:8000] * 0, 16_000), "near")
    assert nothing.own is None
    assert findings(nothing) == []


@pytest.mark.parametrize(
    "text", ["", "D4", "D4, 0 phrases", "D4, 500 phrases", "H9, 5 phrases", "5 phrases"]
)
def test_an_aim_that_is_none_is_refused(text):
    if not text:
        assert target_of("near", text) is None
        return
    with pytest.raises((SoundError, ValueError)):
        target_of("near", text)


def test_an_aim_is_read_back():
    assert target_of("near", "B♭3, 5 phrases").name == "B♭3, 5 phrases"
