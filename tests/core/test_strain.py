"""Throat strain: its usual, its rises, what climbs no more, when to call."""

from datetime import date, timedelta

import pytest

from core.grading.strain import StrainSaid, strain_view

TODAY = date(2026, 6, 15)


def said(*values, step="power", family="D", every=1):
    """Strain on the last days, the newest last, today."""
    days = range(len(values) - 1, -1, -1)
    return [
        StrainSaid(day=TODAY - timedelta(days=d * every), value=v, step_id=step, family=family)
        for d, v in zip(days, values, strict=True)
    ]


def view(answers, **more):
    return strain_view(answers, **{"today": TODAY, "baseline": 2.0} | more)


def test_strain_two_over_its_usual_on_two_days_eases_the_step_it_came_with_once():
    calm = said(1, 1, 1, 1, 1, 1, 1, 1)
    rise = said(3, 3, step="glide")
    found = view([*calm, *rise])
    assert found.usual == 1.0
    assert found.eased == ("glide",)
    assert [one.code for one in found.against] == ["strain_up"]
    # one day is not two
    assert view([*calm, *rise[1:]]).eased == ()
    # one rise eases once: the clinician changed the program today
    answered = view([*calm, *rise], answered_on=TODAY)
    assert answered.eased == ()
    assert [one.code for one in answered.against] == ["strain_was_up"]
    back = view([*calm, *rise], answered_on=TODAY, sessions_since=[1, 1, 1, 1, 1.0])
    assert not back.against
    for not_yet in ([1, 1, 1, 1], [1, 1, 2, 1, 1], [1, 1, None, 1, 1]):
        assert view([*calm, *rise], answered_on=TODAY, sessions_since=not_yet).against


def test_under_five_answers_the_usual_is_the_baselines():
    assert view(said(4, 4, 4, 4)).usual == 2.0
    assert view(said(4, 4, 4, 4)).eased == ("power",)
    # a rise that lasts does not become its own usual
    assert view(said(*[4] * 30)).usual == 2.0
    assert view(said(*[2] * 9, *[4] * 30)).eased == ("power",)
    # an answer of fifteen days ago does not count
    assert view(said(0, 4, 4, 4, 4, every=4)).usual == 2.0


@pytest.mark.parametrize(
    ("latest", "baseline", "stays"),
    [
        (3, 3.0, False),
        (4, 4.0, True),
        (3, 2.0, False),
        (4, 2.0, True),
        (3, 1.0, True),
        (2, 1.0, False),
    ],
)
def test_nothing_voiced_climbs_at_strain_of_four_or_over_the_baseline_and_one(
    latest, baseline, stays
):
    calm = [latest] * 6
    assert bool(view(said(*calm), baseline=baseline).against) is stays


def test_strain_of_five_asks_for_contact():
    assert not view(said(1, 1, 1, 1, 5)).contact
    assert view(said(1, 1, 1, 5, 5)).contact
    for family in ("C", "E"):
        assert view(said(1, 1, 1, 1, 5, family=family)).contact
