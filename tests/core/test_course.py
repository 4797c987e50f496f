"""Where a figure leads from home session to home session."""

from datetime import date, timedelta

import pytest

from core.grading.change import SessionBest
from core.grading.course import Point, course_between, course_of, trend_of
from core.grading.rule import named_figures
from core.kinds.registry import kinds
from lab.bench.changes import DEVICE_CHANGED, TRUTHS, first_told, history
from tests.core import histories
from tests.core.histories import TODAY, ago, done, held, sitting, the_cook

START = date(2026, 6, 1)


def bests(*values, every=1):
    return [
        SessionBest(day=START + timedelta(days=every * n), value=value, rung=0)
        for n, value in enumerate(values)
    ]


def test_a_straight_rise_is_its_slope_a_week():
    # 0.1 s a day are 0.7 s a week
    trend = trend_of(bests(*(5 + 0.1 * n for n in range(14))))
    assert trend.slope == pytest.approx(0.7)
    assert (trend.low, trend.high) == (pytest.approx(0.7), pytest.approx(0.7))
    assert trend.real is True
    assert trend_of(bests(*(5 - 0.1 * n for n in range(14)))).slope == pytest.approx(-0.7)


def test_one_bad_day_bends_no_robust_line_and_is_shown():
    values = [5.0, 5.2, 5.1, 5.0, 5.2, 5.1, 5.0, 5.2, 5.1, 5.0]
    bad = [*values[:5], 1.0, *values[6:]]
    trend = trend_of(bests(*bad))
    assert abs(trend.slope) < 0.3
    assert trend.real is False
    assert trend.outliers == (5,)
    assert trend_of(bests(*values)).outliers == ()


@pytest.mark.parametrize(("count", "missing"), [(0, 8), (1, 7), (7, 1)])
def test_too_few_say_how_many_are_missing(count, missing):
    trend = trend_of(bests(*[5.0] * count))
    assert (trend.slope, trend.real, trend.missing) == (None, None, missing)


def test_where_nothing_moves_nothing_is_told():
    for values in ([100.0] * 12, [100.0] * 11 + [90.0]):
        trend = trend_of(bests(*values))
        assert (trend.slope, trend.real) == (0.0, False)
    # several of the same day and value
    same = [SessionBest(day=START + timedelta(days=n // 4), value=80.0, rung=0) for n in range(12)]
    assert trend_of(same).real is False


def test_on_one_day_alone_there_is_no_trend():
    assert trend_of(bests(*range(9), every=0)).real is None


def test_the_course_of_a_step_is_its_best_over_every_rung():
    program, power = the_cook()
    low = done(power, [{**held(), "best_s": 6.6}, {**held(), "best_s": 6.9}], rung=0)
    high = done(power, [{**held(), "best_s": 7.4}])
    sittings = [
        sitting(program, ago(3), low),
        sitting(program, ago(2), high),
        sitting(program, ago(1), high, short=True),
        sitting(program, TODAY, done(power, [{"share": 90.0, "best_s": None}])),
    ]
    course = course_of(power, histories.history(program, sittings), until=TODAY)
    assert course.code == "best_s"
    assert [(one.value, one.rung) for one in course.bests] == [(6.9, 0), (7.4, 1)]
    assert (course.real, course.missing) == (None, 6)


def test_every_kind_has_a_figure_that_is_kept_and_followed():
    for kind in kinds().values():
        assert kind.course in named_figures(), kind.name


def test_hardly_a_flat_course_is_told_a_change():
    """At most one in twenty is allowed; `./reed bench changes` counts a thousand of each."""
    (flat,) = [known for known in TRUTHS if known.name == "flat"]
    told = [seed for seed in range(60) if first_told(history(flat, 0.7, seed)) is not None]
    assert len(told) <= 3


def test_a_rise_of_a_fifth_of_a_second_a_week_is_told():
    (one,) = [known for known in TRUTHS if known.name == "+0.2 s a week"]
    assert all(first_told(history(one, 0.3, seed)) for seed in range(20))


def levels(*heard):
    """Levels over the reference of a device, dB: value and device of each session, a day each."""
    return [
        Point(START + timedelta(days=n), value, 0, device)
        for n, (value, device) in enumerate(heard)
    ]


def test_levels_are_followed_only_as_long_as_they_were_heard_with_one_device():
    """Six sessions on one device, then six on another whose reference was taken on a loud day: 3 dB
    less on it is no change of the voice. Seconds do not depend on the device."""
    before, after = [(5.0, "a"), (5.2, "a")] * 3, [(2.0, "b"), (2.2, "b")] * 3
    heard = levels(*before, *after)
    level = course_between("over_db", heard)
    assert (len(level.bests), level.real) == (6, None)
    seconds = course_between("best_s", heard)
    assert (len(seconds.bests), seconds.real) == (12, True)


def test_a_new_device_is_hardly_told_a_change_of_level():
    (flat, *_rest) = DEVICE_CHANGED
    told = [
        seed
        for seed in range(60)
        if first_told(history(flat, 0.7, seed), code="over_db") is not None
    ]
    assert len(told) <= 3
