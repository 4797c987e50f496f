"""The arithmetic around a baseline: ratio, quotient, airflow goal, vital capacity."""

from enum import StrEnum

from core.errors import PlanError
from core.reference.values import AIRFLOW_GOAL


class LungSex(StrEnum):
    """Sex at birth, asked for the lungs only and kept apart from the voice group."""

    FEMALE = "female"
    MALE = "male"


def sz_ratio(longest_s_s: float, longest_z_s: float) -> float:
    """Longest /s/ ÷ longest /z/, both in seconds and above 0. J Speech Hear Disord 1981;46:147–149."""
    if not (longest_s_s > 0 and longest_z_s > 0):
        raise PlanError("seconds_not_positive", s=longest_s_s, z=longest_z_s)
    return longest_s_s / longest_z_s


def vital_capacity_ml(sex: LungSex, age_years: int, height_cm: float) -> float:
    """Estimated vital capacity in mL; 10–15 % below newer equations. Medicine 1948;27:243–278.

    Adults only: PlanError("capacity_not_for_minors") under 18, PlanError("height_out_of_limits")
    outside 120–220 cm.
    """
    if age_years < 18:
        raise PlanError("capacity_not_for_minors", age=age_years)
    if not 120 <= height_cm <= 220:
        raise PlanError("height_out_of_limits", height_cm=height_cm, low=120, high=220)
    if sex is LungSex.MALE:
        return (27.63 - 0.112 * age_years) * height_cm
    return (21.78 - 0.101 * age_years) * height_cm


def phonation_quotient_ml_per_s(capacity_ml: float, phonation_s: float) -> float:
    """Vital capacity ÷ maximum phonation time, mL/s. Clinical Examination of Voice, Springer 1981."""
    if not (capacity_ml > 0 and phonation_s > 0):
        raise PlanError("seconds_not_positive", capacity_ml=capacity_ml, phonation_s=phonation_s)
    return capacity_ml / phonation_s


def airflow_goal_s(volume_ml: float) -> float:
    """Seconds a volume (mL) lasts at 80 mL/s. J Voice 1994;8:271–278. Vital capacity overshoots."""
    if not volume_ml > 0:
        raise PlanError("seconds_not_positive", volume_ml=volume_ml)
    return volume_ml / AIRFLOW_GOAL.number
