"""The limits of numbers in the record, defined once for types, forms, database constraints and JSON schemas.

Limits of program numbers are in `core/program/limits.py`.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from pydantic import Field

from core.errors import PlanError
from core.reference.values import A4_HIGHEST, A4_LOWEST


@dataclass(frozen=True, slots=True)
class Limit:
    """Lowest and highest, both allowed, with their unit."""

    low: float
    high: float
    unit: str

    @property
    def field(self) -> Any:
        """Annotation for a field. Reading a file with a number outside the limits fails, and the schema states them."""
        return Field(ge=self.low, le=self.high)

    @property
    def told(self) -> Any:
        """Annotation for a field that is checked elsewhere: states the limits in the schema only."""
        return Field(json_schema_extra={"minimum": self.low, "maximum": self.high})

    def holds(self, came: float) -> bool:
        """Whether a number is finite and within the limits."""
        return math.isfinite(came) and self.low <= came <= self.high

    def check(self, which: str, came: float, *, code: str = "target_out_of_limits") -> float:
        """The number if it is within the limits, else PlanError(code, which, came, low, high)."""
        if not self.holds(came):
            raise PlanError(code, which=which, came=came, low=self.low, high=self.high)
        return came


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
    "phonated_volume_ml": Limit(300, 9000, "mL"),
    "strong_over_db": Limit(-10, 40, "dB"),
    "reading_wpm": Limit(20, 400, "words/min"),
    "throat_strain": Limit(0, 10, "of 10"),
    "pitch_sd_semitones": Limit(0, 12, "semitones"),
}
"""Numbers measured or typed at a baseline."""

CLIENT: Mapping[str, Limit] = {
    "minutes_a_session": CLINIC["session_minutes"],
    "minutes_a_week": CLINIC["week_minutes"],
    "sessions_a_day": Limit(1, 6, "home sessions"),
    "short_phonation_s": Limit(0.01, 1000, "s"),
    "sz_ratio": Limit(0.01, 1000, ""),
}
"""Limits that clinic and client set for a proposal."""
