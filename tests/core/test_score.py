"""The benchmark's own arithmetic: it must not flatter."""

import dataclasses

import numpy as np
import pytest

from core.kinds.live import measure_sound
from core.sound.figures import Break
from core.sound.reading import Sound
from lab.bench.score import frame_errors, score
from lab.simulate.voice import Voice, sing


def truth():
    hz = np.full(200, np.nan)
    hz[50:150] = 200.0
    return hz


def test_a_perfect_contour_has_no_errors():
    cents, gross, voicing, judged = frame_errors(truth(), truth())
    assert not cents.any()
    assert (gross, voicing) == (0, 0)
    assert judged == 200 - 2 * 12


def test_an_octave_is_gross_and_ten_cents_are_ten_cents():
    found = truth() * 2 ** (10 / 1200)
    found[100] *= 2
    cents, gross, _, _ = frame_errors(truth(), found)
    assert gross == 1
    assert cents == pytest.approx(np.full(len(cents), 10.0))


def test_voice_missed_and_voice_made_up_both_count_but_not_at_the_edges():
    found = truth()
    found[80:84] = np.nan
    found[10:13] = 150.0
    found[48:52] = np.nan
    _, _, voicing, _ = frame_errors(truth(), found)
    assert voicing == 4 + 3


def test_contours_of_unlike_length_are_compared_where_both_are():
    assert frame_errors(truth(), truth()[:120])[3] < 120


@pytest.fixture(scope="module")
def measured():
    sung = sing(Voice(f0_hz=220.0, seconds=3.0, gaps=((1.4, 0.12),), trail_off_db=-6.0))
    return sung, measure_sound(Sound(sung.samples, 16_000), "hold")


def test_a_hold_is_scored_against_its_truth(measured):
    sung, found = measured
    result = score(sung, found)
    assert result.hold_s == pytest.approx(found.hold_s - sung.hold_s)
    assert (result.breaks_found, result.breaks_true, result.breaks_false) == (1, 1, 0)
    assert abs(result.slope_db_per_s) < 0.15


def test_a_break_elsewhere_is_one_missed_and_one_made_up(measured):
    sung, found = measured
    moved = dataclasses.replace(found, breaks=(Break(1.0, 1.1, "gap"),))
    result = score(sung, moved)
    assert (result.breaks_found, result.breaks_true, result.breaks_false) == (0, 1, 1)


@pytest.mark.parametrize("hold_s", [None, 0.0])
def test_no_hold_is_no_error_of_zero(measured, hold_s):
    sung, found = measured
    assert score(sung, dataclasses.replace(found, hold_s=hold_s)).hold_s is None
