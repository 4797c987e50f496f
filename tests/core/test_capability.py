"""What a baseline says of lungs and folds: by hand from the worked case (woman, 52, 165 cm)."""

import pytest

from core.fitting.baseline_arithmetic import LungSex
from core.fitting.capability import Thresholds, capacity_of, flags_of
from core.fitting.known import Limits
from core.proposing.report import proposal_data
from tests.core.fitted import propose_for, request

COOK = {"age_years": 52, "phonation_s": 9.4, "s_s": 17.6, "z_s": 11.0}


def flags(thresholds=None, **changes):
    found = flags_of(**COOK | changes, thresholds=thresholds or Thresholds())
    return {flag.code: dict(flag.params) for flag in found}


def test_the_estimate_is_for_adults_of_a_height_the_equation_knows():
    # (21.78 − 0.101 · 52) · 165 = 2727 mL
    lungs = {"age_years": 52, "height_cm": 165.0, "sex": LungSex.FEMALE}
    assert capacity_of(**lungs).ml == pytest.approx(2727, abs=1)
    assert capacity_of(**lungs).estimated
    assert capacity_of(**lungs).source.code == "capacity_estimated"
    # (27.63 − 0.112 · 52) · 165 = 3598 mL; 120 and 220 cm are known to the equation, 18 years too
    assert capacity_of(**lungs | {"sex": LungSex.MALE}).ml == pytest.approx(3598, abs=1)
    for known in ({"height_cm": 120.0}, {"height_cm": 220.0}, {"age_years": 18}):
        assert capacity_of(**lungs | known) is not None
    assert capacity_of(**lungs | {"age_years": 17}) is None
    assert capacity_of(**lungs | {"height_cm": 119.0}) is None
    assert capacity_of(**lungs | {"height_cm": 221.0}) is None
    assert capacity_of(**lungs | {"sex": None}) is None
    assert capacity_of(age_years=52, height_cm=None, sex=LungSex.MALE) is None


def test_what_was_measured_comes_before_what_is_estimated():
    lungs = {"age_years": 52, "height_cm": 165.0, "sex": LungSex.FEMALE}
    measured = capacity_of(**lungs, measured_ml=3100.0)
    assert (measured.ml, measured.estimated) == (3100.0, False)
    assert measured.source.code == "capacity_measured"
    phonated = capacity_of(**lungs, measured_ml=3100.0, phonated_volume_ml=1900.0)
    assert (phonated.ml, phonated.estimated) == (1900.0, False)
    assert phonated.source.code == "volume_phonated"


def test_the_worked_case_is_flagged_twice():
    assert set(flags()) == {"short_phonation", "sz_ratio"}
    short, high = flags()["short_phonation"], flags()["sz_ratio"]
    assert (short["seconds"], short["limit_s"]) == (9.4, 10)
    assert (high["ratio"], high["limit"]) == (pytest.approx(1.6), 1.4)
    assert short["source"]
    assert high["source"]


@pytest.mark.parametrize(
    ("changes", "codes"),
    [
        ({"phonation_s": 10.0}, {"sz_ratio"}),
        ({"age_years": 12}, {"sz_ratio"}),
        ({"phonation_s": None}, {"sz_ratio"}),
        ({"z_s": 13.0}, {"short_phonation"}),
        ({"z_s": None}, {"short_phonation"}),
        ({"s_s": 4.9, "z_s": 3.0}, {"short_phonation", "sz_short"}),
        ({"s_s": 9.9, "z_s": 7.0}, {"short_phonation", "sz_short"}),
        ({"s_s": 10.0, "z_s": 7.0}, {"short_phonation", "sz_ratio"}),
        ({"s_s": None}, {"short_phonation"}),
        ({"age_years": 17}, {"sz_ratio"}),
        ({"age_years": 18}, {"short_phonation", "sz_ratio"}),
        # 15.4 ÷ 11.0 = 1.40
        ({"s_s": 15.4}, {"short_phonation", "sz_ratio"}),
    ],
)
def test_a_flag_needs_its_value_beyond_its_threshold(changes, codes):
    assert set(flags(**changes)) == codes


def test_a_clinic_s_own_thresholds_count_on_the_page_and_in_a_proposal():
    calm = Thresholds(short_phonation_s=8.0, sz_ratio=1.7)
    assert flags(calm) == {}
    wanted = request("sustained")
    notices = proposal_data(propose_for(wanted), wanted)["notices"]
    assert {"sz_ratio", "short_phonation"} <= {one["code"] for one in notices}
    own = request("sustained", limits=Limits(short_phonation_s=8.0, sz_ratio=1.7))
    notices = proposal_data(propose_for(own), own)["notices"]
    assert not {"sz_ratio", "short_phonation"} & {one["code"] for one in notices}
