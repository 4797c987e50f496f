"""The table of schools: what does not hold fails at load."""

import pytest

from core.errors import PlanError
from core.fitting.schools import schools_in

GOOD = """
[one]
name = "One"
phase = "breath"
routine = "breath"
aims = ["breath"]
words = "w"
suits = "s"
doses.ordinary = { sessions_a_day = 1, days_a_week = 7, weeks = 6, words = "once" }
steps = [{ task = "hiss", fit = "hiss", rest_s = 5, essential = true, because = "b" }]
"""


@pytest.mark.parametrize(
    ("was", "now", "why"),
    [
        ('"hiss", fit', '"hush", fit', "not in the catalogue"),
        ('fit = "hiss"', 'fit = "guess"', "is no fitter"),
        ("essential = true, ", "", "no step is essential"),
        ('phase = "breath"', 'phase = "dessert"', "dessert"),
        ("weeks = 6", "weeks = 6, moons = 2", "moons"),
        ("weeks = 6", "weeks = 60", "less than or equal to 26"),
        ("sessions_a_day = 1", "sessions_a_day = 40", "less than or equal to 6"),
        ("rest_s = 5", "rest_s = inf", "finite"),
        ("rest_s = 5, ", "", "rest_s"),
        ('words = "once"', 'when = "at noon", words = "once"', "when"),
        ('routine = "breath"', 'routine = "nap"', "routine"),
        ('suits = "s"', 'suits = "s"\ncolour = "green"', "colour"),
        ('because = "b" }]', 'because = "b", when = { x = ["y"] } }]', "no such choice"),
        ("[one]", "[one", "Expected"),
    ],
)
def test_a_broken_school_fails_at_load_with_key_and_reason(was, now, why):
    assert schools_in(GOOD)
    with pytest.raises(PlanError) as broken:
        schools_in(GOOD.replace(was, now))
    assert broken.value.code == "school_broken"
    assert why in broken.value.params["reason"]
