"""Whether a change is more than the usual day-to-day spread: by hand, and on histories of known truth."""

import random
from datetime import date, timedelta

import pytest

from core.grading.change import SessionBest, shift_of, spread_of

MONDAY = date(2026, 6, 1)


def bests(*values, rungs=None):
    rungs = rungs or [0] * len(values)
    return [
        SessionBest(day=MONDAY + timedelta(days=n), value=value, rung=rung)
        for n, (value, rung) in enumerate(zip(values, rungs, strict=True))
    ]


def test_the_last_five_against_the_five_before():
    found = shift_of(bests(99, 8, 8, 9, 10, 10, 12, 12, 13, 14, 14))
    # the eleventh from the end does not count; medians 9 and 13
    assert (found.before, found.now, found.by) == (9, 13, 4)
    # each five around its own mean, both 9 and 13: squares 1+1+0+1+1 = 4 twice, 8 ÷ 8: SD 1; 2√2
    assert found.spread == pytest.approx(1.0)
    assert found.smallest == pytest.approx(2.828, abs=1e-3)
    assert found.real is True
    assert shift_of(bests(8, 8, 9, 10, 10, 10, 10, 11, 12, 12)).real is False


def test_a_climb_is_no_spread():
    """Five at 8 s and five at 10 s, each within a rung of its own: the spread is that within."""
    found = shift_of(
        bests(8.0, 8.2, 7.8, 8.0, 8.0, 10.0, 10.2, 9.8, 10.0, 10.0, rungs=[1] * 5 + [2] * 5)
    )
    # each five: squares 0.04 + 0.04 = 0.08; together 0.16 ÷ 8 = 0.02: SD 0.1414, smallest 0.4
    assert found.spread == pytest.approx(0.14142, abs=1e-4)
    assert found.smallest == pytest.approx(0.4, abs=1e-3)
    assert found.real is True
    assert found.by == pytest.approx(2.0)


def test_a_fall_is_a_change_too_and_just_the_smallest_is_none():
    down = bests(10, 10.2, 9.8, 10, 10, 8, 8.2, 7.8, 8, 8, rungs=[2] * 5 + [1] * 5)
    assert shift_of(down).real is True
    assert shift_of(down).by == pytest.approx(-2.0)
    same = shift_of(bests(*[7.0] * 10))
    assert (same.by, same.spread, same.real) == (0, 0, False)


@pytest.mark.parametrize("count", range(10))
def test_too_few_say_how_many_are_missing(count):
    found = shift_of(bests(*[7.0] * count))
    assert (found.missing, found.by, found.real) == (10 - count, None, None)


def test_without_three_at_one_rung_the_spread_is_not_known():
    found = shift_of(bests(*range(10), rungs=[0, 0, 1, 1, 2, 2, 3, 3, 4, 4]))
    assert (found.spread, found.real) == (None, None)
    assert found.by == 5
    assert spread_of(bests(1.0, 3.0, 5.0)) == 2.0
    assert spread_of(bests(1.0, 3.0)) is None


def test_the_order_of_arrival_does_not_matter():
    there = bests(8, 8, 9, 10, 10, 12, 12, 13, 14, 14)
    assert shift_of(there[::-1]) == shift_of(there)


def looked_at_weekly(rise_a_week, sd, seed, *, weeks=12, a_week=6):
    """Whether a change was ever called real in a history of known truth, looked at every week."""
    chance = random.Random(seed)
    history = [
        SessionBest(
            day=MONDAY + timedelta(days=7 * week + day),
            value=8 + rise_a_week * (week + day / 7) + chance.gauss(0, sd),
            rung=0,
        )
        for week in range(weeks)
        for day in range(a_week)
    ]
    looks = [shift_of(history[: a_week * (week + 1)]) for week in range(1, weeks)]
    return any(look.real for look in looks)


@pytest.mark.parametrize("sd", [0.2, 0.7, 1.5])
def test_a_flat_history_is_hardly_ever_called_a_change(sd):
    """At most 5 % of flat twelve weeks, looked at weekly, may be called a real change."""
    false = sum(looked_at_weekly(0.0, sd, seed) for seed in range(400))
    assert false <= 0.05 * 400
