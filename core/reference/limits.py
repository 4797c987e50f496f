"""How small and how large a number of the record may be, in one place: forms say it, the database checks it again.

What a program may hold stands in `core/program/limits.py`.
"""

from collections.abc import Mapping
from dataclasses import dataclass

from core.reference.values import A4_HIGHEST, A4_LOWEST


@dataclass(frozen=True, slots=True)
class Limit:
    """Lowest and highest, both allowed, with their unit."""

    low: float
    high: float
    unit: str


CLINIC: Mapping[str, Limit] = {
    "a4_hz": Limit(A4_LOWEST.number, A4_HIGHEST.number, "Hz"),
    "short_phonation_s": Limit(1, 60, "s"),
    "sz_ratio_flag": Limit(1, 5, ""),
    "session_minutes": Limit(1, 60, "minutes"),
    "week_minutes": Limit(5, 1000, "minutes"),
    "hoarse_weeks": Limit(0.5, 8, "weeks"),
    "examination_days": Limit(14, 366, "days"),
    "retention_years": Limit(1, 100, "years"),
    "link_months": Limit(1, 36, "months"),
}
"""Numbers a clinic sets for itself."""

BASELINE: Mapping[str, Limit] = {
    "vital_capacity_ml": Limit(300, 9000, "mL"),
    "height_cm": Limit(80, 230, "cm"),
    "seconds": Limit(0.1, 120, "s"),
}
"""Numbers measured or typed at a baseline."""
