"""What pages read of a client: screening as the core sees it, the baseline with its figures."""

from dataclasses import dataclass
from datetime import date
from functools import cached_property

from core.catalogue.touches import Touch
from core.errors import PlanError
from core.notes.note import Note
from core.notes.range import VoiceGroup
from core.plans.figures import (
    LungSex,
    airflow_goal_s,
    phonation_quotient_ml_per_s,
    sz_ratio,
    vital_capacity_ml,
)
from core.plans.pitches import PitchSchool, fit_pitches
from core.reference import values
from core.safety.condition import Condition
from core.safety.conditions import allows, conditions_of
from core.safety.gate import RedFlag, Screening
from web.clients.models import Baseline, BaselineAttempt, Client, Measure, StoredScreening

PROBES = (Measure.PROBE_LOW, Measure.PROBE_MIDDLE, Measure.PROBE_TOP)


def latest_screening(client: Client) -> StoredScreening | None:
    return StoredScreening.objects.filter(client=client).order_by("-at").first()


def as_screening(row: StoredScreening | None, client: Client, today: date) -> Screening | None:
    """The stored answers as the core's rules read them."""
    if row is None:
        return None
    return Screening(
        asked_on=row.asked_on,
        larynx_examined_on=row.larynx_examined_on,
        red_flags=frozenset(RedFlag(flag) for flag in row.red_flags),
        cleared_from=row.cleared_from,
        voice_rest_until=row.voice_rest_until,
        hoarse_weeks=row.hoarse_weeks,
        minor=client.age_on(today) < 18,
        guardian_consent=row.guardian_consent,
        conditions=frozenset(Condition(name) for name in row.conditions),
    )


def may_touch(client: Client, touch: Touch) -> bool:
    """Whether the latest screening leaves a client this; no screening forbids what water needs."""
    row = latest_screening(client)
    if row is None:
        return False
    flags = frozenset(RedFlag(flag) for flag in row.red_flags)
    return allows(conditions_of(map(Condition, row.conditions), flags), touch)


def latest_baseline(client: Client) -> Baseline | None:
    return (
        Baseline.objects.filter(client=client)
        .exclude(recorded_at=None)
        .order_by("-recorded_at")
        .first()
    )


def probe_notes(baseline: Baseline) -> dict[str, Note]:
    """Bottom, middle and top note of the proposed set; empty while the range is missing."""
    comfort = baseline.comfort
    if comfort is None:
        return {}
    try:
        notes = fit_pitches(
            comfort, VoiceGroup(baseline.client.voice_group), PitchSchool.SHIFTED
        ).notes
    except PlanError:
        return {}
    return dict(zip(PROBES, (notes[0], notes[len(notes) // 2], notes[-1]), strict=True))


@dataclass(frozen=True)
class BaselineView:
    """A baseline with its attempts and everything computed from them."""

    baseline: Baseline
    attempts: tuple[BaselineAttempt, ...]
    age: int

    @classmethod
    def of(cls, baseline: Baseline, age: int) -> "BaselineView":
        rows = (
            BaselineAttempt.objects.filter(baseline=baseline)
            .select_related("struck_out", "measurement")
            .order_by("at")
        )
        return cls(baseline, tuple(rows), age)

    def counted_s(self, measure: str) -> list[float]:
        """Seconds of the attempts that count."""
        return [
            row.seconds
            for row in self.attempts
            if row.measure == measure and row.seconds and not hasattr(row, "struck_out")
        ]

    def best_s(self, measure: str) -> float | None:
        return max(self.counted_s(measure), default=None)

    @cached_property
    def phonation_s(self) -> float | None:
        """Maximum phonation time: the best of the counted attempts, s."""
        return self.best_s(Measure.PHONATION)

    @cached_property
    def probe_bests_s(self) -> tuple[float, ...]:
        return tuple(best for probe in PROBES if (best := self.best_s(probe)) is not None)

    @cached_property
    def probe_level_db(self) -> float | None:
        """Loudest mean level among the measured probes, dBFS; None when none was measured."""
        levels = [
            row.measurement.level_mean_db
            for row in self.attempts
            if row.measure in PROBES
            and row.measurement
            and row.measurement.level_mean_db is not None
            and not hasattr(row, "struck_out")
        ]
        return max(levels, default=None)

    @cached_property
    def sz_ratio(self) -> float | None:
        s, z = self.best_s(Measure.S), self.best_s(Measure.Z)
        return sz_ratio(s, z) if s and z else None

    @cached_property
    def capacity_ml(self) -> tuple[float, bool] | None:
        """Vital capacity in mL and whether it is only estimated."""
        row = self.baseline
        if row.vital_capacity_ml:
            return row.vital_capacity_ml, False
        if not (row.height_cm and row.lung_sex) or self.age < 18:
            return None
        try:
            return vital_capacity_ml(LungSex(row.lung_sex), self.age, row.height_cm), True
        except PlanError:
            return None

    @cached_property
    def quotient_ml_per_s(self) -> float | None:
        best = self.best_s(Measure.PHONATION)
        if self.capacity_ml is None or not best:
            return None
        return phonation_quotient_ml_per_s(self.capacity_ml[0], best)

    @cached_property
    def airflow_goal_s(self) -> float | None:
        return airflow_goal_s(self.capacity_ml[0]) if self.capacity_ml else None

    def flags(self, clinic) -> list[tuple[str, str]]:
        """Code and sentence of every value beyond its threshold, with the threshold used."""
        found = []
        best = self.best_s(Measure.PHONATION)
        if best is not None and self.age >= 18 and best < clinic.short_phonation_s:
            found.append(
                (
                    "short_phonation",
                    f"{best:.1f} s is under {clinic.short_phonation_s:g} s "
                    f"({values.SHORT_PHONATION.source})",
                )
            )
        s = self.best_s(Measure.S)
        if self.sz_ratio is not None and self.sz_ratio >= clinic.sz_ratio_flag:
            if s is not None and s < values.SHORT_S.number:
                found.append(("sz_short", "s/z is high, but both are short: it says nothing."))
            else:
                found.append(
                    (
                        "sz_ratio",
                        f"{self.sz_ratio:.2f} is {clinic.sz_ratio_flag:g} or more: the folds may "
                        f"not close well ({values.SZ_RATIO_FLAG.source})",
                    )
                )
        return found
