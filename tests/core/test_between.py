"""Changes between two baselines, against the spread of their tries; worked out by hand."""

import pytest

from core.errors import PlanError
from core.grading.baseline_change import BaselineFigure, baseline_changes, of_tries, ratio_of


def phonation(*tries):
    return of_tries("phonation", tries)


def compared(first, latest):
    (one,) = baseline_changes([first], [latest])
    return one


def test_the_cooks_gain_is_not_yet_beyond_the_spread_of_her_tries():
    # 9.4, 8.8, 8.1: mean 8.767, SD 0.651; 1.96 · √2 · 0.651 = 1.80 s
    one = compared(phonation(9.4, 8.8, 8.1), phonation(10.8))
    assert one.by == pytest.approx(1.4)
    assert one.smallest == pytest.approx(1.804, abs=2e-3)
    assert (one.real, one.why) == (False, None)


def test_a_gain_beyond_the_spread_is_real_and_so_is_a_loss():
    # 9, 8, 7: SD 1, smallest 2.77 s
    assert compared(phonation(9.0, 8.0, 7.0), phonation(11.8)).real
    assert not compared(phonation(9.0, 8.0, 7.0), phonation(11.7)).real
    assert compared(phonation(9.0, 8.0, 7.0), phonation(6.2)).real
    assert not compared(phonation(9.0, 8.0, 7.0), phonation(6.3)).real


def test_the_spread_is_that_of_the_tries_of_both():
    # variances 1 (2 beyond the first) and 0.5 (1 beyond): (2·1 + 1·0.5)/3 = 0.8333, SD 0.9129; · 2.772 = 2.53
    one = compared(phonation(9.0, 8.0, 7.0), phonation(12.0, 11.0))
    assert one.smallest == pytest.approx(2.530, abs=2e-3)
    assert one.real


def test_two_tries_of_each_tell_a_spread_and_fewer_do_not():
    two = compared(phonation(9.0, 8.0), phonation(12.0, 11.0))
    assert two.smallest == pytest.approx(2.772 * 0.5**0.5, abs=2e-3)
    few = compared(phonation(9.0, 8.0), phonation(12.0))
    assert (few.by, few.smallest, few.real, few.why.code) == (3.0, None, None, "few_tries")


def test_tries_that_are_all_alike_make_no_change_real():
    one = compared(phonation(9.0, 9.0, 9.0), phonation(9.1, 9.1))
    assert (one.real, one.why.code) == (None, "tries_alike")


def test_a_ratio_has_the_spread_its_parts_give_it():
    # s 17.6 and 16.4: SD 0.8485, relative 0.04821; z 11 and 10: SD 0.7071, relative 0.06428;
    # together √(0.04821² + 0.06428²) = 0.08035, of 1.6: 0.12856; smallest 2.772 · 0.12856 = 0.3564
    parts = [of_tries("s", [17.6, 16.4]), of_tries("z", [11.0, 10.0])]
    first = ratio_of("sz", 1.6, parts)
    one = compared(first, ratio_of("sz", 1.3, parts))
    assert one.smallest == pytest.approx(0.3564 * ((1 + (1.3 / 1.6) ** 2) / 2) ** 0.5, abs=1e-3)
    assert one.real is False
    alone = ratio_of("sz", 1.6, [parts[0], of_tries("z", [11.0])])
    assert compared(alone, alone).why.code == "few_tries"


def test_levels_of_two_devices_do_not_compare():
    home = of_tries("talk", [-30.0, -31.0, -29.0], device="laptop")
    clinic = of_tries("talk", [-20.0, -21.0, -19.0], device="interface")
    one = compared(home, clinic)
    assert (one.real, one.smallest, one.why.code) == (None, None, "other_device")


def test_only_what_both_have_is_compared_in_the_order_of_the_first():
    strain = BaselineFigure(code="strain", value=3.0)
    found = baseline_changes([phonation(9.0), strain], [strain, of_tries("s", [12.0])])
    assert [one.code for one in found] == ["strain"]
    assert found[0].why.code == "few_tries"
    with pytest.raises(PlanError, match="attempts_missing"):
        of_tries("s", [])
