"""What a client wants chooses the schools, ranked by what the baseline shows."""

import pytest

from core.errors import PlanError
from core.fitting.known import Limits, TrialOutcome
from core.proposing.aims import BaselineSign, Want, shown_by, spoken_for, table, table_in
from core.proposing.which_schools import chosen_for
from core.safety.condition import Condition
from tests.core.fitted import baseline, propose_for, request, said, screened

NONE = frozenset()
SLOWED = frozenset({Condition.SLOWED_MOVEMENT})


def keys(found):
    return [one.school.key for one in found[0]]


def wanting(*wants, **changes):
    return request(wants=wants, **changes)


def test_every_want_leads_somewhere_and_says_so_in_plain_words():
    for leads in table().wants.values():
        assert leads.schools
        assert 2 <= len(leads.words.split()) <= 9


@pytest.mark.parametrize(
    ("want", "first"),
    [
        (Want.CARRIES, "resonance"),
        (Want.LASTS, "semi_reset"),
        (Want.LESS_EFFORT, "semi_shallow"),
        (Want.LOUDER, "semi_to_speech"),
        (Want.STEADIER, "sustained"),
        (Want.RANGE, "range_full"),
        (Want.SPEAKING_RANGE, "range_speaking"),
        (Want.PITCH, "speaking_pitch"),
        (Want.IDENTITY, "gender_affirming"),
        (Want.CLEARER, "articulation"),
        (Want.BEFORE_EVENT, "warm_up"),
        (Want.EVERYDAY, "carry_over"),
        (Want.BREATH, "breath_counts"),
    ],
)
def test_a_want_alone_leads_to_its_own_school_first(want, first):
    calm = request(wants=(want,), known={"phonation_s": (25.0,), "z_s": (17.6,), "highest": "G5"})
    assert keys(chosen_for(calm, NONE))[0] == first


def test_the_worked_case_shows_a_short_phonation_a_high_ratio_and_an_octave():
    # "ah" 9.4 s is under 10, 17.6 over 11.0 is 1.6; G3 to G4 is an octave, no less
    assert shown_by(baseline(), Limits()) == [BaselineSign.SHORT_PHONATION, BaselineSign.HIGH_SZ]
    assert shown_by(baseline(highest="F♯4", throat_strain=5), Limits()) == list(BaselineSign)
    # a clinic's own thresholds count
    own = Limits(short_phonation_s=9.0, sz_ratio=1.7)
    assert shown_by(baseline(), own) == []


def test_what_the_baseline_shows_ranks_what_is_wanted_and_brings_nothing_by_itself():
    # lasting the day: reset 3, held notes 2, tired voice 1; a short "ah" and s/z 1.6 add 2 and 2
    plain = spoken_for([Want.LASTS], [])
    assert {key: one.points for key, one in plain.items()} == {
        "semi_reset": 3,
        "sustained": 2,
        "semi_fatigue": 1,
    }
    shown = spoken_for([Want.LASTS], [BaselineSign.SHORT_PHONATION, BaselineSign.HIGH_SZ])
    assert shown["sustained"].points == 6
    assert "semi_deep" not in shown
    assert keys(chosen_for(wanting(Want.LASTS), NONE))[0] == "sustained"
    assert said(shown["sustained"].because, "shows_short_phonation")


def test_of_as_many_points_the_school_a_want_leads_to_first_comes_first():
    # puffs and pairs: 1 for carrying + 2 for louder = 3, as the reset, the three vowels, the warm-up
    wants = (Want.LASTS, Want.LOUDER, Want.CARRIES, Want.BEFORE_EVENT)
    calm = {"phonation_s": (25.0,), "z_s": (17.6,)}
    found = keys(chosen_for(wanting(*wants, known=calm), SLOWED))
    assert set(found) == {"semi_reset", "loudness_vowels", "warm_up"}


def test_rivals_never_come_together_and_the_other_is_said():
    found = chosen_for(wanting(Want.LOUDER, Want.CARRIES, Want.CLEARER), SLOWED)
    loud = [key for key in keys(found) if key.startswith("loudness")]
    assert len(loud) == 1
    out = {one.school: one.why for one in found[1]}
    (other,) = {"loudness_vowels", "loudness_longest"} - set(loud)
    assert out[other].params["rival"] == "how long a strong hold is"


def test_no_more_than_three_come_and_the_rest_is_said():
    found = chosen_for(wanting(*Want), NONE)
    assert len(found[0]) == 3
    assert said((one.why for one in found[1]), "others_lead_there").params["others"] == 3


def test_what_asks_for_a_written_reason_does_not_come_by_itself():
    found = chosen_for(wanting(Want.LOUDER), SLOWED | {Condition.ATAXIA})
    assert not any(key.startswith("loudness") for key in keys(found))
    assert said((one.why for one in found[1]), "asks_a_written_reason")
    ill = screened(wanting(Want.LOUDER), conditions=SLOWED | {Condition.ATAXIA})
    assert not any(one.school.startswith("loudness") for one in propose_for(ill).program.schools)


def test_a_try_that_went_well_speaks_for_its_school():
    calm = {"phonation_s": (25.0,), "z_s": (17.6,)}
    tried = {"hum": TrialOutcome.BETTER, "straw_air": TrialOutcome.BETTER}
    found = chosen_for(wanting(Want.LASTS, tried=tried, known=calm), NONE)
    assert keys(found)[0] == "semi_fatigue"  # 1 + 2 + 2
    better = [one.params for one in found[0][0].because if one.code == "better_when_tried"]
    assert {"task": "Hum"} in better


def test_a_proposal_says_why_each_school_came_and_what_was_left_out():
    program = propose_for(wanting(Want.STEADIER)).program
    chosen = [one for one in program.reasons if one.code == "school_chosen"]
    (ladder,) = [one for one in chosen if one.params["school"] == "Sustained-note ladder"]
    assert said([ladder], "wants_steadier")
    many = propose_for(wanting(*Want)).program
    assert said(many.left_out, "others_lead_there")


@pytest.mark.parametrize(
    ("was", "now", "why"),
    [
        ("[wants.lasts]", "[wants.nap]", "wants"),
        ('"semi_reset", ', '"siesta", ', "siesta"),
        ("[wants.carries]", "wants.carries = 3\n[wants.x]", "wants"),
        ('words = "The voice carries"', "colour = 3", "colour"),
        ("[shows.strain]", "[shows", "line"),
    ],
)
def test_a_table_that_does_not_hold_fails_with_its_reason(was, now, why):
    from core.proposing import aims

    text = aims._TABLE.read_text(encoding="utf-8")
    assert was in text
    with pytest.raises(PlanError) as broken:
        table_in(text.replace(was, now, 1))
    assert broken.value.code == "aims_broken"
    assert why in broken.value.params["reason"]
