"""What is said of an attempt, to the client and to the clinician."""

import dataclasses

import numpy as np
import pytest

from core.kinds.finding import Finding
from core.kinds.registry import findings
from core.reason import told
from core.sound.figures import (
    Break,
    Contour,
    Figures,
    Glide,
    Quality,
    Tremor,
    Verdict,
)
from web.measuring.ends import Permit
from web.measuring.words import attempt_words, client_words, clinician_words

STILL = Figures(
    task="hold",
    target=None,
    quality=Quality(Verdict.GOOD),
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
    assert said() == "7.0 s. That is this week's hold. Steady."
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
    assert words.startswith("7.0 s. That is this week's hold. A little below the note.")
    assert words.endswith("The voice cut out a few times.")


def test_what_could_not_be_measured_gives_no_number():
    lost = Quality(Verdict.NOT_MEASURABLE, (told("noisy", "It was loud."),))
    words = said(hold_s=None, quality=lost)
    assert words.startswith("This could not be measured. There is a lot of noise in the room:")
    for_clinician = said(CLINICIAN, hold_s=None, quality=lost)
    assert for_clinician == "This could not be measured. It was loud."
    assert said(hold_s=0.0, quality=Quality(Verdict.USABLE)).startswith("Nothing was measured.")
    assert attempt_words(None, CLIENT) == "Kept, timed by the stopwatch."


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
        (Finding("faded", {"trail_off_db": -7.26}), "-7.3 dB"),
        (Finding("other_octave", {"octaves": -1}), "-1 octave"),
        (Finding("off_note", {"cents": 71.8}), "+72 cents"),
    ],
)
def test_the_numbers_behind_a_finding_reach_the_clinician(finding, words):
    assert words in clinician_words("hold", finding)
