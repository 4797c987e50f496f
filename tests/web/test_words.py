"""What is said of an attempt, to the client and to the clinician."""

import dataclasses

import numpy as np
import pytest

from core.kinds.finding import Finding
from core.kinds.registry import findings
from core.reason import table_reason
from core.sound.figures import (
    Break,
    Contour,
    Figures,
    Glide,
    Quality,
    QualityVerdict,
    Tremor,
)
from web.measuring.sinks import Permit
from web.measuring.words import attempt_words, client_words, clinician_words

STILL = Figures(
    task="hold",
    target=None,
    quality=Quality(QualityVerdict.GOOD),
    contour=Contour(f0_hz=np.zeros(0), level_db=np.zeros(0)),
    hold_s=7.04,
    f0_median_hz=233.0,
    f0_sd_semitones=0.2,
    pitch_error_cents=4.0,
    trail_off_db=-1.0,
)
CLIENT = Permit(task="hold", target=None, a4_hz=440.0, target_s=6.5)
CLINICIAN = dataclasses.replace(CLIENT, for_client=False)


def said(permit=CLIENT, **changes):
    return attempt_words(dataclasses.replace(STILL, **changes), permit)


def test_a_good_hold_is_said_kindly_and_shortly():
    assert said() == "7.0 s. Target reached. Steady."
    assert said(hold_s=5.0) == "5.0 s. Steady."


def test_the_clinician_reads_numbers():
    assert said(CLINICIAN) == "7.04 s, 233.0 Hz, +4 cents, pitch SD 0.20 semitones."


def test_a_client_hears_at_most_two_things():
    words = said(
        pitch_error_cents=-80.0,
        breaks=(Break(1.0, 1.1, "gap"), Break(2.0, 2.1, "gap")),
        trail_off_db=-9.0,
        onset="hard",
    )
    assert words.startswith("7.0 s. Target reached. A half step below the note.")
    assert words.endswith("The voice cut out a few times.")


def test_what_could_not_be_measured_gives_no_number():
    lost = Quality(QualityVerdict.NOT_MEASURABLE, (table_reason("noisy", "It was loud."),))
    words = said(hold_s=None, quality=lost)
    assert words.startswith("This could not be measured. There is a lot of noise in the room:")
    for_clinician = said(CLINICIAN, hold_s=None, quality=lost)
    assert for_clinician == "This could not be measured. It was loud."
    assert said(hold_s=0.0, quality=Quality(QualityVerdict.USABLE)).startswith(
        "Nothing was measured."
    )
    assert attempt_words(None, CLIENT) == "Saved. (Time only: the microphone was off.)"


@pytest.mark.parametrize(
    ("cents", "words"),
    [
        (60.0, "A little above the note."),
        (-60.0, "A little below the note."),
        (-80.0, "A half step below the note. Listen to the tone again."),
        (149.0, "A half step above the note. Listen to the tone again."),
        (200.0, "Well above the note. Listen to the tone again."),
        (-200.0, "Well below the note. Listen to the tone again."),
    ],
)
def test_how_far_from_the_note_is_said_as_far_as_it_was(cents, words):
    assert words in said(pitch_error_cents=cents)


def test_a_try_that_broke_off_is_not_praised():
    assert said(hold_s=1.5) == "1.5 s. Take a breath and try again: aim for 6.5 s."


def test_a_slide_is_not_praised_before_both_ends():
    asked = dataclasses.replace(CLIENT, task="glide", target_s=3.0, slides=(57, 69))
    short = Glide(220.0, 300.0, 5.4, "up", 0.3)
    words = said(asked, task="glide", hold_s=3.0, glide=short, pitch_error_cents=None)
    assert words == "3.0 s. Your voice moved, but not yet to both ends. Slide a little further."
    whole = Glide(220.0, 440.0, 12.0, "up", 0.3)
    words = said(asked, task="glide", hold_s=3.0, glide=whole, pitch_error_cents=None)
    assert "ends" not in words
    # A=415: the same notes lie a semitone lower.
    low = dataclasses.replace(asked, a4_hz=415.3)
    sung = Glide(207.7, 415.3, 12.0, "up", 0.3)
    assert "ends" not in said(low, task="glide", hold_s=3.0, glide=sung, pitch_error_cents=None)


EVERYTHING = [
    {"pitch_error_cents": 80.0},
    {"pitch_error_cents": -1210.0},
    {"breaks": (Break(1.0, 1.2, "gap"),)},
    {"breaks": (Break(1.0, 1.0, "jump"),)},
    {"trail_off_db": -9.0},
    {"f0_sd_semitones": 1.4},
    {"tremor": Tremor(5.2, 80.0)},
    {"onset": "hard"},
    {"onset": "breathy"},
    {"glide": Glide(200.0, 400.0, 12.0, "up", 0.3)},
]


@pytest.mark.parametrize("changes", EVERYTHING, ids=lambda c: next(iter(c)))
def test_every_finding_has_words_for_both(changes):
    task = "glide" if "glide" in changes else "hold"
    for finding in findings(dataclasses.replace(STILL, task=task, **changes)):
        assert client_words(task, finding).endswith(".")
        assert "%" not in clinician_words(task, finding)


@pytest.mark.parametrize(
    ("finding", "words"),
    [
        (Finding("tremor", {"rate_hz": 5.24, "extent_cents": 81.2}), "5.2 Hz, 81 cents"),
        (Finding("gaps", {"count": 2, "longest_s": 0.137}), "the longest 0.14 s"),
        (Finding("faded", {"trail_off_db": -7.26}), "−7.3 dB"),
        (Finding("other_octave", {"octaves": -1}), "−1 octave"),
        (Finding("off_note", {"cents": 71.8}), "+72 cents"),
    ],
)
def test_the_numbers_behind_a_finding_reach_the_clinician(finding, words):
    assert words in clinician_words("hold", finding)
