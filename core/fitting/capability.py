"""What a baseline says of a client's lungs and folds: capacity, quotient, flags; the only copy."""

from dataclasses import dataclass

from core.fitting.baseline_arithmetic import LungSex, sz_ratio, vital_capacity_ml
from core.reason import Reason, says
from core.reference.values import SHORT_PHONATION, SHORT_S, SZ_RATIO_FLAG

_PHONATED = says("volume_phonated", "phonated volume")
_MEASURED = says("capacity_measured", "measured vital capacity (overshoots)")
_ESTIMATED = says("capacity_estimated", "estimated vital capacity (overshoots)")
_SHORT = says("short_phonation", "“Ah” {seconds:.1f} s is under {limit_s:g} s ({source}).")
_SZ_SHORT = says("sz_short", "s/z is high, but both are short: it says nothing.")
_SZ_HIGH = says(
    "sz_ratio", "s/z {ratio:.2f} is {limit:g} or more: the folds may not close well ({source})."
)

ADULT_FROM_AGE = 18
_EQUATION_CM = (120.0, 220.0)


@dataclass(frozen=True, slots=True)
class Capacity:
    """Air in mL, where it is from, and whether it is only estimated."""

    ml: float
    source: Reason
    estimated: bool = False


def capacity_of(
    *,
    age_years: int,
    phonated_volume_ml: float | None = None,
    measured_ml: float | None = None,
    height_cm: float | None = None,
    sex: LungSex | None = None,
) -> Capacity | None:
    """The volume of air of a client: phonated, measured, or estimated for adults of 120–220 cm;
    None where it cannot be told."""
    if phonated_volume_ml is not None:
        return Capacity(phonated_volume_ml, _PHONATED())
    if measured_ml is not None:
        return Capacity(measured_ml, _MEASURED())
    low_cm, high_cm = _EQUATION_CM
    if height_cm is None or sex is None or age_years < ADULT_FROM_AGE:
        return None
    if not low_cm <= height_cm <= high_cm:
        return None
    estimated_ml = vital_capacity_ml(sex, age_years, height_cm)
    return Capacity(estimated_ml, _ESTIMATED(), estimated=True)


@dataclass(frozen=True, slots=True, kw_only=True)
class Thresholds:
    """From where a clinic flags: phonation times under so many s, s/z ratios from so much."""

    short_phonation_s: float = SHORT_PHONATION.number
    sz_ratio: float = SZ_RATIO_FLAG.number


def flags_of(
    *,
    age_years: int,
    phonation_s: float | None,
    s_s: float | None,
    z_s: float | None,
    thresholds: Thresholds,
) -> tuple[Reason, ...]:
    """Of the best tries, s: short_phonation (adults), sz_ratio, or sz_short where both are short."""
    found = []
    limit_s = thresholds.short_phonation_s
    if phonation_s is not None and age_years >= ADULT_FROM_AGE and phonation_s < limit_s:
        found.append(_SHORT(seconds=phonation_s, limit_s=limit_s, source=SHORT_PHONATION.source))
    ratio = sz_ratio(s_s, z_s) if s_s and z_s else None
    if s_s is None or ratio is None or ratio < thresholds.sz_ratio:
        return tuple(found)
    if s_s < SHORT_S.number:
        return (*found, _SZ_SHORT())
    high = _SZ_HIGH(ratio=ratio, limit=thresholds.sz_ratio, source=SZ_RATIO_FLAG.source)
    return (*found, high)
